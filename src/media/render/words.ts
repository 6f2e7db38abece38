import {
  codecOf,
  holdsTimecode,
  soundCodecNamed,
  type Profile,
  type VideoCodec,
  type DeliveryWrapper,
  perChroma,
  wrapperNamed,
} from '../../core/dispatch/codecs'
import type { Deliverable } from '../../core/model/deliverable'
import type { Format } from '../../core/format/format'
import { matrixOf } from '../../core/picture/colour'
import type { Chroma } from '../../core/dispatch/codecs'

/** How the picture comes to what writes the file: as planes, or as the browser has encoded it. */
export type PictureComes = 'planes' | 'encoded'

/** What is to be written, as the media toolkit is told it. Its inputs are `/in/picture` and `/in/sound`. */
export interface WritingOrder {
  readonly deliverable: Deliverable
  readonly picture: PictureComes
  /** Sound as it comes, 32-bit samples interleaved; null for none. */
  readonly sound: { readonly sampleRate: number; readonly channels: number } | null
  /** The timecode of the first frame, `;` before the frames where numbers are dropped. */
  readonly timecode: string
  /** Which of two passes it is; null where one is all. */
  readonly pass: 1 | 2 | null
}

/** Where passes keep what they measured. */
export const logFolder = '/log'

const wrapperWords: Readonly<Record<DeliveryWrapper, readonly string[]>> = {
  MP4: ['-movflags', '+faststart+write_colr', '-f', 'mp4'],
  QuickTime: ['-movflags', '+faststart+write_colr', '-f', 'mov'],
  MXF: ['-f', 'mxf'],
  Matroska: ['-f', 'matroska'],
  WebM: ['-f', 'webm'],
}

const layoutName: Readonly<Record<Chroma, string>> = {
  '4:2:0': 'yuv420p',
  '4:2:2': 'yuv422p',
  '4:4:4': 'yuv444p',
}
/** How planes of a profile are called. */
export const pixelFormatOf = ({ chroma, bitDepth }: Profile): string =>
  layoutName[chroma] + (bitDepth > 8 ? `${bitDepth}le` : '')

/** Bytes of one frame as planes. */
export function frameBytes({ chroma, bitDepth }: Profile, { width, height }: Format): number {
  const [across, down] = perChroma[chroma]
  const samples = width * height + 2 * Math.ceil(width / across) * Math.ceil(height / down)
  return samples * (bitDepth > 8 ? 2 : 1)
}

const primariesName: Readonly<Record<string, string>> = {
  bt709: 'bt709',
  bt2020: 'bt2020',
  'bt601-625': 'bt470bg',
  'bt601-525': 'smpte170m',
}
const transferName: Readonly<Record<string, string>> = {
  bt709: 'bt709',
  pq: 'smpte2084',
  hlg: 'arib-std-b67',
}
const matrixName: Readonly<Record<string, string>> = { ...primariesName, bt2020: 'bt2020nc' }

/** What a format's samples mean, by the names and by the numbers of ITU-T H.273. */
export function colourOf(format: Format) {
  const { primaries, transfer } = format.colour
  const matrix = matrixOf(format, { primaries })
  return {
    primaries: primariesName[primaries] ?? 'bt709',
    transfer: transferName[transfer] ?? 'bt709',
    matrix: matrixName[matrix] ?? 'bt709',
  }
}
const number: Readonly<Record<string, number>> = {
  bt709: 1,
  bt470bg: 5,
  smpte170m: 6,
  bt2020: 9,
  bt2020nc: 9,
  smpte2084: 16,
  'arib-std-b67': 18,
}

/** All that the toolkit is told, but for the name of the file. @throws Error where the deliverable is not whole */
export function writingWords(order: WritingOrder): string[] {
  const { deliverable, picture, sound, timecode, pass } = order
  const { format, video } = deliverable
  const [wrapper, set] = [wrapperNamed(deliverable.wrapper), codecOf(video)]
  if (!wrapper || !set) throw new Error('This deliverable is not said in full.')
  const { codec, profile } = set
  const rate = `${format.rate.num}/${format.rate.den}`
  const comes =
    picture === 'encoded'
      ? ['-f', 'ivf', '-i', '/in/picture']
      : [
          ...['-f', 'rawvideo', '-pixel_format', pixelFormatOf(profile)],
          ...['-video_size', `${format.width}x${format.height}`, '-framerate', rate, '-i', '/in/picture'],
        ]
  const written = [...timecodeWords(wrapper, timecode), ...wrapperWords[wrapper]]
  return [
    ...comes,
    ...(sound
      ? [
          ...['-f', 'f32le', '-ar', `${sound.sampleRate}`, '-ac', `${sound.channels}`],
          ...['-channel_layout', layouts[sound.channels] ?? `${sound.channels}c`, '-i', '/in/sound'],
        ]
      : []),
    ...[
      '-map',
      '0:v:0',
      ...(sound ? ['-map', '1:a:0'] : ['-an']),
      '-map_metadata',
      '-1',
      '-fflags',
      '+bitexact',
    ],
    ...(picture === 'encoded' ? asEncoded(codec, format) : encoded(codec, profile, deliverable)),
    ...(pass ? ['-pass', `${pass}`, '-passlogfile', `${logFolder}/pass`] : []),
    ...(sound ? soundWords(deliverable) : []),
    ...(pass === 1 ? ['-f', 'null'] : written),
  ]
}

