import * as z from 'zod'
import { present } from '../assert'
import { PixelAspect, displaySize } from '../picture/size'
import { Colour } from '../picture/colour'
import { FieldOrder } from '../picture/scan'
import { Rotation, isQuarterTurn, uprightSize } from '../picture/turn'
import { type Rational, equal, multiply, rational, toNumber } from '../rational/rational'
import { type Evidence, isSure } from '../evidence/evidence'
import { aspectName } from '../format/format'
import { Rate, filmRate, rateName } from '../rate/rate'
import { Phase, Sides } from '../treatment/treatment'
import { counted, exactPercent, exactSeconds, spaced } from '../words/figures'
import { type Reading, type VideoFacts } from './reading'

/** How often each true frame is shown in turn inside a clip, and at which of them it begins. */
export const RepeatsOut = z
  .object({
    holds: z.array(z.number().int().min(1).max(1000)).min(1).max(1000).readonly(),
    phase: z.number().int().nonnegative(),
  })
  .readonly()
  .refine(({ holds, phase }) => phase < holds.reduce((sum, hold) => sum + hold, 0), {
    error: 'a phase lies within its pattern',
  })
export type RepeatsOut = z.infer<typeof RepeatsOut>

/** The editor's word over a file's claims; what is left out stays as claimed. */
export const Corrections = z
  .object({
    rate: Rate.optional(),
    pixelAspect: PixelAspect.optional(),
    scan: z.enum(['progressive', 'interlaced']).optional(),
    fieldOrder: FieldOrder.optional(),
    rotation: Rotation.optional(),
    colour: Colour.optional(),
    /** Whether the colours are multiplied by what is seen through. */
    premultiplied: z.boolean().optional(),
    /** What the file holds is the picture, not what it shows of it: its overscan, or the part that was rendered. */
    window: z.literal('data').optional(),
    /** Bars that are baked in: stored pixels on each side that are no picture. */
    crop: Sides.optional(),
    /** Frames that repeat inside the clip: each is taken once, at the true rate. */
    repeatsOut: RepeatsOut.optional(),
    /** The place of frame 0 in a 2:3 pulldown that is taken out: the film frames are the clip's. */
    pulldownOut: Phase.optional(),
  })
  .readonly()
export type Corrections = z.infer<typeof Corrections>

/** A change of corrections: what is named is set, or goes back to the claim (null); all else stays. */
export type CorrectionChange = { readonly [Fact in keyof Corrections]?: Corrections[Fact] | null }

/** Corrections after a change. */
export function changed(corrections: Corrections, change: CorrectionChange): Corrections {
  const merged = Object.entries({ ...corrections, ...change }).filter(
    ([, value]) => value !== null && value !== undefined,
  )
  return Object.fromEntries(merged)
}

export const isCorrected = (corrections: Corrections): boolean =>
  Object.values(corrections).some((v) => v !== undefined)

/** The size of the picture that is decoded: of what the file shows, or of what it holds. */
export const decodedSize = (video: VideoFacts, { window }: Corrections): { width: number; height: number } =>
  (window && video.dataWindow) ?? video

/**
 * A reading as corrected. Another rate plays the same frames faster or slower: the running time follows, the frames do not change.
 * Sound and stills have no rate to correct.
 */
export function applyCorrections(claimed: Reading, corrections: Corrections): Reading {
  const { video } = claimed
  if (!video || !isCorrected(corrections)) return claimed
  const { pixelAspect, rotation, colour, crop } = corrections
  const premultiplied = corrections.premultiplied ?? video.premultiplied ?? false
  const { premultiplied: _claimed, ...timedVideo } =
    claimed.kind === 'video' ? retimed(video, corrections) : video
  const scan = corrections.scan ?? video.scan
  const { width, height } = decodedSize(video, corrections)
  const corrected: VideoFacts = {
    ...timedVideo,
    ...(premultiplied && video.alpha ? { premultiplied: true as const } : {}),
    width,
    height,
    ...(crop ? cropped({ width, height }, crop) : {}),
    pixelAspect: pixelAspect ?? video.pixelAspect,
    rotation: rotation ?? video.rotation,
    colour: colour ?? video.colour,
    scan,
    fieldOrder: scan === 'progressive' ? null : (corrections.fieldOrder ?? video.fieldOrder ?? 'unknown'),
  }
  return { ...claimed, video: corrected, durationSec: newDuration(claimed, corrections) }
}

/**
 * What is held true of a clip: corrected, else claimed, else measured. Where a claim of whole frames stands although the
 * picture combs, the claim is followed, and what it costs knows of the combs.
 */
export function heldTrue(claimed: Reading, corrections: Corrections, evidence: Evidence | null): Reading {
  const reading = asSeen(applyCorrections(claimed, corrections), corrections, evidence)
  const { video } = reading
  const { pulldownOut } = corrections
  if (!video || pulldownOut === undefined || reading.kind !== 'video') return reading
  const measured = {
    detail: null,
    ...video.measured,
    combs: false,
    pulldownPhase: pulldownOut,
    pulldownOut: true as const,
  }
  return { ...reading, video: { ...video, measured } }
}

