/** Files in the browser's own storage, a folder for each project: those that are not whole bear another ending. */

const unfinished = '.unfinished'

/** A file that lies here. */
export interface KeptFile {
  readonly name: string
  readonly file: File
}

/** A worker that was ended, or whose page went, lets go of its file a little later: so often, and so long, it is waited for, in milliseconds. */
const [tries, between] = [30, 100]

/** Takes an entry away, once nobody holds it any more. @returns false where it is held on: by another tab */
async function taken(folder: FileSystemDirectoryHandle, name: string): Promise<boolean> {
  for (let i = 0; i < tries; i++) {
    const held = await folder.removeEntry(name).then(
      () => false,
      (error: unknown) => error instanceof DOMException && error.name === 'NoModificationAllowedError',
    )
    if (!held) return true
    await new Promise((later) => setTimeout(later, between))
  }
  return false
}

function keptFiles(room: string) {
  const folderOf = async (projectId: string, create: boolean): Promise<FileSystemDirectoryHandle> => {
    const root = await navigator.storage.getDirectory()
    return (await root.getDirectoryHandle(room, { create })).getDirectoryHandle(projectId, { create })
  }
  return {
    /** A file that is being made. @throws DOMException where the browser keeps no files, or has no room */
    begin: async (projectId: string, name: string): Promise<FileSystemFileHandle> =>
      (await folderOf(projectId, true)).getFileHandle(`${name}${unfinished}`, { create: true }),

    /** A file is whole: it takes its name, and the place of an older one. @returns it */
    async finish(projectId: string, name: string): Promise<File> {
      const folder = await folderOf(projectId, true)
      const handle = await folder.getFileHandle(`${name}${unfinished}`)
      await folder.removeEntry(name).catch(() => {})
      // Not in every browser's types yet.
      await (handle as FileSystemFileHandle & { move(name: string): Promise<void> }).move(name)
      return (await folder.getFileHandle(name)).getFile()
    },

    /** Takes a file away that did not become whole. */
    async dropUnfinished(projectId: string, name: string): Promise<void> {
      const folder = await folderOf(projectId, false).catch(() => null)
      if (folder) await taken(folder, `${name}${unfinished}`)
    },

    /** Takes a whole file away. */
    async drop(projectId: string, name: string): Promise<void> {
      await (await folderOf(projectId, false)).removeEntry(name).catch(() => {})
    },

    /** What lies here of a project; what a crash has left unfinished is taken away and named. */
    async find(
      projectId: string,
    ): Promise<{ readonly whole: readonly KeptFile[]; readonly removed: readonly string[] }> {
      const folder = await folderOf(projectId, false).catch(() => null)
      const whole: KeptFile[] = []
      const removed: string[] = []
      if (!folder) return { whole, removed }
      for await (const [name, handle] of folder.entries()) {
        if (!('getFile' in handle)) continue
        if (!name.endsWith(unfinished)) whole.push({ name, file: await handle.getFile() })
        else if (await taken(folder, name)) removed.push(name.slice(0, -unfinished.length))
      }
      return { whole, removed }
    },

    /** Takes away all that lies here of a project. */
    async dropAll(projectId: string): Promise<void> {
      const root = await navigator.storage.getDirectory()
      const rooms = await root.getDirectoryHandle(room).catch(() => null)
      await rooms?.removeEntry(projectId, { recursive: true }).catch(() => {})
    },
  }
}

/** Files that were rendered, until they are taken out. */
export const keptRenders = keptFiles('renders')
/** Proxies of clips, by what the file holds that they stand for. */
export const keptProxies = keptFiles('proxies')
