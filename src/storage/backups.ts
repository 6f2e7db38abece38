import { database } from './database'

// Not in every browser's types yet.
type Folder = FileSystemDirectoryHandle & {
  queryPermission?: (o: { mode: 'readwrite' }) => Promise<PermissionState>
  requestPermission?: (o: { mode: 'readwrite' }) => Promise<PermissionState>
  values?: () => AsyncIterable<FileSystemHandle>
}
const id = 'backup'

/** So many backups of each project are kept in the folder; older ones make room. */
export const keptBackups = 10

/** The folder that backups go to; null where none was chosen. */
export const backupFolder = async (): Promise<FileSystemDirectoryHandle | null> =>
  (await database.folders.get(id))?.handle ?? null

/** Chooses the folder that backups go to, or none. */
export async function setBackupFolder(handle: FileSystemDirectoryHandle | null): Promise<void> {
  if (handle) await database.folders.put({ id, handle })
  else await database.folders.delete(id)
}

/** Whether the folder may be written to now. @param ask asks the editor, which only an act of theirs may do */
export async function mayWrite(handle: FileSystemDirectoryHandle, ask = false): Promise<boolean> {
  const folder = handle as Folder
  const state = (await folder.queryPermission?.({ mode: 'readwrite' })) ?? 'granted'
  if (state !== 'prompt' || !ask) return state === 'granted'
  return (await folder.requestPermission?.({ mode: 'readwrite' })) === 'granted'
}

/** Letters, digits and little else: names that every file system takes. */
const safe = (text: string) => text.replace(/[^\p{L}\p{N}_-]+/gu, '_').slice(0, 60)

/**
 * Writes a backup of a project into a folder, and lets the oldest of its backups go.
 * @param at when, as an ISO date-time: the names of backups follow each other in time
 * @returns the name of the file
 */
export async function writeBackupInto(
  handle: FileSystemDirectoryHandle,
  project: { readonly id: string; readonly name: string },
  text: string,
  at: string,
): Promise<string> {
  const folder = handle as Folder
  const ending = `_${safe(project.id)}.json`
  const name = `${safe(project.name)}_${at.slice(0, 19).replace(/[-:]/g, '').replace('T', '-')}${ending}`
  const file = await folder.getFileHandle(name, { create: true })
  const writable = await file.createWritable()
  await writable.write(text)
  await writable.close()
  const known: string[] = []
  for await (const entry of folder.values?.() ?? [])
    if (entry.kind === 'file' && entry.name.endsWith(ending)) known.push(entry.name)
  const stamp = (file: string) => /_(\d{8}-\d{6})_/.exec(file)?.[1] ?? ''
  const old = known.sort((a, b) => (stamp(a) < stamp(b) ? 1 : -1)).slice(keptBackups)
  for (const gone of old) await folder.removeEntry(gone)
  return name
}
