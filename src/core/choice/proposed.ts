import { deepEqual } from '../equality'
import type { Format } from '../format/format'
import { fitPicture } from '../framing/framing'
import type { Picture } from '../picture/picture'
import { type Rate, filmRate, rateName, rateWithScan } from '../rate/rate'
import { divide, toNumber } from '../rational/rational'
import type { CorrectionChange } from '../reading/correct'
import type { Weights } from '../toll/policy'
import { aspectOfCharge, sentence } from '../toll/sentence'
import { type Settled, settleToll } from '../toll/toll'
import { type FramingMode, type Motion, type Override, type Treatment, treated } from '../treatment/treatment'
import { percent } from '../words/figures'
import { bestTreatment } from './best'
import { type Proposal, type TreatmentStep, proposal } from './proposal'
import type { Untreated } from './untreated'

/** A treatment that is offered: what it corrects of the clip, what it sets, and what the clip pays so. */
export interface Offered extends Settled {
  readonly change: CorrectionChange
  readonly set: Override
}

/** What is done as a matter of course, why, and the way of least loss where that is another. */
export interface Proposed extends Offered {
  readonly proposal: Proposal
  readonly reason: string
  /** Whether it runs so already, whatever is set. */
  readonly isInForce: boolean
  readonly less: Offered | null
}

/** What an editor has set, and so stays. */
export interface Fixed {
  readonly motion: boolean
  readonly framing: boolean
}

/**
 * The proposal for a clip in a format, priced. What an editor has set of its motion or of its framing stays; all else is what is done as a
 * matter of course.
 * @param inForce how it is treated now
 */
export function proposed(
  clip: Untreated,
  format: Format,
  inForce: Treatment,
  weights: Weights,
  fixed: Fixed = { motion: false, framing: false },
): Proposed {
  const whole = proposal(clip, format)
  const { steps } = fixed.motion ? { steps: [] } : whole
  const { framing, crop } = fixed.framing ? ({ framing: 'same', crop: null } as const) : whole
  const picture = pictureAfter(clip, steps, crop)
  const set = unlike(
    {
      ...(fixed.motion ? {} : runningBy(clip, steps, format)),
      ...(fixed.framing ? {} : framedBy(picture, framing, format)),
    },
    inForce,
  )
  const change = changeBy(clip, steps, crop)
  const settled = settleToll(picture, format, treated([set], inForce), weights)
  const settledNow = settleToll(clip.picture, format, inForce, weights)
  return {
    proposal: { steps, framing, crop },
    change,
    set,
    ...settled,
    reason: reasonOf(clip, { steps, framing, crop }, { picture, format, fixed }, settled),
    isInForce:
      Object.keys(change).length === 0 &&
      deepEqual(settledNow.way, settled.way) &&
      deepEqual(
        fitPicture(picture, format, treated([set], inForce).framing),
        fitPicture(clip.picture, format, inForce.framing),
      ),
    less: lessThan(settled, clip, { picture, change }, { format, inForce, weights, fixed }),
  }
}

/** What of a treatment is another than the one in force. */
function unlike({ motion, fields, framing }: Override, inForce: Treatment): Override {
  const differs = (a: unknown, b: unknown) => a !== undefined && !deepEqual(a, b)
  return {
    ...(differs(motion, inForce.motion) ? { motion } : {}),
    ...(differs(fields, inForce.fields) ? { fields } : {}),
    ...(differs(framing?.mode, inForce.framing.mode) ? { framing } : {}),
  }
}

/** How film lies in 2:3:3:2: AA BB BC CC DD, of which the third repeats B and C. */
const advanced = [1, 2, 1, 1]

/** The picture as it is once what was put in is taken out. */
function pictureAfter(
  { picture, pulldown, repeats }: Untreated,
  steps: readonly TreatmentStep[],
  crop: Proposal['crop'],
): Picture {
  const whole = { scan: 'progressive', fieldOrder: null, combs: false } as const
  let after = picture
  if (steps.includes('remove-pulldown') && pulldown && picture.rate)
    after =
      pulldown.pattern === '2:3'
        ? { ...after, combs: false, pulldownPhase: pulldown.phase, pulldownOut: true }
        : { ...after, ...whole, rate: filmRate(picture.rate) }
  if (steps.includes('remove-repeats') && repeats)
    after = { ...after, rate: repeats.trueRate, offNominalShare: null, minRate: null, maxRate: null }
  if (steps.includes('weave')) after = { ...after, ...whole }
  if (!crop) return after
  return {
    ...after,
    width: Math.max(1, picture.width - crop.left - crop.right),
    height: Math.max(1, picture.height - crop.top - crop.bottom),
    firstLine: crop.top % 2 === 1 ? 1 : 0,
  }
}

