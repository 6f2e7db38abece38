import { type Measured, measuredOf } from './measured'
import { type Clip } from '../model/clip'
import { pixelSizeName, shapeName } from '../format/format'
import { rateName } from '../rate/rate'
import type { VideoFacts } from '../reading/reading'
import { movingAs } from '../picture/picture'
import { displaySize } from '../picture/size'
import { clockTime, exactSeconds, figure, fileSize } from '../words/figures'

/** A line of the docket: a fact, and where it was claimed. */
export interface FactLine {
  readonly name: string
  readonly value: string
  readonly origin: string
  /** A claim that a correction overrules; it stays visible. */
  readonly overruled?: boolean
  /** Of several voices, the one that counts. */
  readonly counts?: boolean
}

const join = (parts: (string | null | undefined | false | 0)[], by = ', ') => parts.filter(Boolean).join(by)

/** Sound and picture that begin less than this apart are together, in seconds. */
const together = 0.02
const besidePicture = (startSec: number) =>
  Math.abs(startSec) < together
    ? null
    : `begins ${exactSeconds(Math.abs(startSec), 3)} ${startSec > 0 ? 'behind' : 'before'} the picture`

/** What of a clip's corrections speaks of a line. */
const spoken: Readonly<Record<string, readonly (keyof Clip['corrections'])[]>> = {
  picture: ['window', 'pixelAspect', 'rotation', 'crop'],
  motion: ['rate', 'repeatsOut', 'pulldownOut'],
  scan: ['scan', 'fieldOrder'],
  colour: ['colour'],
}
/**
 * A clip's reading for reading: picture, motion, scan, colour, sound, file. A fact has up to three voices, in this order: what
 * was corrected, what was claimed, what was measured; the first of them counts.
 */
export function factsOf(clip: Clip): FactLine[] {
  const lines = linesOf(clip, clip.reading)
  const claims = clip.claimed ? linesOf(clip, clip.claimed) : lines
  const measured = measuredOf(clip)
  const edges = measured.some(({ about }) => about === 'edges')
    ? [{ name: 'edges', value: clip.corrections.crop ? 'bars taken out' : '', origin: '' }]
    : []
  return [...lines, ...edges].flatMap((line) => voicesOf(clip, line, claims, measured))
}

/** All that is said of one fact. */
function voicesOf(
  clip: Clip,
  line: FactLine,
  claims: readonly FactLine[],
  measured: readonly Measured[],
): FactLine[] {
  // A correction may state what was not claimed at all; lines without a name are never corrected.
  const claim = line.name ? claims.find(({ name }) => name === line.name) : line
  const isCorrected = (spoken[line.name] ?? []).some((fact) => clip.corrections[fact] !== undefined)
  const seen = measured
    .filter(({ about }) => about === line.name)
    .map(({ says }): FactLine => ({ name: '', value: says, origin: 'measured' }))
  const changed = claim?.value !== line.value
  const others = [
    ...(changed && claim ? [{ ...claim, name: '', overruled: true }] : []),
    // What nobody claimed is held as measured: it is said once.
    ...(changed && !isCorrected ? [] : seen),
  ]
  const origin = !changed ? line.origin : isCorrected ? 'corrected' : 'measured'
  const held = { ...line, origin, ...(others.length ? { counts: true } : {}) }
  // A fact that only the picture speaks of has no voice before it.
  if (!line.value) return seen.map((voice, i) => ({ ...voice, name: i === 0 ? line.name : '', counts: true }))
  return [held, ...others]
}

