import type { StoredPicture } from '../../core/compose/stored'
import { type Planes, bytesOfLayout } from '../../core/planes/planes'

/** A decoded frame: its samples, and what they mean. */
export type DecodedPicture = Pick<StoredPicture, 'planes' | 'meaning'>

/** After so long without a wish, in milliseconds, all are let go but the last ones: the frame that is looked at, and its neighbours. */
const idle = 5000
const keptIdle = 4

const bytesOf = ({ alpha, chroma, ...planes }: Planes): number =>
  bytesOfLayout({ ...planes, planeCount: alpha ? 4 : chroma ? 3 : 1 })

/** What was decoded, the least used let go first. @param mostKept bytes of them */
export function keeper(mostKept: number) {
  const kept = new Map<string, DecodedPicture>()
  let bytes = 0
  let resting: ReturnType<typeof setTimeout> | undefined

  /** Lets go of the least used, as long as there are too many. */
  function letGo(areTooMany: () => boolean): void {
    for (const [oldest, old] of kept) {
      if (!areTooMany()) break
      kept.delete(oldest)
      bytes -= bytesOf(old.planes)
    }
  }
  function used(): void {
    clearTimeout(resting)
    resting = setTimeout(() => letGo(() => kept.size > keptIdle), idle)
  }
  return {
    get(key: string): DecodedPicture | undefined {
      used()
      const picture = kept.get(key)
      if (picture) {
        kept.delete(key)
        kept.set(key, picture)
      }
      return picture
    },
    put(key: string, picture: DecodedPicture): void {
      kept.set(key, picture)
      bytes += bytesOf(picture.planes)
      letGo(() => bytes > mostKept && kept.size > 1)
    },
  }
}
