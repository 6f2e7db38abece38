import { Cursor } from '../bytes/cursor'
import { type FileWindow, largestRead } from '../bytes/source'
import { ReadingFault } from '../fault'
import type { Box } from './box'

/** The outermost boxes of a file: what stands where. */
export interface Layout {
  /** The major brand, or null in a QuickTime file without `ftyp`. */
  readonly brand: string | null
  readonly movie: Box | null
  /** Movie fragments, as read up to `largestFragments`. */
  readonly fragments: readonly Box[]
  /** Where the file should end, if the last box says more than there is. */
  readonly missingBytes: number
  readonly lastBox: string
}

/** A day of one-second fragments; more are not walked. */
const largestFragments = 90_000
const largestBoxes = 200_000

/**
 * Walks the outermost boxes by their headers. Only the movie box and the fragments are read whole; media data, however
 * large, is stepped over.
 */
export async function readLayout(file: FileWindow): Promise<Layout> {
  let brand: string | null = null
  let movie: Box | null = null
  const fragments: Box[] = []
  let missingBytes = 0
  let lastBox = ''
  let kept = 0
  for (let offset = 0, n = 0; offset + 8 <= file.size && n < largestBoxes; n++) {
    const head = new Cursor(await file.some(offset, 16), offset)
    let size = head.u32()
    const type = head.code()
    let header = 8
    if (size === 1) {
      if (head.left < 8) break
      size = head.u64()
      header = 16
    } else if (size === 0) size = file.size - offset
    if (!/^[\x20-\x7e©]{4}$/.test(type) || size < header) {
      if (!movie && fragments.length === 0) {
        throw new ReadingFault('damaged', `a box is expected at byte ${offset}, and there is none`, offset)
      }
      break
    }
    lastBox = type
    const end = offset + size
    if (end > file.size) missingBytes = end - file.size
    if (type === 'ftyp' && size >= 12) brand = new Cursor(await file.some(offset + header, 4)).text(4)
    const wanted = (type === 'moov' && !movie) || (type === 'moof' && fragments.length < largestFragments)
    if (wanted) {
      const length = Math.min(size - header, file.size - offset - header)
      if (kept + length > largestRead) {
        if (type === 'moof') break
        throw new ReadingFault(
          'unsupported',
          `the index of ${length} bytes is larger than can be read`,
          offset,
        )
      }
      kept += length
      // A copy, so that the window may move on.
      const body = new Cursor((await file.exactly(offset + header, length)).slice(), offset + header)
      if (type === 'moov') movie = { type, offset, body }
      else fragments.push({ type, offset, body })
    }
    offset = end
  }
  return { brand, movie, fragments, missingBytes, lastBox }
}
