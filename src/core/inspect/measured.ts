import type { Clip } from '../model/clip'
import { type Evidence, provenBars } from '../evidence/evidence'
import { rateName } from '../rate/rate'
import { figure, percent } from '../words/figures'

/** What the picture says of one fact, beside what was claimed. */
export interface Measured {
  readonly about: 'scan' | 'motion' | 'picture' | 'edges'
  readonly says: string
  /** For a list: a word or two. */
  readonly short: string
  readonly kind:
    | 'combed'
    | 'clean'
    | 'repeats'
    | 'pulldown'
    | 'no repeats'
    | 'enlarged'
    | 'full'
    | 'bars'
    | 'mixed'
    | 'cannot tell'
}

export const orderWords = (order: string): string => order.replace('-first', ' field first')

/** What the picture of a clip says, fact by fact; empty until it is measured. */
export function measuredOf({ evidence }: Clip): Measured[] {
  if (!evidence) return []
  const { mixed } = evidence
  return [
    scanMeasured(evidence),
    motionMeasured(evidence),
    detailMeasured(evidence),
    ...(provenBars(evidence) ? [barsMeasured(evidence)] : []),
    ...(mixed.length
      ? [
          {
            about: 'motion',
            kind: 'mixed',
            short: 'mixed',
            says: `mixed: ${mixed.map(({ about, first, says }) => `${about} ${says.replace('-', ' ')} from frame ${first}`).join(', ')}`,
          } as const,
        ]
      : []),
  ]
}

function scanMeasured({ combing, fieldOrder }: Evidence): Measured {
  const about = 'scan'
  if (combing.verdict === 'combed')
    return {
      about,
      kind: 'combed',
      short: `fields, ${fieldOrder.verdict === 'bottom-first' ? 'bottom' : 'top'} first`,
      says: `two moments in each frame, ${orderWords(fieldOrder.verdict)}; ${percent(combing.share)} of the frames seen comb`,
    }
  if (combing.verdict === 'clean')
    return { about, kind: 'clean', short: 'whole frames', says: 'whole frames: nothing combs' }
  return { about, kind: 'cannot tell', short: 'scan ?', says: 'cannot tell: too little moves' }
}

function motionMeasured({ repeats, pulldown }: Evidence): Measured {
  const about = 'motion'
  const rate = repeats.trueRate
    ? `${rateName(repeats.trueRate)} new frames a second`
    : 'its rate is not known'
  if (pulldown)
    return {
      about,
      kind: 'pulldown',
      short: `pulldown ${pulldown.pattern}`,
      says: `${pulldown.pattern} pulldown, ${rate}`,
    }
  if (repeats.verdict === 'pattern')
    return {
      about,
      kind: 'repeats',
      short: repeats.pattern ? `repeats ${repeats.pattern}` : 'repeats',
      says: repeats.pattern ? `frames repeat ${repeats.pattern}: ${rate}` : `frames repeat: ${rate}`,
    }
  if (repeats.verdict === 'irregular')
    return { about, kind: 'repeats', short: 'repeats', says: 'frames repeat without a pattern' }
  if (repeats.verdict === 'none')
    return { about, kind: 'no repeats', short: 'no repeats', says: 'every frame is a new one' }
  return { about, kind: 'cannot tell', short: 'repeats ?', says: 'cannot tell: too little moves' }
}

function detailMeasured({ detail }: Evidence): Measured {
  const about = 'picture'
  const size = `${detail.width}×${detail.height}`
  if (detail.verdict === 'enlarged')
    return { about, kind: 'enlarged', short: `enlarged ${size}`, says: `no more than ${size} in it` }
  if (detail.verdict === 'full')
    return { about, kind: 'full', short: 'full detail', says: 'detail fills the raster' }
  return { about, kind: 'cannot tell', short: 'detail ?', says: 'cannot tell how much detail it has' }
}

export function barsMeasured({ bars }: Evidence): Measured {
  const pair = (a: number, b: number, where: string) =>
    a + b > 0 ? [`${a} · ${b} px ${where}`] : ([] as string[])
  const says = [
    ...pair(bars.top, bars.bottom, 'above and below'),
    ...pair(bars.left, bars.right, 'left and right'),
  ].join(', ')
  return { about: 'edges', kind: 'bars', short: 'bars', says: `bars of ${says}` }
}

/** How a verdict's sureness is said. */
export const sureWords = (confidence: number): string => `confidence ${figure(confidence, 2)}`
