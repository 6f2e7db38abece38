import FFT from 'fft.js'
import type { BarsVerdict } from './bars'
import type { Luma } from '../planes/luma'
import { hann, periodsOf, waveAt } from './spectrum'
import { type Axis, type Detail, type DetailVerdict, judge } from './enlarged'

/** Smaller pictures are not looked at. */
const smallest = 256
/** Differences are held to this, so that single edges do not outweigh the rest. */
const most = 24
/** A tile of the spectrum: along the axis, and across it. */
const [tileLength, tileLines] = [256, 64]

/** The part of a picture that is no bar, row by row without gaps. */
function within(whole: Luma, { top, bottom, left, right }: BarsVerdict): Luma {
  const { width, height, data } = whole
  if (!(top || bottom || left || right)) return whole
  const [w, h] = [width - left - right, height - top - bottom]
  const part = new Uint8Array(w * h)
  for (let y = 0; y < h; y++)
    part.set(data.subarray((y + top) * width + left, (y + top) * width + left + w), y * w)
  return { width: w, height: h, data: part }
}

/** The way that a picture is looked along: by how many samples one goes on, and from one line to the next. */
interface Way {
  readonly length: number
  readonly lines: number
  readonly along: number
  readonly beside: number
}
const ways = ({ width, height }: Luma): { readonly across: Way; readonly down: Way } => ({
  across: { length: width, lines: height, along: 1, beside: width },
  down: { length: height, lines: width, along: width, beside: 1 },
})

const held = (difference: number): number => {
  const size = difference < 0 ? -difference : difference
  return size < most ? size : most
}

/** A picture is looked at in so many parts along each of its sides. */
const parts = 6

/** Sums of the first and the second differences at each place along a way, over some lines of all frames. */
interface Profile {
  readonly first: Float64Array
  readonly second: Float64Array
}

/** A profile for each sixth of the lines, one beside the other. */
function profiles(frames: readonly Luma[], way: Way): readonly Profile[] {
  const bands = Array.from({ length: parts }, () => ({
    first: new Float64Array(way.length - 1),
    second: new Float64Array(way.length - 2),
  }))
  for (const frame of frames)
    bands.forEach((band, i) => {
      const [from, to] = [Math.floor((way.lines * i) / parts), Math.floor((way.lines * (i + 1)) / parts)]
      if (way.along === 1) addAcross(frame, from, to, band)
      else addDown(frame, from, to, band)
    })
  return bands
}

/** All of them together. */
function wholeOf(bands: readonly Profile[]): Profile {
  const sum = (profileOf: (band: Profile) => Float64Array) =>
    bands.map(profileOf).reduce((a, b) => a.map((value, i) => value + (b[i] ?? 0)))
  return { first: sum(({ first }) => first), second: sum(({ second }) => second) }
}

function addAcross({ width, data }: Luma, top: number, bottom: number, { first, second }: Profile): void {
  const [steps, bends] = [new Uint32Array(width), new Uint32Array(width)]
  for (let y = top; y < bottom; y++) {
    const row = y * width
    let before = data[row] as number
    let here = data[row + 1] as number
    steps[1] = (steps[1] as number) + held(here - before)
    for (let x = 2; x < width; x++) {
      const next = data[row + x] as number
      steps[x] = (steps[x] as number) + held(next - here)
      bends[x] = (bends[x] as number) + held(before - 2 * here + next)
      before = here
      here = next
    }
  }
  for (let x = 1; x < width; x++) first[x - 1] = (first[x - 1] as number) + (steps[x] as number)
  for (let x = 2; x < width; x++) second[x - 2] = (second[x - 2] as number) + (bends[x] as number)
}

/** In the order of memory: row upon row, each against those above it. */
function addDown(
  { width, height, data }: Luma,
  left: number,
  right: number,
  { first, second }: Profile,
): void {
  for (let y = 1; y < height; y++) {
    let [steps, bends] = [0, 0]
    const [from, till] = [y * width + left, y * width + right]
    for (let i = from; i < till; i++) steps += held((data[i] as number) - (data[i - width] as number))
    first[y - 1] = (first[y - 1] as number) + steps
    if (y === 1) continue
    for (let i = from; i < till; i++)
      bends += held((data[i - 2 * width] as number) - 2 * (data[i - width] as number) + (data[i] as number))
    second[y - 2] = (second[y - 2] as number) + bends
  }
}

interface Tile {
  readonly frame: Luma
  /** Where its first sample lies. */
  readonly from: number
  readonly sharpness: number
}

