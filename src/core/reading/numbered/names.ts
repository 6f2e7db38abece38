/** A file of a listing. */
export interface NamedFile {
  readonly name: string
  readonly folder: string
}

/** Files of one folder whose names differ in one number alone, in the order of that number. */
export interface NumberedRun<File extends NamedFile> {
  /** What stands before and after the number, the ending included. */
  readonly before: string
  readonly after: string
  readonly pictures: readonly { readonly file: File; readonly number: number }[]
}

/** Endings of pictures that may be numbered. */
const pictureEnding = /\.(?:dpx|exr|dng|tiff?|png|jpe?g|jpe|jp2|j2k|j2c|jpc|bmp|webp|hei[cf]|avif)$/i
/** The last digits of a name before its ending; longer ones are dates and hashes. */
const lastNumber = /^(.*?)(\d{1,9})(\D*\.[^.]+)$/s

interface NumberedName {
  readonly before: string
  readonly digits: string
  readonly after: string
}

/** The number of a picture's name, with what stands around it; null where it has none. */
export function numberOf(name: string): NumberedName | null {
  const [, before = '', digits = '', after = ''] = (pictureEnding.test(name) && lastNumber.exec(name)) || []
  return digits ? { before, digits, after } : null
}

/** Fewer pictures than this are pictures, not a clip. */
const fewestPictures = 3
/** Numbers that are missing between two stretches are a gap in one clip where they are fewer than a third of the pictures around. */
const mostMissing = 1 / 3

/**
 * The runs of numbered pictures among files: one folder, one name around the last number. A few numbers may be missing; where many
 * are, another run begins.
 */
export function numberedRuns<File extends NamedFile>(files: readonly File[]): NumberedRun<File>[] {
  const groups = new Map<
    string,
    { before: string; after: string; pictures: { file: File; number: number }[] }
  >()
  const put = (file: File, { before, digits, after }: NumberedName, width: number) => {
    const key = [file.folder, before, after, width].join('\0')
    const group = groups.get(key) ?? { before, after, pictures: [] }
    group.pictures.push({ file, number: Number(digits) })
    groups.set(key, group)
  }
  // Numbers that are filled up with noughts are of one length: 0999 and 1000 belong together, as 9 and 10 do, but not 09 and 9.
  const free: [File, NumberedName][] = []
  const filledUp = new Set<string>()
  for (const file of files) {
    const name = numberOf(file.name)
    if (!name) continue
    const { before, digits, after } = name
    if (!/^0\d/.test(digits)) free.push([file, name])
    else {
      filledUp.add([file.folder, before, after, digits.length].join('\0'))
      put(file, name, digits.length)
    }
  }
  for (const [file, name] of free) {
    const { before, digits, after } = name
    const isOfFilled = filledUp.has([file.folder, before, after, digits.length].join('\0'))
    put(file, name, isOfFilled ? digits.length : 0)
  }
  return [...groups.values()].flatMap(({ before, after, pictures }) => {
    pictures.sort((a, b) => a.number - b.number)
    return stretchesOf(pictures)
      .filter((stretch) => stretch.length >= fewestPictures)
      .map((stretch) => ({ before, after, pictures: stretch }))
  })
}

/** Where numbers are missing, what is before and after the gap is one stretch or two. A number that comes twice counts once. */
function stretchesOf<Picture extends { readonly number: number }>(sorted: readonly Picture[]): Picture[][] {
  const blocks: Picture[][] = []
  let before = NaN
  for (const picture of sorted) {
    if (picture.number === before) continue
    if (picture.number === before + 1) blocks.at(-1)?.push(picture)
    else blocks.push([picture])
    before = picture.number
  }
  const stretches: Picture[][] = []
  for (const block of blocks) {
    const last = stretches.at(-1)
    const missing = (block[0]?.number ?? 0) - (last?.at(-1)?.number ?? 0) - 1
    if (last && missing <= (last.length + block.length) * mostMissing)
      block.forEach((picture) => last.push(picture))
    else stretches.push(block)
  }
  return stretches
}
