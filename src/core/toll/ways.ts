import type { Format } from '../format/format'
import { differencesOf } from '../format/compare'
import { fieldLines } from '../framing/field-lines'
import { mapToRaster } from '../framing/raster-map'
import type { Picture } from '../picture/picture'
import { cadence } from '../rate/cadence'
import { type Rate, doubledRate } from '../rate/rate'
import { type Rational, divide, equal, multiply, rational } from '../rational/rational'
import type { Motion, Phase, Treatment } from '../treatment/treatment'
import type { Taking, Run } from '../treatment/run'
import { type Charge, tollFrom } from './charge'
import { cadenceCharges, leftOutCharges, passingOf, variableCharges } from './kinds/motion'
import type { Weights } from './policy'

/** How a clip runs under a treatment, nothing left open, and what its motion and its fields cost so. */
export interface PricedWay {
  readonly way: Run
  readonly charges: readonly Charge[]
}

/** What is at hand while a way is priced. */
interface Case {
  readonly picture: Picture
  /** The clip's own frames a second. */
  readonly rate: Rate
  readonly format: Format
  readonly treatment: Treatment
  readonly weights: Weights
  /** The cost of steps of one rate on another. */
  readonly motion: (from: Rate, to: Rate) => Charge[]
  /** The same where steps are held as they land, whatever the treatment says. */
  readonly held: (from: Rate, to: Rate) => Charge[]
}

/** The two rates that 2:3 pulldown goes between. */
const [film, ntsc] = [rational(24000, 1001), rational(30000, 1001)]
const [faster, slower]: readonly [Rational, Rational] = [rational(5, 4), rational(4, 5)]

/**
 * Settles how a clip runs in a format: what its treatment says, and where that is `auto`, frames as they land, interlaced clips
 * deinterlaced on progressive timelines, and on interlaced ones pulldown or fields from frames where they cost less.
 */
export function settleWay(
  picture: Picture,
  format: Format,
  treatment: Treatment,
  weights: Weights,
): PricedWay {
  const ofClip = [...variableCharges(picture, weights), ...leftOutCharges(picture, weights)]
  const { rate } = picture
  if (!rate) return { way: way({ kind: 'hold' }, { kind: 'frames', mixed: false }), charges: ofClip }
  const varies = picture.offNominalShare !== null
  const motion = (from: Rate, to: Rate) => cadenceCharges(from, to, treatment.motion, weights, varies)
  const held = (from: Rate, to: Rate) => cadenceCharges(from, to, { kind: 'hold' }, weights, varies)
  const settled = settle({ picture, rate, format, treatment, weights, motion, held })
  return { ...settled, charges: [...settled.charges, ...ofClip] }
}

const way = (motion: Motion, taking: Taking): Run => ({ passing: passingOf(motion), taking })

function settle(at: Case): PricedWay {
  const { kind } = at.treatment.motion
  if (kind === 'pulldown') return pulledDown(at, at.treatment.motion.phase)
  if (kind === 'remove-pulldown') return pulldownRemoved(at, at.treatment.motion.phase)
  const film = filmPhase(at)
  if (film !== null) return pulldownRemoved(at, film)
  if (at.picture.scan !== 'interlaced') return fromFrames(at)
  return at.format.scan === 'interlaced' ? fieldsAsFields(at) : deinterlaced(at)
}

const mixes = ({ treatment }: Case) => treatment.motion.kind === 'blend'

/** Progressive frames, whole on each timeline frame, or one field of each. */
function fromFrames(at: Case): PricedWay {
  const { rate, format, treatment, weights, motion } = at
  const whole: PricedWay = {
    way: way(treatment.motion, { kind: 'frames', mixed: mixes(at) }),
    charges: [...motion(rate, format.rate), ...measuredCombs(at)],
  }
  if (format.scan !== 'interlaced') return whole
  // A field is one moment: fields are never mixed.
  const fieldwise = mixes(at) ? at.held : motion
  const asFields: PricedWay = {
    way: way(treatment.motion, { kind: 'fields', outOf: 'frames' }),
    charges: [
      ...fieldwise(rate, doubledRate(format.rate)),
      { kind: 'fields-from-frames', grade: 'light', loss: weights.fieldsFromFrames },
    ],
  }
  if (treatment.fields.kind === 'from-frames') return asFields
  if (treatment.motion.kind !== 'auto' || treatment.fields.kind !== 'auto') return whole
  const carried = equal(rate, film) && equal(format.rate, ntsc) ? [pulledDown(at, 0)] : []
  return cheapest([whole, asFields, ...carried])
}