/** A corrected reading with what is measured where nobody else speaks. */
function asSeen(reading: Reading, corrections: Corrections, evidence: Evidence | null): Reading {
  const { video } = reading
  if (!video || !evidence || reading.kind !== 'video') return reading
  const { combing, pulldown, detail: seen } = evidence
  const order = seenOrder(evidence)
  const isSilent = video.scan === 'unknown' && order !== undefined
  const scan = isSilent ? (order === null ? 'progressive' : 'interlaced') : video.scan
  const isOpen = video.fieldOrder === null || video.fieldOrder === 'unknown'
  const fieldOrder = scan === 'interlaced' && isOpen ? (order ?? video.fieldOrder) : video.fieldOrder
  const combs =
    scan === 'progressive' &&
    corrections.scan === undefined &&
    combing.verdict === 'combed' &&
    isSure(combing)
  const { width, height } = seen
  const detail = seen.verdict === 'enlarged' && isSure(seen) && width && height ? { width, height } : null
  // Of 2:3:3:2 one frame in five is left out, as of other repeats.
  const phase = pulldown?.pattern === '2:3' ? pulldown.phase : null
  const measured = combs || phase !== null || detail ? { combs, pulldownPhase: phase, detail } : undefined
  if (scan === video.scan && fieldOrder === video.fieldOrder && !measured) return reading
  return { ...reading, video: { ...video, scan, fieldOrder, ...(measured ? { measured } : {}) } }
}

/** What is surely seen of fields: their order, or that there are none (null); undefined where it cannot be told. */
function seenOrder({ fieldOrder }: Evidence): FieldOrder | null | undefined {
  if (!isSure(fieldOrder) || fieldOrder.verdict === 'cannot-tell') return undefined
  return fieldOrder.verdict === 'progressive' ? null : fieldOrder.verdict
}

/** A picture without its baked bars; never less than a pixel. */
const cropped = (
  { width, height }: { width: number; height: number },
  { left, right, top, bottom }: Sides,
) => ({
  width: Math.max(1, Math.round(width - left - right)),
  height: Math.max(1, Math.round(height - top - bottom)),
  ...(Math.round(top) % 2 === 1 ? { firstLine: 1 as const } : {}),
})

/** A corrected rate is meant as constant: the measured spread of a variable one no longer holds. */
function retimed(video: VideoFacts, { rate, repeatsOut }: Corrections): VideoFacts {
  if (!rate && !repeatsOut) return video
  const {
    minRate: _min,
    maxRate: _max,
    meanRate: _mean,
    medianRate: _median,
    offNominalShare: _share,
    ...steady
  } = video
  const played = rate ?? video.rate
  if (!repeatsOut || !played) return { ...steady, rate: played, rateMode: 'constant' }
  return {
    ...steady,
    rate: multiply(played, trueShare(repeatsOut)),
    rateMode: 'constant',
    frameCount: video.frameCount === null ? null : trueFrames(repeatsOut, video.frameCount),
  }
}

const holdSum = ({ holds }: RepeatsOut) => holds.reduce((sum, hold) => sum + hold, 0)

/** True frames among the frames of a clip. */
const trueShare = (repeats: RepeatsOut): Rational => rational(repeats.holds.length, holdSum(repeats))

/** The index in the clip at which its true frame `k` comes on. */
export function storedFrame({ holds, phase }: RepeatsOut, k: number): number {
  const period = holdSum({ holds, phase })
  const skipped = holdsBefore(holds, phase)
  const cycle = Math.floor((k + skipped) / holds.length)
  const within = k + skipped - cycle * holds.length
  const begin = holds.slice(0, within).reduce((sum, hold) => sum + hold, 0)
  // The hold that is on at the start has begun before it.
  return Math.max(0, cycle * period + begin - phase)
}

/** The hold within a pattern that is on at a phase. */
function holdsBefore(holds: readonly number[], phase: number): number {
  let passed = 0
  return holds.findIndex((hold) => (passed += hold) > phase)
}

/** The true frame that is on at a stored one. */
export function trueFrame(repeats: RepeatsOut, stored: number): number {
  let k = Math.max(0, Math.floor(stored * toNumber(trueShare(repeats))) - repeats.holds.length)
  while (storedFrame(repeats, k + 1) <= stored) k++
  return k
}

/** How many true frames so many stored ones hold. */
const trueFrames = (repeats: RepeatsOut, stored: number): number =>
  stored === 0 ? 0 : trueFrame(repeats, stored - 1) + 1

