import { rank } from '../../src/core/choice/rank'
import { type Elector, gatherVotes } from '../../src/core/choice/vote'
import { type Rate, standardRates } from '../../src/core/rate/rate'
import { rational } from '../../src/core/rational/rational'
import type { Reading } from '../../src/core/reading/reading'
import { stillReading } from '../../src/core/reading/still/still'
import { defaultPolicy } from '../../src/core/toll/policy'
import { sized } from './size'

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

function reading(width: number, height: number, rate: Rate): Reading {
  const still = stillReading('MP4', 1, { width, height, bitDepth: 8, chroma: '4:2:0', alpha: false })
  return { ...still, kind: 'video', durationSec: 10, video: { ...still.video!, rate, rateMode: 'constant' } }
}

/** Forty readings: eight sizes at five rates. */
const usual = sizes.flatMap(([width, height]) => rates.map((rate) => reading(width, height, rate!)))
/** Forty readings that share nothing: every one has a size and a rate of its own. */
const unlike = Array.from({ length: 40 }, (_, i) => reading(640 + 64 * i, 360 + 36 * i, rational(9 + 2 * i)))

/** Gathering the votes and ranking every candidate, for many clips. */
export function measureRanking() {
  const cases = [
    { clips: sized(10_000, 100), distinct: usual },
    { clips: sized(100_000, 200), distinct: usual },
    { clips: sized(10_000, 100), distinct: unlike },
  ]
  return cases.map(({ clips, distinct }) => {
    const electors = Array.from({ length: clips }, (_, i): Elector => ({
      id: String(i),
      reading: distinct[i % distinct.length]!,
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
