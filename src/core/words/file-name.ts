/** A file name out of free text: what file systems refuse is left out. */
export const fileNameOf = (...parts: string[]): string =>
  parts
    .filter(Boolean)
    .map((part) => part.replace(/[^\p{L}\p{N}._-]+/gu, '-').replace(/^-+|-+$/g, ''))
    .join('_') || 'project'