function newDuration(claimed: Reading, { rate }: Corrections): number | null {
  const { video, durationSec } = claimed
  if (!rate || !video || claimed.kind !== 'video') return durationSec
  if (video.frameCount) return video.frameCount / toNumber(rate)
  return durationSec && video.rate ? (durationSec * toNumber(video.rate)) / toNumber(rate) : durationSec
}

/** What a correction does to the clip, in sentences with figures, before it is applied. */
export function consequences(claimed: Reading, corrections: Corrections): string[] {
  const after = applyCorrections(claimed, corrections)
  const [was, is] = [claimed.video, after.video]
  if (!was || !is) return []
  const said: string[] = []
  if (corrections.rate && claimed.kind === 'video' && was.rate && !equal(was.rate, corrections.rate))
    said.push(...speedSentences(claimed, after))
  if (corrections.pulldownOut !== undefined && is.rate)
    said.push(`2:3 pulldown is taken out: ${rateName(filmRate(is.rate))} film frames a second.`)
  if (corrections.repeatsOut && is.rate)
    said.push(`Each frame is taken once: ${rateName(is.rate)} true frames a second.`)
  const shape = displaySize(is)
  if (corrections.pixelAspect && !equal(was.pixelAspect, corrections.pixelAspect)) {
    said.push(
      `Shows as ${Math.round(shape.width)}×${shape.height}, ${aspectName(is)}, instead of ${aspectName(was)}.`,
    )
  }
  const { width, height } = decodedSize(was, corrections)
  if (width !== was.width || height !== was.height)
    said.push(
      `All that the file holds is the picture: ${width}×${height} instead of ${was.width}×${was.height}.`,
    )
  if (corrections.crop)
    said.push(`Of ${width}×${height} stays ${is.width}×${is.height}: the bars are no picture.`)
  if (corrections.rotation !== undefined && corrections.rotation !== was.rotation) {
    const shown = displaySize(uprightSize(is))
    const [width, height] = isQuarterTurn(is.rotation)
      ? [shape.height, shape.width]
      : [shown.width, shown.height]
    said.push(`Stands upright after a turn of ${is.rotation}°: ${Math.round(width)}×${Math.round(height)}.`)
  }
  if (corrections.scan && corrections.scan !== was.scan) {
    said.push(
      is.scan === 'interlaced'
        ? 'Each frame is taken as two fields: it is deinterlaced where a timeline is progressive.'
        : 'Frames are taken as whole: nothing is deinterlaced.',
    )
  }
  if (corrections.fieldOrder && is.scan === 'interlaced' && corrections.fieldOrder !== was.fieldOrder) {
    said.push(
      `Fields are shown ${spaced(is.fieldOrder ?? 'unknown')}: with the wrong order, motion goes back and forth.`,
    )
  }
  if (
    corrections.colour &&
    (is.colour.primaries !== was.colour.primaries || is.colour.transfer !== was.colour.transfer)
  ) {
    said.push(
      `Colour is taken as ${is.colour.primaries ?? 'not stated'} / ${is.colour.transfer ?? 'not stated'}; the stored values stay.`,
    )
  }
  if (is.premultiplied !== was.premultiplied)
    said.push(
      is.premultiplied
        ? 'Its colours are divided by what is seen through: dark edges go.'
        : 'Its colours are taken as they are: bright edges go.',
    )
  if (corrections.colour && is.colour.range !== was.colour.range && is.colour.range)
    said.push(`Samples are read as ${is.colour.range} range.`)
  return said
}

function speedSentences(claimed: Reading, after: Reading): string[] {
  const was = present(claimed.video?.rate, 'a rate is corrected where there is one')
  const is = present(after.video?.rate, 'a corrected rate is there')
  const speed = toNumber(is) / toNumber(was)
  const seconds = (value: number | null) => (value === null ? 'an unknown time' : exactSeconds(value))
  const time = `${seconds(claimed.durationSec)} become ${seconds(after.durationSec)}`
  const share = exactPercent(speed)
  return speed < 1
    ? [`Slow motion from real frames: ${share} speed, ${time}. No frame is created.`]
    : [
        `Plays faster: ${share} speed, ${time}. The same frames, ${rateName(is)} of them a second; none is created.`,
      ]
}

/** What a correction takes out of a clip or takes it for, in a few words each. */
export const changeWords = ({ pulldownOut, repeatsOut, scan, crop }: CorrectionChange): string[] =>
  [
    typeof pulldownOut === 'number' && 'pulldown taken out',
    repeatsOut && 'each frame taken once',
    scan === 'progressive' && 'frames taken whole',
    crop && 'baked bars cropped away',
  ].filter((words) => typeof words === 'string')

/** What shortening does, for a sentence: `2 placements are shortened to what is there`. */
export const shortenedSentence = (placements: number, frames: number): string =>
  placements === 0
    ? ''
    : `${counted(placements, 'placement is', 'placements are')} shortened to what is there, ${counted(frames, 'frame')} in all.`
