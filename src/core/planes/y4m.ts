import { type Rate } from '../rate/rate'
import { rational } from '../rational/rational'

/** What the head of a YUV4MPEG2 stream says, and how long each of its frames is. */
export interface Y4mHead {
  readonly width: number
  readonly height: number
  /** Null where it says 0:0. */
  readonly rate: Rate | null
  /** Null where it says nothing, or that frames differ. */
  readonly order: 'progressive' | 'top-first' | 'bottom-first' | null
  readonly bitDepth: number
  /** The name of the chroma layout: `420jpeg`, `422`, `mono`. */
  readonly chroma: string
  /** Bytes of the head, its line end included. */
  readonly headBytes: number
  /** Bytes of one frame's samples, without its own head. */
  readonly frameBytes: number
}

/** How many samples of chroma stand for one of luma, across and down; 0 for none at all. */
const layouts: Readonly<Record<string, readonly [across: number, down: number, planes: number]>> = {
  '420': [2, 2, 2],
  '411': [4, 1, 2],
  '422': [2, 1, 2],
  '440': [1, 2, 2],
  '444': [1, 1, 2],
  '444alpha': [1, 1, 3],
  mono: [0, 0, 0],
}

const largest = 32_768
/** A frame's own head, without parameters. */
export const frameMark = 'FRAME'

/**
 * Reads the head of a YUV4MPEG2 stream (mjpegtools, yuv4mpeg(5)).
 * @param bytes the beginning of the stream, the line of its head at least
 * @returns what it says, or what is wrong with it
 */
export function readY4mHead(bytes: Uint8Array): Y4mHead | { readonly wrong: string } {
  const end = bytes.indexOf(10)
  const line = end < 0 ? '' : new TextDecoder('latin1').decode(bytes.subarray(0, end))
  const [magic, ...words] = line.split(' ').filter(Boolean)
  if (magic !== 'YUV4MPEG2') return { wrong: 'It does not begin as YUV4MPEG2.' }
  const value = (letter: string) => words.find((word) => word.startsWith(letter))?.slice(1)
  const [width, height] = [Number(value('W')), Number(value('H'))]
  if (![width, height].every((side) => Number.isInteger(side) && side >= 1 && side <= largest))
    return { wrong: `Its size ${value('W')}×${value('H')} is none.` }
  const chroma = value('C') ?? '420jpeg'
  const [, name = '', deep] =
    /^(420|411|422|440|444alpha|444|mono)(?:p?(9|1[0-6]))?(?:jpeg|mpeg2|paldv)?$/.exec(chroma) ?? []
  const layout = layouts[name]
  if (!layout) return { wrong: `Its chroma “${chroma}” is not known.` }
  const [across, down, planes] = layout
  const bitDepth = Number(deep ?? 8)
  const samples = planes
    ? width * height * (planes === 3 ? 2 : 1) + 2 * Math.ceil(width / across) * Math.ceil(height / down)
    : width * height
  const [num = 0, den = 0] = (value('F') ?? '0:0').split(':').map(Number)
  const order = { p: 'progressive', t: 'top-first', b: 'bottom-first' } as const
  return {
    width,
    height,
    rate: num > 0 && den > 0 && Number.isInteger(num) && Number.isInteger(den) ? rational(num, den) : null,
    order: order[(value('I') ?? '') as keyof typeof order] ?? null,
    bitDepth,
    chroma,
    headBytes: end + 1,
    frameBytes: samples * (bitDepth > 8 ? 2 : 1),
  }
}

/** The luma of a frame as 8 bits a sample; deeper samples (two bytes, the lower first) are shifted down. */
export function lumaOfFrame({ width, height, bitDepth }: Y4mHead, samples: Uint8Array): Uint8Array {
  const count = width * height
  if (bitDepth === 8) return samples.slice(0, count)
  const luma = new Uint8Array(count)
  for (let i = 0; i < count; i++)
    luma[i] = ((samples[2 * i] ?? 0) | ((samples[2 * i + 1] ?? 0) << 8)) >> (bitDepth - 8)
  return luma
}