/** Fields that nobody claims are shown woven on whole frames, until the clip is corrected. */
const measuredCombs = ({ picture, format, weights }: Case): Charge[] =>
  picture.combs && format.scan === 'progressive'
    ? [{ kind: 'weave', grade: 'severe', loss: weights.weave }]
    : []

/** The way that loses least; the first of equals. */
const cheapest = (ways: readonly PricedWay[]): PricedWay =>
  ways.reduce((best, other) =>
    tollFrom(other.charges).loss < tollFrom(best.charges).loss - 1e-12 ? other : best,
  )

/** A clip read as one at 5/4 of its rate, in fields. */
function pulledDown({ rate, format, motion, weights }: Case, phase: Phase): PricedWay {
  const combs: Charge[] =
    format.scan === 'interlaced' ? [] : [{ kind: 'weave', grade: 'severe', loss: weights.weave }]
  return {
    way: way({ kind: 'hold' }, { kind: 'pulldown', phase }),
    charges: [
      { kind: 'pulldown', grade: 'light', loss: weights.pulldown },
      ...motion(multiply(rate, faster), format.rate),
      ...combs,
    ],
  }
}

/** The film frames of a clip that was pulled down: 4/5 of its rate. */
function pulldownRemoved(at: Case, phase: Phase): PricedWay {
  const { picture, rate, format, treatment, motion, held, weights } = at
  const measured = picture.pulldownPhase === phase
  const film = multiply(rate, slower)
  const passing = passingOf(treatment.motion)
  return {
    way: {
      // Each film frame on one of the timeline's is a speed of their own steady rate.
      passing:
        passing.kind === 'step-by-step' ? { kind: 'in-time', factor: divide(format.rate, film) } : passing,
      taking: { kind: 'remove-pulldown', phase },
    },
    charges: [
      measured
        ? { kind: 'remove-pulldown', measured, grade: 'free', loss: 0 }
        : { kind: 'remove-pulldown', measured, grade: 'light', loss: weights.pulldown },
      // Film frames are never mixed.
      ...(mixes(at) ? held : motion)(film, format.rate),
    ],
  }
}

/** The phase at which pulldown is taken out by the editor's word; null where the timeline holds it as it is, or fields are treated by themselves. */
const filmPhase = ({ picture, rate, format, treatment }: Case): Phase | null =>
  picture.pulldownOut &&
  treatment.fields.kind === 'auto' &&
  !(format.scan === 'interlaced' && equal(rate, format.rate))
    ? (picture.pulldownPhase as Phase | null)
    : null

/** Whether each frame of a timeline is one whole frame of a clip: of its two fields one is seen, whatever is made of both. */
export const landsWhole = (rate: Rate, timelineRate: Rate): boolean =>
  ['exact', 'slip', 'even-skip'].includes(cadence(rate, timelineRate).kind)

/** Interlaced on progressive: one field of two where every timeline frame is one whole frame of the clip, else every field. */
function deinterlaced(at: Case): PricedWay {
  const { rate, format, treatment, weights, motion } = at
  const { fields } = treatment
  const mixed = mixes(at)
  switch (fields.kind) {
    case 'weave':
      return {
        way: way(treatment.motion, { kind: 'frames', mixed }),
        charges: [...motion(rate, format.rate), { kind: 'weave', grade: 'severe', loss: weights.weave }],
      }
    case 'blend':
      return {
        way: way(treatment.motion, { kind: 'deinterlaced', method: 'blend', keep: 'first', mixed }),
        charges: [
          ...oneInTwo(at),
          { kind: 'deinterlace', doubleRate: false, both: true, ...priceOf('blend', weights) },
        ],
      }
    case 'deinterlace':
      return fields.rate.kind === 'double'
        ? everyField(at, fields.method)
        : oneField(at, fields.method, fields.rate.keep)
    default:
      return cheapest([
        ...(landsWhole(rate, format.rate) ? [oneField(at, 'adaptive', 'first')] : []),
        everyField(at, 'adaptive'),
      ])
  }
}

