import type { IncomingFile } from '../../../stores/media'

type WithHandle = DataTransferItem & { getAsFileSystemHandle?: () => Promise<FileSystemHandle | null> }

/**
 * The files of a drop, folders walked. Handles are kept where the browser gives them, so that files are found again.
 * The items of a drop are only there while its event runs, so everything is asked for at once.
 */
export async function filesFromDrop(transfer: DataTransfer): Promise<IncomingFile[]> {
  const items = [...transfer.items].filter((item) => item.kind === 'file')
  const asked = items.map((item) => ({
    entry: item.webkitGetAsEntry(),
    file: item.getAsFile(),
    handle: (item as WithHandle).getAsFileSystemHandle?.().catch(() => null),
  }))
  const found: IncomingFile[] = []
  for (const { entry, file, handle } of asked) {
    if (entry?.isDirectory) await walk(entry as FileSystemDirectoryEntry, found)
    else if (file) {
      const known = await handle
      found.push({
        file,
        folder: '',
        handle: known?.kind === 'file' ? (known as FileSystemFileHandle) : undefined,
      })
    }
  }
  return found.filter(({ file }) => !file.name.startsWith('.'))
}

async function walk(folder: FileSystemDirectoryEntry, found: IncomingFile[]): Promise<void> {
  const reader = folder.createReader()
  for (;;) {
    const entries = await new Promise<FileSystemEntry[]>((done, failed) => reader.readEntries(done, failed))
    if (entries.length === 0) return
    for (const entry of entries) {
      if (entry.isDirectory) await walk(entry as FileSystemDirectoryEntry, found)
      else {
        const file = await new Promise<File>((done, failed) =>
          (entry as FileSystemFileEntry).file(done, failed),
        )
        found.push({ file, folder: folder.fullPath.replace(/^\//, '') })
      }
    }
  }
}

/** The files of a picker, with the folder they were in where a folder was picked. */
export const filesFromPicker = (list: FileList): IncomingFile[] =>
  [...list]
    .filter((file) => !file.name.startsWith('.'))
    .map((file) => ({ file, folder: file.webkitRelativePath.split('/').slice(0, -1).join('/') }))
