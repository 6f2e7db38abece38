import { Cursor } from '../bytes/cursor'
import { concat } from '../bytes/concat'
import type { FileWindow } from '../bytes/source'
import { readVint } from './ebml'
import type { MatroskaTrack } from './tracks'

/** What was seen of a track's blocks. */
export interface BlockWalk {
  /** Times in units of the segment, in the order stored. */
  readonly times: readonly number[]
  readonly firstFrame: Uint8Array
  /** The time of the first block of each track that was seen, by its number. */
  readonly begins: ReadonlyMap<number, number>
  /** Whether every block of the file was seen. */
  readonly complete: boolean
}

/** So many steps from block to block are taken; each costs at most one small access. */
const mostSteps = 1500
/** Bytes read while stepping, at most: the times of a minute tell the rate, not those of an hour. Over a network more, in fewer reads. */
const mostBytes = { near: 160 * 1024, remote: 832 * 1024 }
const firstBytes = 32 * 1024
/** A block's header, and what stands before it in a group. */
const headerLength = 40

/** Steps through clusters by the headers of their blocks and gathers the times of one track. */
export async function walkBlocks(
  file: FileWindow,
  start: number,
  end: number,
  track: MatroskaTrack,
): Promise<BlockWalk> {
  const times: number[] = []
  let firstFrame: Uint8Array = new Uint8Array(0)
  const begins = new Map<number, number>()
  let clusterTime = 0
  let offset = start
  const budget = file.bytesRead + (file.isRemote ? mostBytes.remote : mostBytes.near)
  for (let step = 0; offset + 2 <= end; step++) {
    if (step >= mostSteps || file.bytesRead > budget || !file.canStep)
      return { times, firstFrame, begins, complete: false }
    const head = new Cursor(await file.some(offset, headerLength, file.ahead(headerLength * 4)), offset)
    const id = readVint(head, true)
    const size = head.left ? readVint(head) : Number.NaN
    if (Number.isNaN(id) || Number.isNaN(size)) return { times, firstFrame, begins, complete: false }
    const body = offset + head.at
    // Clusters and groups are stepped into; a cluster of unknown size ends where the next begins.
    if (id === 0x1f43b675 || id === 0xa0) {
      offset = body
      continue
    }
    if (id === 0xe7 && size <= 8 && size <= head.left) {
      clusterTime = 0
      for (const byte of head.slice(size)) clusterTime = clusterTime * 256 + byte
    } else if ((id === 0xa3 || id === 0xa1) && head.left >= 4) {
      const number = readVint(head)
      const time = head.left >= 3 ? clusterTime + head.i16() : null
      if (time !== null && !begins.has(number)) begins.set(number, time)
      if (number === track.number && time !== null) {
        times.push(time)
        const flags = head.u8()
        // Laced frames are for sound; a picture stands alone.
        if (firstFrame.length === 0 && (flags & 6) === 0 && size > head.at) {
          const at = offset + head.at
          const bytes = await file.some(at, Math.min(body + size - at, firstBytes, end - at))
          firstFrame = concat([track.strippedHeader, bytes])
        }
      }
    }
    offset = body + size
  }
  return { times, firstFrame, begins, complete: true }
}
