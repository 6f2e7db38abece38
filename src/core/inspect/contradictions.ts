import { type Clip, claimsOf } from '../model/clip'
import { corrected } from '../edit/correction'
import {
  type Evidence,
  isOfOneMoment,
  isSure,
  provenBars,
  provenPulldown,
  provenRepeats,
} from '../evidence/evidence'
import { type Format, formatName } from '../format/format'
import { pictureOf } from '../picture/picture'
import { type Rate, filmRate, rateName } from '../rate/rate'
import { pulldownTakenOut } from '../choice/proposed'
import { type CorrectionChange, type Corrections, consequences } from '../reading/correct'
import type { VideoFacts } from '../reading/reading'
import type { Weights } from '../toll/policy'
import { tollOf } from '../toll/toll'
import { counted, percent } from '../words/figures'
import { barsMeasured, orderWords } from './measured'

/** A claim that the picture contradicts, or something baked in that a correction takes out. */
export interface Contradiction {
  readonly about: 'scan' | 'field order' | 'pulldown' | 'repeats' | 'bars'
  readonly title: string
  /** What was seen, with figures. */
  readonly seen: string
  readonly confidence: number
  /** What the action is called that puts the correction, and what it changes. */
  readonly action: string
  readonly change: CorrectionChange
  /** What takes the claim for true against the picture; null where there is no claim to hold to. */
  readonly holding: CorrectionChange | null
}

const frameWords = ({ frames }: Evidence): string => `in ${counted(frames, 'frame')} seen`

/** What of a clip's claims the picture contradicts, worst first; what was corrected since is none any more. */
export function contradictionsOf(clip: Clip): Contradiction[] {
  const { evidence, reading, corrections } = clip
  const { video } = reading ?? {}
  const claimed = claimsOf(clip)?.video
  if (!evidence || !video || !claimed || reading?.kind !== 'video') return []
  return [
    // Pulldown explains what combs.
    ...(corrections.scan === undefined && !provenPulldown(evidence)
      ? scanContradictions(evidence, claimed)
      : []),
    ...(corrections.fieldOrder === undefined && corrections.scan === undefined
      ? orderContradictions(evidence, claimed)
      : []),
    ...(['repeatsOut', 'pulldownOut', 'rate'].every(
      (fact) => corrections[fact as keyof Corrections] === undefined,
    )
      ? [...pulldownContradictions(evidence, claimed), ...repeatContradictions(evidence, claimed)]
      : []),
    ...(corrections.crop === undefined ? barContradictions(evidence, claimed) : []),
  ]
}

function scanContradictions(evidence: Evidence, { scan, rate }: VideoFacts): Contradiction[] {
  const { combing, fieldOrder } = evidence
  if (scan === 'progressive' && combing.verdict === 'combed' && isSure(combing)) {
    const order = fieldOrder.verdict === 'bottom-first' ? 'bottom-first' : 'top-first'
    return [
      {
        about: 'scan',
        title: 'Flagged progressive, but it combs.',
        seen: `Two moments in each frame, ${orderWords(order)}: ${percent(combing.share)} of the frames comb, ${frameWords(evidence)}.`,
        confidence: combing.confidence,
        action: `Take it as ${rate ? fieldsName(rate) : 'interlaced'}, ${order === 'top-first' ? 'top' : 'bottom'} first`,
        change: { scan: 'interlaced', fieldOrder: order },
        holding: { scan: 'progressive' },
      },
    ]
  }
  if (scan === 'interlaced' && isOfOneMoment(evidence))
    return [
      {
        about: 'scan',
        title: 'Flagged interlaced, but its frames are whole.',
        seen: `Both fields are of one moment ${frameWords(evidence)}: deinterlacing it would only soften it.`,
        confidence: fieldOrder.confidence,
        action: 'Take it as progressive',
        change: { scan: 'progressive' },
        holding: { scan: 'interlaced' },
      },
    ]
  return []
}

/** Fields are counted by their own rate: 25 frames are 50i. */
const fieldsName = (rate: Rate): string => `${rateName({ num: rate.num * 2, den: rate.den })}i`

