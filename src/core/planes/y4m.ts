import { type Rate } from '../rate/rate'
import { type Rational, rational } from '../rational/rational'
import { type PlaneLayout, type Planes, bytesOfLayout } from './planes'

/** What the head of a YUV4MPEG2 stream says, and how long each of its frames is. */
export interface Y4mHead extends PlaneLayout {
  /** Null where it says 0:0. */
  readonly rate: Rate | null
  /** Null where it says nothing, or that frames differ. */
  readonly order: 'progressive' | 'top-first' | 'bottom-first' | null
  /** Width to height of a pixel; null where it says 0:0 or nothing. */
  readonly pixelAspect: Rational | null
  /** The name of the chroma layout: `420jpeg`, `422`, `mono`. */
  readonly chroma: string
  /** Null where it says nothing. */
  readonly range: 'full' | 'limited' | null
  /** Of what was red, green and blue before it was written so, the matrix it was turned by: said in a word of ours, which others pass over. */
  readonly rgbMatrix: string | null
  /** Bytes of the head, its line end included. */
  readonly headBytes: number
  /** Bytes of one frame's samples, without its own head. */
  readonly frameBytes: number
}

/** How many samples of luma stand for one of chroma, across and down, and how many planes there are. */
const layouts: Readonly<Record<string, readonly [across: number, down: number, planes: number]>> = {
  '420': [2, 2, 3],
  '411': [4, 1, 3],
  '422': [2, 1, 3],
  '440': [1, 2, 3],
  '444': [1, 1, 3],
  '444alpha': [1, 1, 4],
  mono: [1, 1, 1],
}

/** A fraction of two whole numbers, as `25:1`; null of anything else. */
function fractionIn(text = ''): Rational | null {
  const [, num, den] = /^(\d{1,15}):(\d{1,15})$/.exec(text) ?? []
  return Number(num) > 0 && Number(den) > 0 ? rational(Number(num), Number(den)) : null
}

const largest = 32_768
/** How the word of a head begins that says so. */
export const rgbMatrixWord = 'XRGBMATRIX='
const ranges = { FULL: 'full', LIMITED: 'limited' } as const
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
  const value = (letter: string) => words.find((word) => word.startsWith(letter))?.slice(letter.length)
  const [width, height] = [Number(value('W')), Number(value('H'))]
  if (![width, height].every((side) => Number.isInteger(side) && side >= 1 && side <= largest))
    return { wrong: `Its size ${value('W')}×${value('H')} is none.` }
  const chroma = value('C') ?? '420jpeg'
  const [, name = '', deep] =
    /^(420|411|422|440|444alpha|444|mono)(?:p?(9|1[0-6]))?(?:jpeg|mpeg2|paldv)?$/.exec(chroma) ?? []
  const layout = layouts[name]
  if (!layout) return { wrong: `Its chroma “${chroma}” is not known.` }
  const [across, down, planeCount] = layout
  const bitDepth = Number(deep ?? 8)
  const lies = { width, height, bitDepth, across, down, planeCount }
  const order = { p: 'progressive', t: 'top-first', b: 'bottom-first' } as const
  return {
    ...lies,
    rate: fractionIn(value('F')),
    pixelAspect: fractionIn(value('A')),
    order: order[(value('I') ?? '') as keyof typeof order] ?? null,
    chroma,
    range: ranges[(value('XCOLORRANGE=') ?? '') as keyof typeof ranges] ?? null,
    rgbMatrix: value(rgbMatrixWord) ?? null,
    headBytes: end + 1,
    frameBytes: bytesOfLayout(lies),
  }
}

const orderLetters = { progressive: 'p', 'top-first': 't', 'bottom-first': 'b' } as const

/** The head of a stream of such frames, its line end included. */
export function writeY4mHead(head: Omit<Y4mHead, 'headBytes' | 'frameBytes'>): string {
  const { width, height, rate, order, pixelAspect, chroma, range } = head
  const fraction = (rational: Rational | null) => (rational ? `${rational.num}:${rational.den}` : '0:0')
  return [
    `YUV4MPEG2 W${width} H${height} F${fraction(rate)}`,
    ...(order ? [`I${orderLetters[order]}`] : []),
    `A${fraction(pixelAspect)} C${chroma}`,
    ...(range ? [`XCOLORRANGE=${range.toUpperCase()}`] : []),
  ]
    .join(' ')
    .concat('\n')
}

/** The samples of a frame as they follow each other in a stream. */
export function bytesOfPlanes({ luma, chroma, alpha }: Planes): Uint8Array[] {
  return [luma, ...(chroma ? [chroma.cb, chroma.cr] : []), ...(alpha ? [alpha] : [])].map(
    ({ buffer, byteOffset, byteLength }) => new Uint8Array(buffer, byteOffset, byteLength),
  )
}
