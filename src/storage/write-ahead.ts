import { type AheadEntry, AheadEntrySchema } from './schema'

export const aheadLine = (entry: AheadEntry): string => `${JSON.stringify(entry)}\n`

/** The entries of a log that follow one number without a gap. A line that a crash has torn is none, and what follows it neither. */
export function entriesAfter(n: number, text: string): AheadEntry[] {
  const entries: AheadEntry[] = []
  // What stands behind the last line end is torn.
  for (const line of text.split('\n').slice(0, -1)) {
    const entry = entryIn(line)
    if (!entry) break
    if (entry.n === n + entries.length + 1) entries.push(entry)
  }
  return entries
}

/** The entry of a line; null of one that was torn, or that has another shape than ours. */
function entryIn(line: string): AheadEntry | null {
  try {
    return AheadEntrySchema.parse(JSON.parse(line))
  } catch {
    return null
  }
}

/** The folder of a project's logs. @throws DOMException where the browser keeps no files, and where there is none and none is made */
export async function aheadFolder(projectId: string, create: boolean): Promise<FileSystemDirectoryHandle> {
  const root = await navigator.storage.getDirectory()
  const logs = await root.getDirectoryHandle('write-ahead', { create })
  return logs.getDirectoryHandle(projectId, { create })
}

/** Takes away what was written ahead of a project that is deleted. */
export async function dropAhead(projectId: string): Promise<void> {
  const root = await navigator.storage.getDirectory()
  await (await root.getDirectoryHandle('write-ahead')).removeEntry(projectId, { recursive: true })
}

/** The log of a tab; null where it has none. */
export async function aheadText(folder: FileSystemDirectoryHandle, writer: string): Promise<string | null> {
  try {
    return await (await (await folder.getFileHandle(writer)).getFile()).text()
  } catch {
    return null
  }
}