function linesOf(clip: Clip, reading: Clip['reading']): FactLine[] {
  const { origins } = clip
  const file: FactLine = {
    name: 'file',
    value: join([
      reading?.container && `${reading.container} wrapper`,
      fileSize(clip.sizeBytes),
      clip.folder && `in ${clip.folder}`,
    ]),
    origin: '',
  }
  if (!reading) return [file]
  const video = reading.video ? videoLines(reading.video, origins, reading.kind === 'still') : []
  const sound = reading.audio.map((track, i) => ({
    name: i === 0 ? 'sound' : '',
    value: join([
      track.codec,
      track.channels && `${track.channels} channels`,
      track.sampleRate && `${track.sampleRate / 1000} kHz`,
      track.bitDepth && `${track.bitDepth} bit`,
      besidePicture(track.startSec ?? 0),
    ]),
    origin: '',
  }))
  const time =
    reading.durationSec === null
      ? []
      : [
          {
            name: 'lasts',
            value: `${clockTime(reading.durationSec)} (${exactSeconds(reading.durationSec)})`,
            origin: origins.durationSec ?? '',
          },
        ]
  const starts = reading.timecode
    ? [
        {
          name: 'starts at',
          value: `${reading.timecode.start}${reading.timecode.dropFrame ? ', drop-frame' : ''}`,
          origin: origins.timecode ?? '',
        },
      ]
    : []
  const chroma = join([
    reading.recordedAt && `recorded ${reading.recordedAt}`,
    reading.reel && `reel ${reading.reel}`,
  ])
  return [
    ...video,
    ...time,
    ...starts,
    ...sound,
    file,
    ...(chroma ? [{ name: '', value: chroma, origin: '' }] : []),
  ]
}

function videoLines(video: VideoFacts, origins: Clip['origins'], still: boolean): FactLine[] {
  const shown = displaySize(video)
  const nonSquare = video.pixelAspect.num !== video.pixelAspect.den
  const shape = nonSquare ? ` → shows as ${Math.round(shown.width)}×${shown.height}` : ''
  const picture = join([
    `${pixelSizeName(video)}${shape}`,
    shapeName(video),
    video.rotation !== 0 && `turned ${video.rotation}°`,
  ])
  const lines: FactLine[] = [
    {
      name: 'picture',
      value: picture,
      origin: (nonSquare ? origins['video.pixelAspect'] : origins['video.width']) ?? '',
    },
    {
      name: 'codec',
      value: join([
        join([video.codec, video.profile], ' '),
        video.bitDepth && `${video.bitDepth} bit`,
        video.chroma,
        video.alpha && (video.premultiplied ? 'alpha, premultiplied' : 'alpha'),
      ]),
      origin: origins['video.profile'] ?? origins['video.bitDepth'] ?? '',
    },
  ]
  if (!still) {
    lines.push({ name: 'motion', value: motion(video), origin: origins['video.rate'] ?? '' })
    const order =
      video.fieldOrder === 'unknown'
        ? 'field order not stated'
        : video.fieldOrder?.replace('-first', ' field first')
    lines.push({
      name: 'scan',
      value: video.scan === 'unknown' ? 'not stated' : join([video.scan, order]),
      origin: origins['video.fieldOrder'] ?? origins['video.scan'] ?? '',
    })
  }
  const { primaries, transfer, matrix, range } = video.colour
  if (primaries || transfer || matrix || range) {
    const names = new Set([primaries, transfer, matrix].filter(Boolean))
    lines.push({
      name: 'colour',
      value: join([[...names].join(' / '), range && `${range} range`]),
      origin: origins['video.colour.primaries'] ?? origins['video.colour.range'] ?? '',
    })
  }
  return lines
}

const measured = (rate: number | undefined, decimals = 1) =>
  rate === undefined ? '?' : figure(rate, decimals)

function motion(video: VideoFacts): string {
  if (!video.rate) return 'rate not stated'
  const frames = video.frameCount !== null && `${video.frameCount} frames`
  if (video.rateMode === 'variable') {
    return join([
      `variable ${measured(video.minRate)} to ${measured(video.maxRate)} a second, mean ${measured(video.meanRate, 2)}`,
      frames,
    ])
  }
  const fields =
    video.scan === 'interlaced' && `${rateName({ num: video.rate.num * 2, den: video.rate.den })} fields`
  const exact = video.rate.den === 1 ? '' : ` (${video.rate.num}/${video.rate.den})`
  const film = video.measured?.pulldownOut && movingAs({ ...video, pulldownOut: true }).rate
  return join([
    `${rateName(video.rate)}${exact} frames a second`,
    fields,
    frames,
    film && `pulldown taken out: ${rateName(film)} film frames`,
    video.captureRate && `recorded at ${rateName(video.captureRate)}`,
  ])
}
