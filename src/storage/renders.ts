/** Files that were rendered, in the browser's own storage, until they are taken out: those that are not whole bear another ending. */

const unfinished = '.unfinished'

/** A file that was rendered for a project, and lies here. */
export interface RenderedFile {
  readonly name: string
  readonly file: File
}

const folderOf = async (projectId: string, create: boolean): Promise<FileSystemDirectoryHandle> => {
  const root = await navigator.storage.getDirectory()
  return (await root.getDirectoryHandle('renders', { create })).getDirectoryHandle(projectId, { create })
}

/** A file that is being made. @throws DOMException where the browser keeps no files, or has no room */
export const beginRender = async (projectId: string, name: string): Promise<FileSystemFileHandle> =>
  (await folderOf(projectId, true)).getFileHandle(`${name}${unfinished}`, { create: true })

/** A file is whole: it takes its name, and the place of an older one. @returns it */
export async function finishRender(projectId: string, name: string): Promise<File> {
  const folder = await folderOf(projectId, true)
  const made = await folder.getFileHandle(`${name}${unfinished}`)
  await folder.removeEntry(name).catch(() => {})
  // Not in every browser's types yet.
  await (made as FileSystemFileHandle & { move(name: string): Promise<void> }).move(name)
  return (await folder.getFileHandle(name)).getFile()
}

/** A worker that was ended lets go of its file a little later: so often, and so long, it is waited for, in milliseconds. */
const [tries, between] = [30, 100]

/** Takes a file away that did not become whole. */
export async function dropUnfinished(projectId: string, name: string): Promise<void> {
  const folder = await folderOf(projectId, false).catch(() => null)
  for (let i = 0; folder && i < tries; i++) {
    const held = await folder.removeEntry(`${name}${unfinished}`).then(
      () => false,
      (error: unknown) => error instanceof DOMException && error.name === 'NoModificationAllowedError',
    )
    if (!held) return
    await new Promise((later) => setTimeout(later, between))
  }
}

/** Takes a whole file away. */
export async function dropRender(projectId: string, name: string): Promise<void> {
  await (await folderOf(projectId, false)).removeEntry(name).catch(() => {})
}

/** What lies here of a project; what a crash has left unfinished is taken away and named. */
export async function findRenders(
  projectId: string,
): Promise<{ readonly whole: readonly RenderedFile[]; readonly removed: readonly string[] }> {
  const folder = await folderOf(projectId, false).catch(() => null)
  const whole: RenderedFile[] = []
  const removed: string[] = []
  if (!folder) return { whole, removed }
  for await (const [name, handle] of folder.entries()) {
    if (!('getFile' in handle)) continue
    if (!name.endsWith(unfinished))
      whole.push({ name, file: await (handle as FileSystemFileHandle).getFile() })
    else if (
      await folder.removeEntry(name).then(
        () => true,
        // Another tab is making it.
        () => false,
      )
    )
      removed.push(name.slice(0, -unfinished.length))
  }
  return { whole, removed }
}

/** Takes away all that was rendered of a project that is deleted. */
export async function dropRenders(projectId: string): Promise<void> {
  const root = await navigator.storage.getDirectory()
  await (await root.getDirectoryHandle('renders')).removeEntry(projectId, { recursive: true })
}
