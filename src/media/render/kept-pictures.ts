import { LRUCache } from 'lru-cache'
import type { StoredPicture } from '../../core/compose/stored'
import { type Planes, bytesOfLayout } from '../../core/planes/planes'

/** A decoded frame: its samples, and what they mean. */
export type DecodedPicture = Pick<StoredPicture, 'planes' | 'meaning'>

/** After so long without a wish, in milliseconds, all are let go but the last ones: the frame that is looked at, and its neighbours. */
const idle = 5000
const keptIdle = 4

const bytesOf = ({ alpha, chroma, ...planes }: Planes): number =>
  bytesOfLayout({ ...planes, planeCount: alpha ? 4 : chroma ? 3 : 1 })

/** What was decoded, the least used let go first. @param mostKept bytes of them; one that is larger is kept alone */
export function keeper(mostKept: number) {
  const kept = new LRUCache<string, DecodedPicture>({
    maxSize: mostKept,
    sizeCalculation: ({ planes }) => Math.min(bytesOf(planes), mostKept),
  })
  let resting: ReturnType<typeof setTimeout> | undefined

  function used(): void {
    clearTimeout(resting)
    resting = setTimeout(() => [...kept.keys()].slice(keptIdle).forEach((key) => kept.delete(key)), idle)
  }
  return {
    get(key: string): DecodedPicture | undefined {
      used()
      return kept.get(key)
    },
    put: (key: string, picture: DecodedPicture): void => void kept.set(key, picture),
  }
}
