import { rank } from '../src/core/choice/rank'
import { type Elector, gatherVotes } from '../src/core/choice/vote'
import { standardRates } from '../src/core/rate/rate'
import type { Reading } from '../src/core/reading/reading'
import { stillReading } from '../src/core/reading/still/still'
import { defaultPolicy } from '../src/core/toll/policy'

const sizes = [
  [3840, 2160],
  [1920, 1080],
  [4096, 2160],
  [2704, 1520],
  [1280, 720],
  [1080, 1920],
  [720, 576],
  [640, 480],
] as const
const rates = [2, 3, 0, 7, 8].map((i) => standardRates[i])

/** Forty readings: eight sizes at five rates. */
function readings(): Reading[] {
  return sizes.flatMap(([width, height]) =>
    rates.map((rate): Reading => {
      const still = stillReading('MP4', 1, { width, height, bitDepth: 8, chroma: '4:2:0', alpha: false })
      return {
        ...still,
        kind: 'video',
        durationSec: 10,
        video: { ...still.video!, rate, rateMode: 'constant' },
      }
    }),
  )
}

/** Gathering the votes and ranking every candidate, for many clips. */
export function measureRanking() {
  const distinct = readings()
  return [10_000, 100_000].map((clips) => {
    const electors = Array.from({ length: clips }, (_, i): Elector => ({
      id: String(i),
      reading: distinct[i % distinct.length],
      priority: 'normal',
    }))
    const milliseconds: number[] = []
    let candidates = 0
    for (let i = 0; i < 7; i++) {
      const start = performance.now()
      const { blocs } = gatherVotes(electors)
      candidates = rank(blocs, { policy: defaultPolicy, explained: 24 }).length
      if (i > 1) milliseconds.push(performance.now() - start)
    }
    return { clips, milliseconds, candidates }
  })
}
