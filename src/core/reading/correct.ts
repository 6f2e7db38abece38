import { z } from 'zod'
import { PixelAspect } from '../picture/size'
import { type Rational, equal, toNumber } from '../rational/rational'
import { aspectName, displaySize } from '../format/format'
import { Rate, rateName } from '../rate/rate'
import { Colour, FieldOrder, type Reading, Rotation, type VideoFacts } from './reading'

/** The editor's word over a file's claims; what is left out stays as claimed. */
export const Corrections = z.object({
  rate: Rate.optional(),
  pixelAspect: PixelAspect.optional(),
  scan: z.enum(['progressive', 'interlaced']).optional(),
  fieldOrder: FieldOrder.optional(),
  rotation: Rotation.optional(),
  colour: Colour.optional(),
})
export type Corrections = z.infer<typeof Corrections>

export const isCorrected = (corrections: Corrections): boolean =>
  Object.values(corrections).some((v) => v !== undefined)

/**
 * A reading as corrected. Another rate plays the same frames faster or slower: the running time follows, the frames do not change.
 * Sound and stills have no rate to correct.
 */
export function applyCorrections(claimed: Reading, corrections: Corrections): Reading {
  const { video } = claimed
  if (!video || !isCorrected(corrections)) return claimed
  const { rate, pixelAspect, rotation, colour } = corrections
  const scan = corrections.scan ?? video.scan
  const corrected: VideoFacts = {
    ...(rate && claimed.kind === 'video' ? withRate(video, rate) : video),
    pixelAspect: pixelAspect ?? video.pixelAspect,
    rotation: rotation ?? video.rotation,
    colour: colour ?? video.colour,
    scan,
    fieldOrder: scan === 'progressive' ? null : (corrections.fieldOrder ?? video.fieldOrder ?? 'unknown'),
  }
  return {
    ...claimed,
    video: corrected,
    durationSec: rate ? newDuration(claimed, rate) : claimed.durationSec,
  }
}

/** A corrected rate is meant as constant: the measured spread of a variable one no longer holds. */
function withRate(video: VideoFacts, rate: Rational): VideoFacts {
  const {
    minRate: _min,
    maxRate: _max,
    meanRate: _mean,
    medianRate: _median,
    offNominalShare: _share,
    ...steady
  } = video
  return { ...steady, rate, rateMode: 'constant' }
}

function newDuration(claimed: Reading, rate: Rational): number | null {
  const video = claimed.video!
  if (claimed.kind !== 'video') return claimed.durationSec
  if (video.frameCount) return video.frameCount / toNumber(rate)
  return claimed.durationSec && video.rate
    ? (claimed.durationSec * toNumber(video.rate)) / toNumber(rate)
    : claimed.durationSec
}

/** What a correction does to the clip, in sentences with figures, before it is applied. */
export function consequences(claimed: Reading, corrections: Corrections): string[] {
  const after = applyCorrections(claimed, corrections)
  const [was, is] = [claimed.video, after.video]
  if (!was || !is) return []
  const said: string[] = []
  if (corrections.rate && claimed.kind === 'video' && was.rate && !equal(was.rate, corrections.rate))
    said.push(...speedSentences(claimed, after))
  const shape = displaySize(is)
  if (corrections.pixelAspect && !equal(was.pixelAspect, corrections.pixelAspect)) {
    said.push(
      `Shows as ${Math.round(shape.width)}×${shape.height}, ${aspectName(is)}, instead of ${aspectName(was)}.`,
    )
  }
  if (corrections.rotation !== undefined && corrections.rotation !== was.rotation) {
    const upright = is.rotation % 180 === 0 ? [shape.width, shape.height] : [shape.height, shape.width]
    said.push(
      `Stands upright after a turn of ${is.rotation}°: ${Math.round(upright[0])}×${Math.round(upright[1])}.`,
    )
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
      `Fields are shown ${is.fieldOrder?.replace('-', ' ')}: with the wrong order, motion goes back and forth.`,
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
  return said
}

function speedSentences(claimed: Reading, after: Reading): string[] {
  const [was, is] = [claimed.video!.rate!, after.video!.rate!]
  const speed = toNumber(is) / toNumber(was)
  const time = `${claimed.durationSec?.toFixed(2)} s become ${after.durationSec?.toFixed(2)} s`
  const percent = `${Number((speed * 100).toFixed(2))} %`
  return speed < 1
    ? [`Slow motion from real frames: ${percent} speed, ${time}. No frame is created.`]
    : [
        `Plays faster: ${percent} speed, ${time}. The same frames, ${rateName(is)} of them a second; none is created.`,
      ]
}
