import { type Format, aspectName, pixelSizeName } from '../format/format'
import { equal, rational } from '../rational/rational'
import { rateName, rateWithScan, standardRates } from '../rate/rate'
import { isHdr } from '../reading/colour'
import type { Reading, VideoFacts } from '../reading/reading'
import { percent } from '../toll/sentence'

/** One thing about a clip that an editor should see: where it differs from a format, or is odd in itself. */
export interface Mark {
  readonly about:
    'size' | 'rate' | 'pixel shape' | 'scan' | 'colour' | 'depth' | 'sound' | 'rotation' | 'claims'
  /** A word or two for a list. */
  readonly short: string
  /** A sentence with figures, and what to do where something can be done. */
  readonly sentence: string
}

/** Where a clip differs from a format, each property alone. Stills and sound differ from none. */
export function differencesFrom(reading: Reading, format: Format): Mark[] {
  const { video } = reading
  if (reading.kind !== 'video' || !video) return []
  const marks: Mark[] = []
  const turned = video.rotation % 180 === 90
  const [width, height] = turned ? [video.height, video.width] : [video.width, video.height]
  if (width !== format.width || height !== format.height) {
    const sentence = `${width}×${height} in a project of ${format.width}×${format.height}.`
    marks.push({ about: 'size', short: 'size', sentence })
  }
  const aspect = turned ? rational(video.pixelAspect.den, video.pixelAspect.num) : video.pixelAspect
  if (!equal(aspect, format.pixelAspect)) {
    const sentence = `Pixels of ${aspect.num}:${aspect.den} in a project of ${format.pixelAspect.num}:${format.pixelAspect.den}.`
    marks.push({ about: 'pixel shape', short: 'pixels', sentence })
  }
  if (video.rate && !equal(video.rate, format.rate)) {
    marks.push({
      about: 'rate',
      short: 'rate',
      sentence: `${rateName(video.rate)} frames a second in a project of ${rateName(format.rate)}.`,
    })
  }
  if (video.scan !== 'unknown' && video.scan !== format.scan) {
    marks.push({
      about: 'scan',
      short: video.scan === 'interlaced' ? 'fields' : 'progressive',
      sentence: `${capital(video.scan)} in a ${format.scan} project.`,
    })
  }
  const { primaries, transfer } = video.colour
  const otherColour =
    (primaries && primaries !== format.colour.primaries) ||
    (transfer && isHdr(transfer) !== isHdr(format.colour.transfer))
  if (otherColour) {
    marks.push({
      about: 'colour',
      short: 'colour',
      sentence: `Colour ${primaries ?? '?'} / ${transfer ?? '?'} in a project of ${format.colour.primaries} / ${format.colour.transfer}.`,
    })
  }
  if (video.bitDepth && video.bitDepth > format.colour.bitDepth) {
    marks.push({
      about: 'depth',
      short: `${video.bitDepth} bit`,
      sentence: `${video.bitDepth} bit in a project of ${format.colour.bitDepth} bit: the finer steps are rounded away.`,
    })
  }
  return marks
}

/** What is odd about a clip in itself, whatever the project. */
export function oddities(reading: Reading): Mark[] {
  const { video } = reading
  if (!video) return []
  const marks: Mark[] = []
  if (reading.kind === 'video') marks.push(...motionOddities(video))
  if (!equal(video.pixelAspect, rational(1))) {
    const shape = `${video.pixelAspect.num}:${video.pixelAspect.den}`
    marks.push({
      about: 'pixel shape',
      short: `pixels ${shape}`,
      sentence: `Pixels are ${shape}, so ${pixelSizeName(video)} shows as ${aspectName(video)}.`,
    })
  }
  if (video.rotation) {
    marks.push({
      about: 'rotation',
      short: `turned ${video.rotation}°`,
      sentence: `Stored ${video.width}×${video.height} and turned by ${video.rotation}° to stand upright.`,
    })
  }
  if (isHdr(video.colour.transfer)) {
    marks.push({
      about: 'colour',
      short: video.colour.transfer!.toUpperCase(),
      sentence: `High dynamic range (${video.colour.transfer!.toUpperCase()}): it looks flat and grey where it is shown as SDR.`,
    })
  }
  if (reading.kind === 'video' && reading.audio.length === 0) {
    marks.push({ about: 'sound', short: 'no sound', sentence: 'The file holds no sound.' })
  }
  for (const note of reading.notes) {
    marks.push({
      about: 'claims',
      short: note.code.startsWith('contradiction') ? 'claims differ' : note.code.replace(/-/g, ' '),
      sentence: note.message,
    })
  }
  return marks
}

function motionOddities(video: VideoFacts): Mark[] {
  const marks: Mark[] = []
  if (video.rateMode === 'variable') {
    const range = [video.minRate, video.maxRate].map((rate) => rate?.toFixed(1) ?? '?').join('–')
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
  } else if (!standardRates.some((rate) => equal(rate, video.rate!))) {
    marks.push({
      about: 'rate',
      short: 'unusual rate',
      sentence: `${rateWithScan(video.rate, video.scan)} is no standard rate.`,
    })
  }
  if (video.scan === 'interlaced') {
    const order =
      video.fieldOrder === 'unknown' ? 'field order not stated' : video.fieldOrder!.replace('-', ' field ')
    marks.push({
      about: 'scan',
      short: 'fields',
      sentence: `Interlaced, ${order}: it combs where a progressive timeline weaves it.`,
    })
  }
  return marks
}

const capital = (word: string) => word[0].toUpperCase() + word.slice(1)
