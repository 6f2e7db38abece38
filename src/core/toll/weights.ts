import type { Ranking, Policy } from './policy'

/** A weight that stands directly in the policy. */
export type FlatWeight = Exclude<keyof Policy, 'leans' | 'shares'>

/** The weights in words, in the groups in which an editor looks for them. */
export const weightGroups: readonly { title: string; words: Partial<Record<FlatWeight, string>> }[] = [
  {
    title: 'Framing',
    words: { crop: 'crop, a share', distortion: 'distortion' },
  },
  {
    title: 'Motion',
    words: {
      repeat: 'frames shown again, a share',
      skip: 'frames left out, a share',
      slip: 'slip',
      slipPerMinute: 'slip, each a minute',
      slipMost: 'slips, at most',
      judderPerMs: 'judder, each millisecond',
      judderMost: 'judder, at most',
      pulldown: '2:3 pulldown',
      blend: 'frames mixed, a share',
      speedSlight: 'speed within 0.1 %',
      speedNear: 'speed within 4.3 %',
      speed: 'other speed, not wanted',
      variableRate: 'variable rate',
      variableMost: 'frames off nominal, at most',
    },
  },
  {
    title: 'Fields',
    words: {
      deinterlaceAdaptive: 'deinterlaced by motion',
      deinterlaceInterpolate: 'deinterlaced, lines interpolated',
      deinterlaceSingle: 'one field alone, or both averaged',
      weave: 'woven on progressive',
      fieldsFromFrames: 'a field from each frame',
      fieldOrder: 'field order turned',
      fieldRescale: 'fields rescaled',
    },
  },
  {
    title: 'Colour',
    words: {
      dynamicRange: 'dynamic range converted',
      transfer: 'PQ to HLG and back',
      primaries: 'primaries converted',
      dynamicRangeWrong: 'dynamic range not converted',
      primariesWrong: 'primaries not converted',
      matrixWrong: 'matrix not converted',
      linear: 'linear light, shown by a display’s curve',
      undeveloped: 'logarithm or raw, not graded',
      depth: 'depth reduced',
    },
  },
  {
    title: 'After the timeline, no delivery known',
    words: {
      screen: 'enlarged to an HD screen',
      interlacedOut: 'interlaced',
      foreignRate: 'rate foreign to the region',
    },
  },
]

/** What candidates are ranked for. */
export const rankingNames: Readonly<Record<Ranking, string>> = {
  balanced: 'balance',
  sharp: 'sharpness',
  detail: 'detail',
  majority: 'majority',
  motion: 'motion',
}

export const rankingWords: Record<keyof Policy['leans']['balanced'], string> = {
  unused: 'detail unused',
  invented: 'pixels invented',
  bars: 'bars',
}

/** What motion weighs otherwise. */
export const motionSkipWords = 'frames dropped, a share'

export const shareWords: Record<keyof Policy['shares'], string> = {
  proposes: 'to propose a size or a rate',
  orientation: 'for upright or lying to count',
  oddSize: 'for a size that is not usual',
  oddSizeMajority: 'the same, ranked by majority',
  interlaced: 'for interlaced formats',
  fields: 'for the field rate of interlaced footage',
  otherRate: 'for a rate foreign to the region, or not delivered',
  usualRates: 'of usual rates, for others to count less',
  filmedOtherwise: 'counted of clips filmed to be slowed or sped up',
}