function tilesOf(frame: Luma, { length, lines, along, beside }: Way): Tile[] {
  const tiles: Tile[] = []
  const { data } = frame
  const [outer, inner] = along === 1 ? [tileLines, tileLength] : [tileLength, tileLines]
  for (let line = 0; line + tileLines <= lines; line += tileLines)
    for (let at = 0; at + tileLength <= length; at += tileLength) {
      const from = line * beside + at * along
      let sharpness = 0
      for (let y = along === 1 ? 0 : 1; y < outer; y++) {
        const row = from + y * frame.width
        for (let x = along === 1 ? 1 : 0; x < inner; x++) {
          const step = (data[row + x] as number) - (data[row + x - along] as number)
          sharpness += step < 0 ? -step : step
        }
      }
      tiles.push({ frame, from, sharpness })
    }
  return tiles
}

/** Mean power of the sharpest eighth of the tiles along a way, in codes², by bin from 0 to the highest frequency. */
function powerOf(frames: readonly Luma[], way: Way): Float64Array {
  const tiles = frames.flatMap((frame) => tilesOf(frame, way)).sort((a, b) => b.sharpness - a.sharpness)
  const sharpest = tiles.slice(0, Math.max(1, tiles.length >> 3))
  const [fft, window] = [new FFT(tileLength), hann(tileLength)]
  const weight = window.reduce((sum, w) => sum + w * w, 0)
  const power = new Float64Array(tileLength / 2 + 1)
  const signal = new Float64Array(tileLength)
  const spectrum = fft.createComplexArray()
  for (const { frame, from } of sharpest)
    for (let line = 0; line < tileLines; line++) {
      const at = from + line * way.beside
      let mean = 0
      for (let i = 0; i < tileLength; i++) mean += signal[i] = frame.data[at + i * way.along] ?? 0
      mean /= tileLength
      for (let i = 0; i < tileLength; i++) signal[i] = ((signal[i] ?? 0) - mean) * (window[i] ?? 0)
      fft.realTransform(spectrum, signal)
      for (let k = 0; k < power.length; k++)
        power[k] = (power[k] ?? 0) + (spectrum[2 * k] ?? 0) ** 2 + (spectrum[2 * k + 1] ?? 0) ** 2
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

function axisOf(frames: readonly Luma[], way: Way): Axis {
  const bands = profiles(frames, way)
  const { first, second } = wholeOf(bands)
  const lines = (way.lines * frames.length) / parts
  return {
    length: way.length,
    first: periodsOf(first),
    second: periodsOf(second),
    level: levelOf(powerOf(frames, way)),
    standsIn: (f) =>
      Math.max(
        shareOfTiles(
          bands.map((band) => band.first),
          first,
          bands,
          lines,
          f,
        ),
        shareOfTiles(
          bands.map((band) => band.second),
          second,
          bands,
          lines,
          f,
        ),
      ),
  }
}

/** Tiles in which next to nothing changes say nothing: mean difference, in codes. */
const leastChange = 0.4
/** At least so many have to speak. */
const leastTiles = 4

/**
 * In what share of the tiles a line of the whole stands: half as deep at least, and within a quarter turn of where it stands in the whole.
 * Scene patterns stand in some, interpolation in all.
 */
function shareOfTiles(
  rows: readonly Float64Array[],
  whole: Float64Array,
  bands: readonly Profile[],
  lines: number,
  f: number,
): number {
  const there = waveAt(whole, f)
  let [seen, having] = [0, 0]
  rows.forEach((row, i) => {
    for (let part = 0; part < parts; part++) {
      const [from, to] = [part, part + 1].map((k) => Math.floor((row.length * k) / parts)) as [number, number]
      const changes = bands[i]?.first.subarray(from, to).reduce((sum, value) => sum + value, 0) ?? 0
      if (changes / ((to - from) * lines) < leastChange) continue
      const here = waveAt(row, f, from, to)
      const apart = Math.abs(here.turn - there.turn)
      seen++
      if (here.depth >= there.depth / 2 && Math.min(apart, 1 - apart) <= 0.25) having++
    }
  })
  return seen >= leastTiles ? having / seen : 0
}

/** What is known along both axes of some frames of one size, within their bars; null where they are too small. */
export function detailAxes(frames: readonly Luma[], bars: BarsVerdict): Detail | null {
  const inner = frames.map((frame) => within(frame, bars))
  const [luma] = inner
  if (!luma || luma.width < smallest || luma.height < smallest) return null
  const { across, down } = ways(luma)
  return { across: axisOf(inner, across), down: axisOf(inner, down) }
}

/**
 * The true detail of some frames of a clip.
 * @param frames up to eight, spread over the clip
 */
export function detailOf(frames: readonly Luma[], bars: BarsVerdict): DetailVerdict {
  const axes = detailAxes(frames, bars)
  return (axes && judge(axes)) ?? { verdict: 'cannot-tell', width: null, height: null, confidence: 0 }
}