type Method = Extract<Taking, { kind: 'deinterlaced' }>['method']

/** What a method costs: a single field has half of the lines, both averaged are soft and double. */
function priceOf(method: Method | 'blend', weights: Weights): { grade: 'light' | 'heavy'; loss: number } {
  if (method === 'adaptive') return { grade: 'light', loss: weights.deinterlaceAdaptive }
  if (method === 'interpolate') return { grade: 'light', loss: weights.deinterlaceInterpolate }
  return { grade: 'heavy', loss: weights.deinterlaceSingle }
}

/** What the motion of one field of each frame costs: of twice as many moments every second, and those as they land. */
const oneInTwo = ({ rate, format, motion, held }: Case): Charge[] => [
  ...held(doubledRate(rate), rate),
  ...motion(rate, format.rate),
]

const oneField = (at: Case, method: Method, keep: 'first' | 'second'): PricedWay => ({
  way: way(at.treatment.motion, { kind: 'deinterlaced', method, keep, mixed: mixes(at) }),
  charges: [
    ...oneInTwo(at),
    { kind: 'deinterlace', doubleRate: false, both: false, ...priceOf(method, at.weights) },
  ],
})

const everyField = (at: Case, method: Method): PricedWay => ({
  way: way(at.treatment.motion, { kind: 'deinterlaced', method, keep: 'each', mixed: mixes(at) }),
  charges: [
    ...at.motion(doubledRate(at.rate), at.format.rate),
    { kind: 'deinterlace', doubleRate: true, both: false, ...priceOf(method, at.weights) },
  ],
})

/** Whether each field of a timeline finds one of its own lines: so many of the clip's pass in one that first and second alternate. */
function fieldsAlternate(motion: Motion, rate: Rate, timelineRate: Rate): boolean {
  const passing = passingOf(motion)
  if (passing.kind === 'step-by-step') return true
  const { num, den } = multiply(divide(rate, timelineRate), passing.factor)
  return den === 1 && num % 2 === 1
}

/** Interlaced on interlaced: fields stay fields unless order, lines or rate change. */
function fieldsAsFields(at: Case): PricedWay {
  const { rate, picture, format, treatment, weights, motion } = at
  const { fields } = treatment
  if (fields.kind === 'deinterlace' || fields.kind === 'blend') return deinterlaced(at)
  const turnsOrder =
    treatment.shiftOrder || differencesOf(picture, format).some(({ about }) => about === 'field order')
  const lines = fieldLines(mapToRaster(picture, format, treatment.framing), picture.firstLine, turnsOrder)
  const rescaled: Charge[] =
    lines === 'made-whole' || !fieldsAlternate(treatment.motion, rate, format.rate)
      ? [{ kind: 'field-rescale', grade: 'heavy', loss: weights.fieldRescale }]
      : []
  if (fields.kind === 'weave')
    return {
      way: way(treatment.motion, { kind: 'frames', mixed: mixes(at) }),
      charges: [
        ...motion(rate, format.rate),
        // Woven on lines of the other field, or out of their order, they comb as well.
        ...(lines === 'kept' && rescaled.length === 0
          ? []
          : [{ kind: 'weave', grade: 'severe', loss: weights.weave } as const]),
      ],
    }
  if (mixes(at)) {
    const mixed = everyField(at, 'adaptive')
    return { ...mixed, charges: [...at.motion(doubledRate(rate), format.rate), ...rescaled] }
  }
  return {
    way: way(treatment.motion, { kind: 'fields', outOf: 'fields' }),
    charges: [
      ...motion(doubledRate(rate), doubledRate(format.rate)),
      ...rescaled,
      ...(lines === 'shifted'
        ? [{ kind: 'field-order', grade: 'light', loss: weights.fieldOrder } as const]
        : []),
    ],
  }
}