function orderContradictions(evidence: Evidence, { scan, fieldOrder: claimed }: VideoFacts): Contradiction[] {
  const { verdict } = evidence.fieldOrder
  if (scan !== 'interlaced' || !isSure(evidence.fieldOrder)) return []
  if (verdict === 'progressive' || verdict === 'cannot-tell') return []
  if (claimed === null || claimed === 'unknown' || claimed === verdict) return []
  return [
    {
      about: 'field order',
      title: `Flagged ${orderWords(claimed)}, but the other field is first in time.`,
      seen: `As flagged, motion goes back and forth: ${orderWords(verdict)} ${frameWords(evidence)}.`,
      confidence: evidence.fieldOrder.confidence,
      action: `Take it ${verdict === 'top-first' ? 'top' : 'bottom'} field first`,
      change: { fieldOrder: verdict },
      holding: { fieldOrder: claimed },
    },
  ]
}

function repeatContradictions(evidence: Evidence, { rate }: VideoFacts): Contradiction[] {
  const { pattern, confidence } = evidence.repeats
  const { trueRate, holds, phase } = provenRepeats(evidence, rate) ?? {}
  if (!trueRate || !rate || !holds || phase === null || phase === undefined) return []
  return [
    {
      about: 'repeats',
      title: `A ${rateName(trueRate)} shot in a file of ${rateName(rate)}.`,
      seen: `Frames repeat ${pattern ?? 'evenly'} ${frameWords(evidence)}: only ${rateName(trueRate)} a second are new.`,
      confidence,
      action: `Take each frame once, at ${rateName(trueRate)}`,
      change: { repeatsOut: { holds, phase } },
      holding: null,
    },
  ]
}

/** Film in video: its frames are the clip's wherever a timeline does not hold them as they lie. */
function pulldownContradictions(evidence: Evidence, { rate }: VideoFacts): Contradiction[] {
  const pulldown = provenPulldown(evidence)
  if (!pulldown || !rate) return []
  const film = rateName(filmRate(rate))
  return [
    {
      about: 'pulldown',
      title: `A ${film} film in a file of ${rateName(rate)}.`,
      seen: `${pulldown.pattern} pulldown ${frameWords(evidence)}: only ${film} frames a second are new.`,
      confidence: evidence.repeats.confidence,
      action: `Remove pulldown, ${film}`,
      change: pulldownTakenOut(pulldown),
      holding: null,
    },
  ]
}

function barContradictions(evidence: Evidence, { width, height }: VideoFacts): Contradiction[] {
  const baked = provenBars(evidence)
  if (!baked) return []
  const { top, bottom, left, right } = baked
  const { confidence } = evidence.bars
  const [across, down] = [width - left - right, height - top - bottom]
  const share = 1 - (across * down) / (width * height)
  return [
    {
      about: 'bars',
      title: 'Bars are baked into the picture.',
      seen: `${barsMeasured(evidence).says.replace(/^b/, 'B')}: ${percent(share)} of ${width}×${height} is black.`,
      confidence,
      action: `Take ${across}×${down} as the picture`,
      change: { crop: { top, bottom, left, right } },
      holding: null,
    },
  ]
}

/** What a correction does to a clip, in sentences: to itself, and to what it pays in formats. */
export function outcomeOf(
  clip: Clip,
  change: CorrectionChange,
  formats: readonly Format[],
  weights: Weights,
): string[] {
  const claims = claimsOf(clip)
  const after = corrected(clip, change)
  if (!claims || !clip.reading?.video || !after.reading?.video) return []
  const [was, is] = [pictureOf(clip.reading.video), pictureOf(after.reading.video)]
  const prices = formats.flatMap((format) => {
    const [before, then] = [tollOf(was, format, undefined, weights), tollOf(is, format, undefined, weights)]
    return before.grade === then.grade
      ? []
      : [`In ${formatName(format)} its toll goes from ${before.grade} to ${then.grade}.`]
  })
  return [...consequences(claims, after.corrections), ...prices]
}
