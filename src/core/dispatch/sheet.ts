import type { Deliverable } from '../model/deliverable'
import { timecodeAt } from '../model/timeline'
import { type Format, formatName } from '../format/format'
import { matrixOf } from '../picture/colour'
import { toNumber } from '../rational/rational'
import { counted, fileSize, kilohertz, ratio, runningTime, spaced, upTo } from '../words/figures'
import { bitRateRange } from './usual'
import {
  type VideoCodec,
  codecOf,
  holdsTimecode,
  levelFor,
  soundCodecNamed,
  videoCodecNamed,
  wrapperNamed,
} from './codecs'
import type { Outgoing } from './outgoing'

/** A line of the settings sheet: what is set, to what, and what there is to know of it. */
export interface SheetLine {
  readonly name: string
  readonly value: string
  readonly note: string
}

export const megabits = (bitsPerSecond: number): string => `${upTo(bitsPerSecond / 1e6, 1)} Mbit/s`

/** Bits a second of a deliverable's picture: what is set, or what its profile comes to; null where nothing tells. */
export function pictureBits(deliverable: Deliverable): number | null {
  const { video, format } = deliverable
  const codec = videoCodecNamed(video?.codec)
  if (!codec || !video) return null
  if (video.rateControl?.kind === 'bit-rate') return video.rateControl.bitsPerSecond
  return codec.amount === 'profile' ? bitRateRange(codec, video.profile ?? '', format)[1] : null
}

/** Bits a second of a deliverable's sound. */
export function soundBits({ sound }: Deliverable): number {
  const codec = soundCodecNamed(sound?.codec)
  if (!codec || !sound) return 0
  const { amount } = codec
  return (
    sound.channels *
    ('bitsPerChannel' in amount ? amount.bitsPerChannel : sound.sampleRate * amount.bitsPerSample)
  )
}

/** The settings of a deliverable in words and figures, as they are handed to whoever has to make or take it. */
export function settingsSheet(deliverable: Deliverable, out: Outgoing | null): SheetLine[] {
  const { format, wrapper, video, sound } = deliverable
  const codec = videoCodecNamed(video?.codec)
  const profile = codecOf(video)?.profile
  const bits = pictureBits(deliverable)
  const line = (name: string, value: string, note = ''): SheetLine => ({ name, value, note })
  return [
    line('wrapper', wrapper ?? 'not said', wrapper === 'MP4' || wrapper === 'QuickTime' ? 'index first' : ''),
    ...(video
      ? [line('codec', [video.codec, video.profile].filter(Boolean).join(' '), levelNote(deliverable))]
      : []),
    line('picture', formatName(format), `pixels ${ratio(format.pixelAspect)}`),
    ...(format.fieldOrder ? [line('fields', spaced(format.fieldOrder))] : []),
    line(
      'colour',
      colourName(format),
      `limited range${profile ? `, ${profile.bitDepth} bit ${profile.chroma}` : ''}`,
    ),
    ...(codec && video
      ? [
          line('bit rate', bits === null ? 'as it comes' : megabits(bits), rangeNote(codec, deliverable)),
          ...(video.passes === 2
            ? [line('passes', '2', 'the first measures, the second spreads the bits')]
            : []),
        ]
      : []),
    sound
      ? line(
          'sound',
          `${sound.codec}, ${kilohertz(sound.sampleRate)}, ${counted(sound.channels, 'channel')}`,
          `${upTo(soundBits(deliverable) / 1000, 0)} kbit/s`,
        )
      : line('sound', 'none'),
    ...(sound?.loudnessLufs === null || !sound
      ? []
      : [line('loudness', `${upTo(sound.loudnessLufs, 1)} LUFS`, 'true peak below −1 dB')]),
    ...(out ? lengthLines(deliverable, out, bits) : []),
    ...(deliverable.burnIn ? [line('in the picture', 'timecode and source frame')] : []),
  ]
}

function levelNote({ format, video }: Deliverable): string {
  if (video?.codec !== 'H.264' || video.rateControl?.kind !== 'bit-rate') return ''
  const level = levelFor(format, toNumber(format.rate), video.rateControl.bitsPerSecond, video.profile)
  return level ? `level ${level}` : ''
}

/** What the colour of a format is called, with the matrix that its size means. */
function colourName(format: Format): string {
  const { primaries, transfer } = format.colour
  const matrix = matrixOf(format, { primaries })
  const names = [...new Set([primaries, transfer, matrix])].map((name) =>
    name.replace(/^bt(\d+)/, 'BT.$1').toUpperCase(),
  )
  return names.join(', ')
}

/** From where to where a bit rate makes sense, and where that comes from. */
function rangeNote(codec: VideoCodec, { format, video }: Deliverable): string {
  const pixels = format.width * format.height * toNumber(format.rate)
  const each = `${upTo(pixels / 1e6, 0)} million pixels a second`
  const bits = codec.bitsPerPixel(video?.profile ?? '')
  if (codec.amount === 'profile') return `set by the profile: ${upTo(bits[0], 2)} bit a pixel, ${each}`
  const [least, most] = bitRateRange(codec, video?.profile ?? '', format)
  const range = `${upTo(least / 1e6, 0)}–${upTo(most / 1e6, 0)} for ${each}`
  return codec.amount === 'lossless'
    ? `nothing is lost: ${range}, by what is in the picture`
    : `${range}, at ${upTo(bits[0], 2)}–${upTo(bits[1], 2)} bit a pixel, our rule of thumb`
}

function lengthLines(
  deliverable: Deliverable,
  { timeline, range, format }: Outgoing,
  bits: number | null,
): SheetLine[] {
  const wrapper = wrapperNamed(deliverable.wrapper)
  const frames = range.to - range.from
  const seconds = frames / toNumber(format.rate)
  const size = bits === null ? '' : `about ${fileSize(((bits + soundBits(deliverable)) * seconds) / 8)}`
  return [
    { name: 'length', value: `${counted(frames, 'frame')}, ${runningTime(seconds)}`, note: size },
    {
      name: 'starts at',
      value: timecodeAt(timeline, range.from),
      note: wrapper && !holdsTimecode.has(wrapper) ? `not written: ${wrapper} holds no timecode` : '',
    },
  ]
}

/** The sheet as plain text, a line each. */
export const sheetText = (name: string, lines: readonly SheetLine[]): string =>
  [
    name,
    ...lines.map(
      (sheetLine) => `${sheetLine.name}: ${sheetLine.value}${sheetLine.note ? ` (${sheetLine.note})` : ''}`,
    ),
  ].join('\n')
