import { type Difference, type DifferenceAbout, differencesOf } from '../format/compare'
import { type Format, aspectName, sizeName } from '../format/format'
import { pictureOf } from '../picture/picture'
import { equal, rational } from '../rational/rational'
import { isStandardRate, rateName, rateWithScan } from '../rate/rate'
import { isHdr } from '../picture/colour'
import { capital, figure, percent, ratio, spaced } from '../words/figures'
import type { Reading, VideoFacts } from '../reading/reading'

/** One thing about a clip that an editor should see: where it differs from a format, or is odd in itself. */
export interface Mark {
  readonly about: DifferenceAbout | 'sound' | 'rotation' | 'claims'
  /** A word or two for a list. */
  readonly short: string
  /** A sentence with figures, and what to do where something can be done. */
  readonly sentence: string
}

/** Where a clip differs from a format, each property alone. Stills and sound differ from none. */
export function differencesFrom(reading: Reading, format: Format): Mark[] {
  const { video } = reading
  if (reading.kind !== 'video' || !video) return []
  return differencesOf(pictureOf(video), format).flatMap((difference) => markOf(difference) ?? [])
}

/** A difference as a mark; null where it costs nothing at all. */
function markOf(difference: Difference): Mark | null {
  switch (difference.about) {
    case 'size':
      return {
        about: 'size',
        short: 'size',
        sentence: `${sizeName(difference.from)} in a project of ${sizeName(difference.to)}.`,
      }
    case 'pixel shape':
      return {
        about: 'pixel shape',
        short: 'pixels',
        sentence: `Pixels of ${ratio(difference.from)} in a project of ${ratio(difference.to)}.`,
      }
    case 'rate':
      return {
        about: 'rate',
        short: 'rate',
        sentence: `${rateName(difference.from)} frames a second in a project of ${rateName(difference.to)}.`,
      }
    case 'scan':
      return {
        about: 'scan',
        short: difference.from === 'interlaced' ? 'fields' : 'progressive',
        sentence: `${capital(difference.from)} in a project that is ${difference.to}.`,
      }
    case 'field order':
      return {
        about: 'field order',
        short: 'field order',
        sentence: `${capital(spaced(difference.from))} in a project of ${spaced(difference.to)}: one line of shift.`,
      }
    case 'colour':
      return difference.step === 'matrix'
        ? null
        : {
            about: 'colour',
            short: 'colour',
            sentence: `Colour of ${difference.from} in a project of ${difference.to}.`,
          }
    case 'depth':
      return {
        about: 'depth',
        short: `${difference.from} bit`,
        sentence: `${difference.from} bit in a project of ${difference.to} bit: the finer steps are rounded away.`,
      }
  }
}

/** What is odd about a clip in itself, whatever the project. */
export function oddities(reading: Reading): Mark[] {
  const { video } = reading
  if (!video) return []
  const marks: Mark[] = []
  if (reading.kind === 'video') marks.push(...motionOddities(video))
  if (!equal(video.pixelAspect, rational(1))) {
    const shape = ratio(video.pixelAspect)
    marks.push({
      about: 'pixel shape',
      short: `pixels ${shape}`,
      sentence: `Pixels are ${shape}, so ${sizeName(video)} shows as ${aspectName(video)}.`,
    })
  }
  if (video.rotation) {
    marks.push({
      about: 'rotation',
      short: `turned ${video.rotation}°`,
      sentence: `Stored ${video.width}×${video.height} and turned by ${video.rotation}° to stand upright.`,
    })
  }
  const { transfer } = video.colour
  if (transfer !== null && isHdr(transfer)) {
    marks.push({
      about: 'colour',
      short: transfer.toUpperCase(),
      sentence: `High dynamic range (${transfer.toUpperCase()}): it looks flat and grey where it is shown as SDR.`,
    })
  }
  if (reading.kind === 'video' && reading.audio.length === 0) {
    marks.push({ about: 'sound', short: 'no sound', sentence: 'The file holds no sound.' })
  }
  for (const note of reading.notes) {
    marks.push({
      about: 'claims',
      short: note.code.startsWith('contradiction') ? 'claims differ' : spaced(note.code),
      sentence: note.message,
    })
  }
  return marks
}

function motionOddities(video: VideoFacts): Mark[] {
  const marks: Mark[] = []
  if (video.rateMode === 'variable') {
    const range = [video.minRate, video.maxRate]
      .map((rate) => (rate === undefined ? '?' : figure(rate)))
      .join('–')
    const share = percent(video.offNominalShare ?? 0)
    marks.push({
      about: 'rate',
      short: `variable ${range}`,
      sentence: `Variable rate, ${range} frames a second, ${share} of the frames off by more than 10 %: a constant timeline repeats and drops frames.`,
    })
  } else if (!video.rate) {
    marks.push({
      about: 'rate',
      short: 'rate unknown',
      sentence: 'The file does not say its rate. Correct it before placing the clip.',
    })
  } else if (!isStandardRate(video.rate)) {
    marks.push({
      about: 'rate',
      short: 'unusual rate',
      sentence: `${rateWithScan(video.rate, video.scan)} is no standard rate.`,
    })
  }
  if (video.scan === 'interlaced') {
    const order =
      video.fieldOrder === null || video.fieldOrder === 'unknown'
        ? 'field order not stated'
        : video.fieldOrder.replace('-', ' field ')
    marks.push({
      about: 'scan',
      short: 'fields',
      sentence: `Interlaced, ${order}: it combs where a progressive timeline weaves it.`,
    })
  }
  return marks
}
