import FFT from 'fft.js'
import type { BarsVerdict } from './bars'
import type { Luma } from '../planes/luma'
import { hann, magnitudes, periodsOf } from './spectrum'
import { type Axis, type Detail, type DetailVerdict, judge } from './enlarged'

/** Smaller pictures are not looked at. */
const smallest = 256
/** Differences are held to this, so that single edges do not outweigh the rest. */
const most = 24
/** A tile of the spectrum: along the axis, and across it. */
const [tileLength, tileLines] = [256, 64]

/** The part of a picture that is no bar, row by row without gaps. */
function within({ width, height, data }: Luma, { top, bottom, left, right }: BarsVerdict): Luma {
  const [w, h] = [width - left - right, height - top - bottom]
  const part = new Uint8Array(w * h)
  for (let y = 0; y < h; y++)
    part.set(data.subarray((y + top) * width + left, (y + top) * width + left + w), y * w)
  return { width: w, height: h, data: part }
}

/** A picture turned on its side: what is told along rows can be told along columns. */
function sideways({ width, height, data }: Luma): Luma {
  const turned = new Uint8Array(data.length)
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) turned[x * height + y] = data[y * width + x] ?? 0
  return { width: height, height: width, data: turned }
}

/** Mean first and second differences at each place along the rows, over all rows of all frames. */
function profiles(frames: readonly Luma[], length: number): { first: Float64Array; second: Float64Array } {
  const [first, second] = [new Float64Array(length - 1), new Float64Array(length - 2)]
  for (const { width, height, data } of frames)
    for (let y = 0; y < height; y++) {
      const row = y * width
      let before = data[row] ?? 0
      let here = data[row + 1] ?? 0
      first[0] = (first[0] ?? 0) + Math.min(most, Math.abs(here - before))
      for (let x = 2; x < width; x++) {
        const next = data[row + x] ?? 0
        first[x - 1] = (first[x - 1] ?? 0) + Math.min(most, Math.abs(next - here))
        second[x - 2] = (second[x - 2] ?? 0) + Math.min(most, Math.abs(before - 2 * here + next))
        before = here
        here = next
      }
    }
  return { first, second }
}

interface Tile {
  readonly frame: Luma
  readonly x: number
  readonly y: number
  readonly sharpness: number
}

function tilesOf(frame: Luma): Tile[] {
  const tiles: Tile[] = []
  for (let y = 0; y + tileLines <= frame.height; y += tileLines)
    for (let x = 0; x + tileLength <= frame.width; x += tileLength) {
      let sharpness = 0
      for (let line = y; line < y + tileLines; line++) {
        const from = line * frame.width + x
        for (let i = from + 1; i < from + tileLength; i++)
          sharpness += Math.abs((frame.data[i] ?? 0) - (frame.data[i - 1] ?? 0))
      }
      tiles.push({ frame, x, y, sharpness })
    }
  return tiles
}

/** Mean power of the sharpest eighth of the tiles along their rows, in codes², by bin from 0 to the highest frequency. */
function powerOf(frames: readonly Luma[]): Float64Array {
  const tiles = frames.flatMap(tilesOf).sort((a, b) => b.sharpness - a.sharpness)
  const sharpest = tiles.slice(0, Math.max(1, tiles.length >> 3))
  const [fft, window] = [new FFT(tileLength), hann(tileLength)]
  const weight = window.reduce((sum, w) => sum + w * w, 0)
  const power = new Float64Array(tileLength / 2 + 1)
  const signal = new Float64Array(tileLength)
  for (const { frame, x, y } of sharpest)
    for (let line = y; line < y + tileLines; line++) {
      const row = frame.data.subarray(line * frame.width + x, line * frame.width + x + tileLength)
      const mean = row.reduce((sum, value) => sum + value, 0) / tileLength
      for (let i = 0; i < tileLength; i++) signal[i] = ((row[i] ?? 0) - mean) * (window[i] ?? 0)
      magnitudes(fft, signal).forEach((value, k) => (power[k] = (power[k] ?? 0) + value * value))
    }
  const rows = Math.max(1, sharpest.length * tileLines)
  return power.map((value) => value / (rows * weight))
}

/** Mean level between two fractions of the band, in dB over one code². */
const levelOf = (power: Float64Array) => {
  const dB = power.map((value) => 10 * Math.log10(Math.max(1e-9, value)))
  const last = power.length - 1
  return (from: number, to: number): number => {
    const [low, high] = [
      Math.round(from * last),
      Math.max(Math.round(from * last), Math.round(Math.min(1, to) * last)),
    ]
    let sum = 0
    for (let k = low; k <= high; k++) sum += dB[k] ?? 0
    return sum / (high - low + 1)
  }
}

function axisOf(frames: readonly Luma[]): Axis {
  const length = frames[0]?.width ?? 0
  const { first, second } = profiles(frames, length)
  return { length, first: periodsOf(first), second: periodsOf(second), level: levelOf(powerOf(frames)) }
}

/**
 * The true detail of some frames of a clip.
 * @param frames up to eight, spread over the clip
 */
export function detailOf(frames: readonly Luma[], bars: BarsVerdict): DetailVerdict {
  const unknown: DetailVerdict = { verdict: 'cannot-tell', width: null, height: null, confidence: 0 }
  const inner = frames.map((frame) => within(frame, bars))
  const [one] = inner
  if (!one || one.width < smallest || one.height < smallest) return unknown
  const axes: Detail = { across: axisOf(inner), down: axisOf(inner.map(sideways)) }
  return judge(axes) ?? unknown
}
