import { rational } from '../rational/rational'
import { parseRate } from '../rate/parse'
import { FrameSize } from '../picture/size'
import { type Rotation } from '../picture/turn'
import { type Format, makeFormat } from './format'

const largestSide = 32768

/**
 * Reads a frame size: `1920x1080`, `1440×1080/4:3`.
 * @returns null when the text is no size, a side is 0 or over 32768, or pixels are shaped beyond 1:16 and 16:1.
 */
export function parseSize(text: string): FrameSize | null {
  const match = /^\s*(\d{1,5})\s*[x×*]\s*(\d{1,5})\s*(?:\/\s*(\d{1,5})\s*:\s*(\d{1,5}))?\s*$/i.exec(text)
  if (!match) return null
  const [width, height] = [Number(match[1]), Number(match[2])]
  const [num, den] = [Number(match[3] ?? 1), Number(match[4] ?? 1)]
  if (!num || !den || width > largestSide || height > largestSide) return null
  const size = { width, height, pixelAspect: rational(num, den) }
  return FrameSize.safeParse(size).success ? size : null
}

/** A stored picture: a size with a turn, as the terminal's `fit` takes it: `1920x1080@90`. */
export function parsePicture(text: string): (FrameSize & { rotation: Rotation }) | null {
  const [sizePart = '', turn = '0', ...rest] = text.split('@')
  const size = parseSize(sizePart)
  if (!size || rest.length || !['0', '90', '180', '270'].includes(turn.trim())) return null
  return { ...size, rotation: Number(turn) as Rotation }
}

/** A format and what was decided while reading it (a snapped rate). */
export interface TypedFormat {
  readonly format: Format
  readonly message: string | null
}

/**
 * Reads a format: `1920x1080@25p`, `3840x2160@23.976p`, `1440x1080/4:3@50i`. Without `p` or `i` it is progressive.
 * @returns null when the text is no format.
 */
export function parseFormat(text: string): TypedFormat | null {
  const [sizePart, ratePart, ...rest] = text.split('@')
  if (sizePart === undefined || ratePart === undefined || rest.length > 0) return null
  const size = parseSize(sizePart)
  const typed = parseRate(ratePart)
  if (!size || !typed) return null
  return { format: makeFormat(size, typed.rate, typed.scan ?? 'progressive'), message: typed.message }
}