/** How measured pulldown is taken out of a clip: of 2:3:3:2 all frames but one in five are whole. */
export const pulldownTakenOut = ({ pattern, phase }: NonNullable<Untreated['pulldown']>): CorrectionChange =>
  pattern === '2:3' ? { pulldownOut: phase } : { repeatsOut: { holds: advanced, phase }, scan: 'progressive' }

/** What of a proposal is taken for true of the clip itself. */
function changeBy(
  { pulldown, repeats }: Untreated,
  steps: readonly TreatmentStep[],
  crop: Proposal['crop'],
): CorrectionChange {
  const put: { -readonly [Fact in keyof CorrectionChange]: CorrectionChange[Fact] } = {}
  if (steps.includes('remove-pulldown') && pulldown) Object.assign(put, pulldownTakenOut(pulldown))
  if (steps.includes('remove-repeats') && repeats?.holds && repeats.phase !== null)
    put.repeatsOut = { holds: repeats.holds, phase: repeats.phase }
  if (steps.includes('weave')) put.scan = 'progressive'
  if (crop) put.crop = crop
  return put
}

const everyFrame = (wanted: boolean): Motion => ({
  kind: 'speed',
  pace: { kind: 'every-frame' },
  wanted,
  keepPitch: true,
})

/** How the steps of a proposal are set; what a timeline does by itself is not. */
function runningBy(
  { captureRate }: Untreated,
  steps: readonly TreatmentStep[],
  format: Format,
): Pick<Override, 'motion' | 'fields'> {
  const has = (step: TreatmentStep) => steps.includes(step)
  const deinterlaced = (['same', 'double'] as const).find((rate) => has(`deinterlace-${rate}`))
  return {
    motion: has('every-frame')
      ? everyFrame(captureRate !== null)
      : has('pulldown')
        ? { kind: 'pulldown', phase: 0 }
        : // Held frames are chosen among other ways in an interlaced timeline.
          has('nearest') && format.scan === 'interlaced'
          ? { kind: 'hold' }
          : { kind: 'auto' },
    fields: deinterlaced
      ? {
          kind: 'deinterlace',
          method: 'adaptive',
          rate: deinterlaced === 'same' ? { kind: 'same', keep: 'first' } : { kind: 'double' },
        }
      : has('fields-from-frames')
        ? { kind: 'from-frames' }
        : { kind: 'auto' },
  }
}

/** How a proposal frames; a shape that is the frame's own fills it by itself. */
function framedBy(picture: Picture, framing: Proposal['framing'], format: Format): Pick<Override, 'framing'> {
  const mode: FramingMode =
    framing === 'one-to-one'
      ? { kind: 'one-to-one' }
      : framing === 'fill' && fitPicture(picture, format).barsShare > 1e-9
        ? { kind: 'fill' }
        : { kind: 'fit' }
  return { framing: { mode } }
}

/** A speed at which a clip keeps its length as good as: nobody hears it. */
const nearSpeed = 0.043

/**
 * The treatment of least loss, where it loses less than another: of the clip as it is or with what was put in taken out, whole or filling
 * the frame, its length kept or as good as.
 */
function lessThan(
  than: Settled,
  clip: Untreated,
  after: { readonly picture: Picture; readonly change: CorrectionChange },
  {
    format,
    inForce,
    weights,
    fixed,
  }: {
    readonly format: Format
    readonly inForce: Treatment
    readonly weights: Weights
    readonly fixed: Fixed
  },
): Offered | null {
  const { rate } = clip.picture
  const isNear = rate !== null && Math.abs(toNumber(divide(format.rate, rate)) - 1) <= nearSpeed
  const modes: readonly FramingMode[] = fixed.framing
    ? [inForce.framing.mode]
    : [{ kind: 'fit' }, { kind: 'fill' }, ...(clip.isOverlay ? [{ kind: 'one-to-one' } as const] : [])]
  const motions: readonly Override[] = [
    {},
    ...(isNear && !fixed.motion ? [{ motion: everyFrame(false) }] : []),
  ]
  let least: Offered | null = null
  const asItIs = { picture: clip.picture, change: {} }
  for (const { picture, change } of after.picture === clip.picture ? [asItIs] : [asItIs, after])
    for (const mode of modes)
      for (const motion of motions) {
        const framing = mode.kind === inForce.framing.mode.kind ? {} : { framing: { mode } }
        const begun = { ...motion, ...framing }
        const from = treated([begun], inForce)
        const best = bestTreatment(picture, format, from, weights)
        const found: Offered = best
          ? { ...best, change, set: joined(begun, best.set) }
          : { ...settleToll(picture, format, from, weights), change, set: begun }
        if (found.toll.loss < (least ?? than).toll.loss - 1e-9) least = found
      }
  return least
}

