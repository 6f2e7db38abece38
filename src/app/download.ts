import { fileNameOf } from '../core/words/file-name'

/** Hands a file to the browser to be saved: one that lies in its own storage, or is made here. */
export function saveFile(file: Blob, name: string): void {
  const url = URL.createObjectURL(file)
  const link = document.createElement('a')
  link.href = url
  link.download = name
  link.click()
  setTimeout(() => URL.revokeObjectURL(url), 60_000)
}

/** Hands a text to the browser as a file to be saved. */
export const download = (name: string, text: string, type: string): void =>
  saveFile(new Blob([text], { type }), name)

/** Hands a project to the browser as its project file. */
export const downloadProject = (name: string, text: string): void =>
  download(`${fileNameOf(name)}.yard-tally.json`, text, 'application/json')
