// Not in every browser's types yet.
const picker = (
  window as { showDirectoryPicker?: (o: { mode: 'readwrite' }) => Promise<FileSystemDirectoryHandle> }
).showDirectoryPicker

/** Whether the browser gives folders of the editor's own. */
export const givesFolders = picker !== undefined

/** A folder that the editor grants, to be written into; null where none is chosen. */
export const askForFolder = async (): Promise<FileSystemDirectoryHandle | null> =>
  (await picker?.call(window, { mode: 'readwrite' }).catch(() => null)) ?? null
