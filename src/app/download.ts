/** Hands a text to the browser as a file to be saved. */
export function download(name: string, text: string, type: string): void {
  const url = URL.createObjectURL(new Blob([text], { type }))
  const link = document.createElement('a')
  link.href = url
  link.download = name
  link.click()
  setTimeout(() => URL.revokeObjectURL(url), 10_000)
}

/** A file name out of free text: what file systems refuse is left out. */
export const fileNameOf = (...parts: string[]): string =>
  parts
    .filter(Boolean)
    .map((part) => part.replace(/[^\p{L}\p{N}._-]+/gu, '-').replace(/^-+|-+$/g, ''))
    .join('_') || 'project'

/** Hands a project to the browser as its project file. */
export const downloadProject = (name: string, text: string): void =>
  download(`${fileNameOf(name)}.yard-tally.json`, text, 'application/json')
