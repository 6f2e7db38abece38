import type { FrameSize } from '../picture/size'
import { type FieldOrder, firstParity } from '../picture/scan'
import type { Planes } from '../planes/planes'
import type { Meaning } from '../planes/screen'
import type { Rate } from '../rate/rate'
import { toNumber } from '../rational/rational'
import { dotsAcross, dotsDown, isLit } from './digits'

/**
 * The test figure: a circle on a grid of squares, lines of one pixel across and down, colour bars, a wheel that turns and the
 * number of the frame. A circle that is none, lines that turn grey, a wheel that jumps or goes back show what was done to it.
 */
export interface FigureKind {
  readonly size: FrameSize
  readonly rate: Rate
  readonly scan: 'progressive' | 'interlaced'
}

/** It is drawn in this colour, 8 bits a sample, chroma whole. */
export const figureMeaning: Meaning = {
  matrix: 'bt709',
  primaries: 'bt709',
  transfer: 'bt709',
  range: 'limited',
}
/** Its fields come in this order. */
export const figureOrder: FieldOrder = 'top-first'

/** Bars of 75 %: white, yellow, cyan, green, magenta, red, blue, black (ITU-R BT.709, limited). */
const bars: readonly (readonly [luma: number, cb: number, cr: number])[] = [
  [180, 128, 128],
  [168, 44, 136],
  [145, 147, 44],
  [133, 63, 52],
  [63, 193, 204],
  [51, 109, 212],
  [28, 212, 120],
  [16, 128, 128],
]
const [ground, line, ring, dark, light] = [96, 128, 225, 32, 210]
/** The wheel goes round once in so many seconds. */
const turnSeconds = 2
const spokes = 12

interface Pens {
  readonly planes: Planes
  readonly cb: Uint8Array
  readonly cr: Uint8Array
  /** Square units for a pixel across. */
  readonly unit: number
}

/** What of the figure does not move. */
function still({ size }: FigureKind): Pens {
  const { width, height } = size
  const count = width * height
  const luma = new Uint8Array(count).fill(ground)
  const [cb, cr] = [new Uint8Array(count).fill(128), new Uint8Array(count).fill(128)]
  const planes = { width, height, bitDepth: 8, across: 1, down: 1, luma, chroma: { cb, cr }, alpha: null }
  const unit = toNumber(size.pixelAspect)
  const [w, h] = [width * unit, height]
  const least = Math.min(w, h)
  const square = least / 12
  const radius = least * 0.46
  const isOnGrid = (pixel: number, step: number, middle: number) =>
    Math.floor(((pixel + 1) * step - middle) / square) !== Math.floor((pixel * step - middle) / square)
  for (let y = 0, i = 0; y < height; y++) {
    const fromMiddle = y + 0.5 - h / 2
    for (let x = 0; x < width; x++, i++) {
      const across = (x + 0.5) * unit - w / 2
      if (isOnGrid(x, unit, w / 2) || isOnGrid(y, 1, h / 2)) luma[i] = line
      const away = Math.hypot(across, fromMiddle) - radius
      if (Math.abs(away) < Math.max(1.5, least / 360)) luma[i] = ring
    }
  }
  const box = (
    x: number,
    y: number,
    wide: number,
    high: number,
    draw: (px: number, py: number, i: number) => void,
  ) => {
    const [left, right] = [Math.round((w / 2 + x) / unit), Math.round((w / 2 + x + wide) / unit)]
    const [top, bottom] = [Math.round(h / 2 + y), Math.round(h / 2 + y + high)]
    for (let py = Math.max(0, top); py < Math.min(height, bottom); py++)
      for (let px = Math.max(0, left); px < Math.min(width, right); px++) draw(px, py, py * width + px)
  }
  const side = 2 * square
  box(-4 * square, -square, side, side, (px, _, i) => (luma[i] = px % 2 ? light : dark))
  box(2 * square, -square, side, side, (_, py, i) => (luma[i] = py % 2 ? light : dark))
  bars.forEach(([y, b, r], n) => {
    box((n - 4) * 0.8 * square, 2.6 * square, 0.8 * square, 0.9 * square, (_px, _py, i) => {
      luma[i] = y
      cb[i] = b
      cr[i] = r
    })
  })
  return { planes, cb, cr, unit }
}

/** The wheel and the number at a moment, on the lines from a first one on. */
function drawMoment(
  { planes, unit }: Pens,
  seconds: number,
  number: number,
  first: number,
  every: number,
): void {
  const { width, height, luma } = planes
  const [w, h] = [width * unit, height]
  const square = Math.min(w, h) / 12
  const radius = 1.5 * square
  const turn = (seconds / turnSeconds) * 2 * Math.PI
  const middle = -2.6 * square
  const text = String(number).padStart(6, '0')
  const dot = square / dotsDown
  const lines = (from: number, to: number) => {
    const top = Math.max(0, Math.round(h / 2 + from))
    return {
      top: top + ((((first - top) % every) + every) % every),
      bottom: Math.min(height, Math.round(h / 2 + to)),
    }
  }
  const wheel = lines(middle - radius, middle + radius)
  const [left, right] = [Math.floor((w / 2 - radius) / unit), Math.ceil((w / 2 + radius) / unit)]
  for (let y = wheel.top; y < wheel.bottom; y += every)
    for (let x = Math.max(0, left); x < Math.min(width, right); x++) {
      const [dx, dy] = [(x + 0.5) * unit - w / 2, y + 0.5 - h / 2 - middle]
      if (dx * dx + dy * dy > radius * radius) continue
      const angle = Math.atan2(dx, -dy) - turn
      const spoke = Math.floor(((((angle / (2 * Math.PI)) % 1) + 1) % 1) * spokes)
      luma[y * width + x] = spoke === 0 ? ring : spoke % 2 ? dark : 150
    }
  const wide = text.length * dotsAcross * dot
  const label = lines(1.3 * square, 2.3 * square)
  for (let y = label.top; y < label.bottom; y += every)
    for (let x = Math.floor((w / 2 - wide / 2) / unit); x < (w / 2 + wide / 2) / unit; x++) {
      if (x < 0 || x >= width) continue
      const column = Math.floor(((x + 0.5) * unit - w / 2 + wide / 2) / dot)
      const row = Math.min(dotsDown - 1, Math.floor((y + 0.5 - h / 2 - 1.3 * square) / dot))
      luma[y * width + x] = isLit(text, column, row) ? ring : dark
    }
}

/** Draws the frames of a figure by their index; each is a picture of its own. Of an interlaced one each field at its own moment. */
export function figureOf(kind: FigureKind): (index: number) => Planes {
  const ground = still(kind)
  const rate = toNumber(kind.rate)
  return (index) => {
    const luma = (ground.planes.luma as Uint8Array).slice()
    const planes = { ...ground.planes, luma }
    const pens = { ...ground, planes }
    if (kind.scan === 'progressive') drawMoment(pens, index / rate, index, 0, 1)
    else {
      const first = firstParity(figureOrder) === 'top' ? 0 : 1
      drawMoment(pens, index / rate, index, first, 2)
      drawMoment(pens, (index + 0.5) / rate, index, 1 - first, 2)
    }
    return planes
  }
}