/** How a wrapper is told the timecode of its first frame. */
function timecodeWords(wrapper: DeliveryWrapper, timecode: string): string[] {
  if (!holdsTimecode.has(wrapper)) return []
  // Matroska has no track for it: it is a tag of the picture.
  return wrapper === 'Matroska' ? ['-metadata:s:v:0', `timecode=${timecode}`] : ['-timecode', timecode]
}

const layouts: Readonly<Record<number, string>> = { 1: 'mono', 2: 'stereo', 6: '5.1' }

/** What the browser has encoded goes in as it is; what its samples mean is written into it. */
function asEncoded(codec: VideoCodec, format: Format): string[] {
  const { primaries, transfer, matrix } = colourOf(format)
  const { num, den } = format.pixelAspect
  const options = [
    `colour_primaries=${number[primaries]}`,
    `transfer_characteristics=${number[transfer]}`,
    `matrix_coefficients=${number[matrix]}`,
  ]
  const filter =
    codec.name === 'H.264'
      ? `h264_metadata=${[...options, 'video_full_range_flag=0', `sample_aspect_ratio=${num}/${den}`].join(':')}`
      : null
  return ['-c:v', 'copy', ...(filter ? ['-bsf:v', filter] : [])]
}

function encoded(codec: VideoCodec, profile: Profile, { format, video }: Deliverable): string[] {
  const { primaries, transfer, matrix } = colourOf(format)
  const isInterlaced = format.scan === 'interlaced'
  const first = format.fieldOrder === 'bottom-first' ? 'bff' : 'tff'
  const params = [
    `field_mode=${isInterlaced ? first : 'prog'}`,
    'range=limited',
    `color_primaries=${primaries}`,
    `color_trc=${transfer}`,
    `colorspace=${matrix}`,
  ]
  const bits = video?.rateControl?.kind === 'bit-rate' ? Math.round(video.rateControl.bitsPerSecond) : null
  return [
    ...['-vf', `setparams=${params.join(':')},setsar=${format.pixelAspect.num}/${format.pixelAspect.den}`],
    ...['-color_range', 'tv', '-color_primaries', primaries, '-color_trc', transfer, '-colorspace', matrix],
    ...codecWords(codec, profile, isInterlaced ? first : null, bits),
  ]
}

function codecWords(
  codec: VideoCodec,
  profile: Profile,
  fields: 'tff' | 'bff' | null,
  bits: number | null,
): string[] {
  const top = fields === 'tff' ? '1' : '0'
  const rate =
    bits === null
      ? []
      : ['-b:v', `${bits}`, '-maxrate', `${Math.round(bits * 1.5)}`, '-bufsize', `${2 * bits}`]
  switch (codec.name) {
    case 'H.264': {
      const name = { Main: 'main', High: 'high', 'High 4:2:2': 'high422' }[profile.name] ?? 'high'
      return [
        ...['-c:v', 'libx264', '-preset', 'veryfast', '-profile:v', name, ...rate],
        ...(fields ? ['-flags', '+ilme+ildct', '-x264-params', `${fields}=1`] : []),
      ]
    }
    case 'MPEG-2':
      return [
        ...[
          '-c:v',
          'mpeg2video',
          '-profile:v',
          profile.chroma === '4:2:2' ? '0' : '4',
          '-g',
          '12',
          '-bf',
          '2',
        ],
        ...(bits === null
          ? []
          : ['-b:v', `${bits}`, '-minrate', `${bits}`, '-maxrate', `${bits}`, '-bufsize', `${bits}`]),
        ...['-dc', '10', '-intra_vlc', '1', '-non_linear_quant', '1', '-qmin', '1', '-qmax', '28'],
        ...(fields ? ['-flags', '+ilme+ildct', '-top', top] : []),
      ]
    case 'ProRes': {
      const name =
        { '422 Proxy': '0', '422 LT': '1', '422': '2', '422 HQ': '3', '4444': '4' }[profile.name] ?? '3'
      return ['-c:v', 'prores_ks', '-profile:v', name, ...(fields ? ['-flags', '+ildct', '-top', top] : [])]
    }
    case 'DNxHR':
      return ['-c:v', 'dnxhd', '-profile:v', `dnxhr_${profile.name.toLowerCase()}`]
    case 'FFV1':
      return [
        '-c:v',
        'ffv1',
        '-level',
        '3',
        '-slicecrc',
        '1',
        ...(fields ? ['-flags', '+ildct', '-top', top] : []),
      ]
    case 'VP9':
      return ['-c:v', 'libvpx-vp9', '-deadline', 'realtime', '-cpu-used', '6', ...rate]
    default:
      throw new Error(`${codec.name} is encoded by the browser alone, and this one does not.`)
  }
}

function soundWords({ sound }: Deliverable): string[] {
  if (!sound) return []
  const rate = ['-ar', `${sound.sampleRate}`, '-ac', `${sound.channels}`]
  const amount = soundCodecNamed(sound.codec)?.amount
  const bits =
    amount && 'bitsPerChannel' in amount ? ['-b:a', `${amount.bitsPerChannel * sound.channels}`] : []
  switch (sound.codec) {
    case 'PCM 24 bit':
      return ['-c:a', 'pcm_s24le', ...rate]
    case 'PCM 16 bit':
      return ['-c:a', 'pcm_s16le', ...rate]
    case 'Opus':
      // What it looks for at a higher level needs more of the stack than the toolkit has.
      return ['-c:a', 'libopus', '-compression_level', '4', ...bits, ...rate]
    case 'FLAC':
      return ['-c:a', 'flac', ...rate]
    default:
      return ['-c:a', 'aac', ...bits, ...rate]
  }
}
