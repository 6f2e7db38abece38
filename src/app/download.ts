import { fileNameOf } from '../core/words/file-name'

/** Hands a text to the browser as a file to be saved. */
export function download(name: string, text: string, type: string): void {
  const url = URL.createObjectURL(new Blob([text], { type }))
  const link = document.createElement('a')
  link.href = url
  link.download = name
  link.click()
  setTimeout(() => URL.revokeObjectURL(url), 10_000)
}

/** Hands a project to the browser as its project file. */
export const downloadProject = (name: string, text: string): void =>
  download(`${fileNameOf(name)}.yard-tally.json`, text, 'application/json')

/** Hands a file that lies in the browser's own storage to the editor. */
export function saveFile(file: File, name: string): void {
  const url = URL.createObjectURL(file)
  const link = document.createElement('a')
  link.href = url
  link.download = name
  link.click()
  setTimeout(() => URL.revokeObjectURL(url), 60_000)
}