const joined = (a: Override, b: Override): Override => ({
  ...a,
  ...b,
  ...(a.framing || b.framing ? { framing: { ...a.framing, ...b.framing } } : {}),
})

/** Why a proposal is what it is, in one sentence with its figures. */
function reasonOf(
  clip: Untreated,
  { steps, framing, crop }: Proposal,
  { picture, format, fixed }: { readonly picture: Picture; readonly format: Format; readonly fixed: Fixed },
  { toll }: Settled,
): string {
  const { rate, scan, pulldownOut } = clip.picture
  const moves = toll.charges.filter(({ kind }) => aspectOfCharge(kind) === 'motion').map(sentence)
  const said: Record<TreatmentStep, () => string> = {
    'remove-pulldown': () => `${clip.pulldown?.pattern} pulldown measured, taken out`,
    'remove-repeats': () =>
      `only ${rateName(clip.repeats?.trueRate ?? format.rate)} frames a second are new, each taken once`,
    weave: () => 'both fields are of one moment, frames taken whole',
    'keep-fields': () => 'fields stay fields',
    'shift-order': () => 'a line lower, since its order is the other',
    'deinterlace-same': () => 'one frame of both fields, adaptive',
    'deinterlace-double': () => 'each field a frame, adaptive',
    'fields-from-frames': () => 'a field from each frame',
    pulldown: () => '2:3 pulldown',
    'every-frame': () => onceWords(clip, trueRateOf(clip, steps), format),
    nearest: () => ['nearest frame', ...moves.slice(0, 1)].join(', '),
  }
  const { barsShare } = fitPicture(picture, format)
  const framed = crop
    ? `baked bars cropped away, ${picture.width}×${picture.height} fills the frame`
    : framing === 'one-to-one'
      ? 'no larger than the frame, one to one'
      : framing === 'fill'
        ? barsShare > 1e-9 && 'fills the frame, its shape is within 2 %'
        : framing === 'fit' && barsShare > 1e-9 && `whole, bars ${percent(barsShare)}`
  const own = rate && (pulldownOut ? rateName(filmRate(rate)) : named(rate, scan))
  const running =
    own && !fixed.motion
      ? `${own} in ${named(format.rate, format.scan)}: ${steps.map((step) => said[step]()).join(', ') || 'as it is'}`
      : null
  return [running, framed].filter(Boolean).join('; ') || 'as it is'
}

/** Fields are named by their own rate; frames by theirs. */
const named = (rate: Rate, scan: string): string =>
  scan === 'interlaced' ? rateWithScan(rate, scan) : rateName(rate)

/** The rate of what is left once what was put in is taken out. */
function trueRateOf({ picture, repeats }: Untreated, steps: readonly TreatmentStep[]): Rate | null {
  if (steps.includes('remove-repeats')) return repeats?.trueRate ?? picture.rate
  const isFilm = picture.pulldownOut || steps.includes('remove-pulldown')
  return picture.rate && isFilm ? filmRate(picture.rate) : picture.rate
}

function onceWords({ captureRate }: Untreated, rate: Rate | null, format: Format): string {
  const speed = rate ? toNumber(format.rate) / toNumber(rate) : 1
  if (captureRate)
    return `recorded at ${rateName(captureRate)} to be slowed, every frame once, at ${percent(toNumber(format.rate) / toNumber(captureRate))} of life`
  const off = percent(Number(Math.abs(speed - 1).toFixed(4)))
  return `every frame once, ${off} ${speed > 1 ? 'faster' : 'slower'}, sound with it, pitch kept`
}
