import { isHdr, matricesDiffer } from '../picture/colour'
import type { Planes, Samples } from '../planes/planes'
import { lightBetween, primariesAlike } from '../planes/primaries'
import {
  type Meaning,
  type Rgb,
  lightOfHlg,
  lightOfPq,
  luminance2020,
  narrow,
  toneMap,
  matrixWeights,
} from '../planes/screen'
import type { ColourConversion } from '../treatment/treatment'

/** White of standard range in high dynamic range, as a share of 1000 cd/m² (ITU-R BT.2408). */
const white = 0.203

/** What is done to colour, by name and in this order; nothing where values stay as they are. */
export interface Conversion {
  readonly names: readonly string[]
  /** Signals of red, green and blue, in place; null where the matrix and the range alone change. */
  readonly signals: ((rgb: Rgb) => void) | null
}

const clamped = (x: number): number => (x < 0 ? 0 : x > 1 ? 1 : x)

/** The signal of PQ for light as a share of 1000 cd/m² (SMPTE ST 2084). */
export function signalOfPq(light: number): number {
  const power = clamped(light / 10) ** 0.1593017578125
  return ((0.8359375 + 18.8515625 * power) / (1 + 18.6875 * power)) ** 78.84375
}

/** The signal of HLG for scene light, 0 … 1 (ITU-R BT.2100). */
export function signalOfHlg(scene: number): number {
  const [a, b, c] = [0.17883277, 0.28466892, 0.55991073]
  const light = clamped(scene)
  return light <= 1 / 12 ? Math.sqrt(3 * light) : a * Math.log(12 * light - b) + c
}

const luminanceOf = ([r, g, b]: Rgb): number =>
  luminance2020[0] * r + luminance2020[1] * g + luminance2020[2] * b

/** Light of a screen with a peak of 1000 cd/m² to the light of the scene, in place: a system gamma of 1.2, and back. */
function raised(rgb: Rgb, power: number): void {
  const gain = Math.max(0, luminanceOf(rgb)) ** power
  for (let i = 0; i < 3; i++) rgb[i] = (rgb[i] as number) * (Number.isFinite(gain) ? gain : 0)
}
const each = (rgb: Rgb, convert: (x: number) => number): void => {
  for (let i = 0; i < 3; i++) rgb[i] = convert(rgb[i] as number)
}

/** Light of BT.709 primaries in those of BT.2020, in place (ITU-R BT.2087). */
function widened(rgb: Rgb): void {
  const [r, g, b] = rgb
  rgb[0] = 0.6274 * r + 0.3293 * g + 0.0433 * b
  rgb[1] = 0.0691 * r + 0.9195 * g + 0.0114 * b
  rgb[2] = 0.0164 * r + 0.088 * g + 0.8956 * b
}

const toHdr = (rgb: Rgb, transfer: string): void => {
  if (transfer === 'pq') return each(rgb, signalOfPq)
  raised(rgb, -1 / 6)
  each(rgb, signalOfHlg)
}
const fromHdr = (rgb: Rgb, transfer: string): void => {
  if (transfer === 'pq') return each(rgb, lightOfPq)
  each(rgb, lightOfHlg)
  raised(rgb, 0.2)
}

const transferName = (transfer: string): string => transfer.toUpperCase()

/** What brings a picture's primaries to a raster's, by name; null where they are the same, not stated or not known. */
function primariesStep(from: Meaning, to: Meaning): readonly [string, (rgb: Rgb) => void] | null {
  const [a, b] = [from.primaries ?? to.primaries, to.primaries ?? from.primaries]
  const isSmall = from.isStandardDefinition === true || to.isStandardDefinition === true
  if (a === null || b === null || primariesAlike(a, b, isSmall)) return null
  if (a === 'bt2020' && b === 'bt709') return ['BT.2020 colour to BT.709', narrow]
  const between = lightBetween(a, b)
  if (!between) return null
  const step = (rgb: Rgb) => {
    each(rgb, (x) => Math.max(0, x) ** 2.4)
    if (a === 'bt709' && b === 'bt2020') widened(rgb)
    else between(rgb)
    each(rgb, (x) => clamped(x) ** (1 / 2.4))
  }
  return [`${primariesName(a)} colour to ${primariesName(b)}`, step]
}
const primariesName = (name: string): string =>
  name
    .replace(/^bt/, 'BT.')
    .replace(/^smpte/, 'SMPTE ')
    .replace(/^display-p3$/, 'Display P3')

/**
 * What a picture's colour needs to stand in a raster: the one place that says so. Ranges by ITU-R BT.2446 A and BT.2408, primaries
 * by BT.2087 and BT.2407, matrices and levels exactly.
 * @param asked `auto`: what is needed; a named conversion is done where the picture is one that it is for, and no other
 */
export function conversionOf(from: Meaning, to: Meaning, asked: ColourConversion): Conversion {
  if (asked === 'none') return { names: [], signals: null }
  // What a picture does not state is taken to be as the raster's.
  const target = to.transfer ?? 'bt709'
  const source = from.transfer ?? target
  const wide = ({ primaries, transfer }: Meaning) =>
    (primaries ?? to.primaries) === 'bt2020' || isHdr(transfer ?? target)
  const does = (name: ColourConversion) => asked === 'auto' || asked === name
  const steps: ((rgb: Rgb) => void)[] = []
  const names: string[] = []
  if (isHdr(source) && !isHdr(target) && does('hdr-to-sdr')) {
    names.push(`${transferName(source)} to standard range, BT.2446 A`)
    steps.push((rgb) => toneMap(rgb, source as 'pq' | 'hlg'))
    if (!wide(to)) steps.push(narrow)
  } else if (!isHdr(source) && isHdr(target) && does('sdr-to-hdr')) {
    names.push(`standard range to ${transferName(target)}, BT.2408, white at 203 cd/m²`)
    steps.push((rgb) => {
      each(rgb, (x) => white * Math.max(0, x) ** 2.4)
      if (!wide(from)) widened(rgb)
      toHdr(rgb, target)
    })
  } else if (
    isHdr(source) &&
    isHdr(target) &&
    source !== target &&
    does(source === 'pq' ? 'pq-to-hlg' : 'hlg-to-pq')
  ) {
    names.push(`${transferName(source)} to ${transferName(target)}, BT.2408, peak 1000 cd/m²`)
    steps.push((rgb) => {
      fromHdr(rgb, source)
      toHdr(rgb, target)
    })
  } else if (asked === 'auto' && !isHdr(source) && !isHdr(target)) {
    const [name, step] = primariesStep(from, to) ?? []
    if (name !== undefined && step) {
      names.push(name)
      steps.push(step)
    }
  }
  if (matricesDiffer(from.matrix, to.matrix))
    names.push(from.matrix === 'rgb' ? `RGB to ${to.matrix}` : `matrix ${from.matrix} to ${to.matrix}`)
  if (isFull(from) !== isFull(to))
    names.push(isFull(from) ? 'full range to limited' : 'limited range to full')
  return {
    names,
    signals:
      steps.length === 0
        ? null
        : (rgb) => {
            for (const step of steps) step(rgb)
          },
  }
}

const isFull = ({ range }: Meaning): boolean => range === 'full'

/** Where black stands in samples of a depth, and how far white and colour reach from there. */
function levelsOf(meaning: Meaning, bitDepth: number) {
  const [unit, top] = [2 ** (bitDepth - 8), 2 ** bitDepth - 1]
  return isFull(meaning)
    ? { black: 0, luma: top, chroma: top, middle: 128 * unit }
    : { black: 16 * unit, luma: 219 * unit, chroma: 224 * unit, middle: 128 * unit }
}

/** Black as samples. */
export function blackOf(
  meaning: Meaning,
  bitDepth: number,
): { readonly luma: number; readonly chroma: number } {
  const { black, middle } = levelsOf(meaning, bitDepth)
  return { luma: black, chroma: middle }
}

/** Samples of another depth, rounded half up: a white of one stands on the white of the other. */
export function ofDepth(samples: Samples, from: number, to: number): Samples {
  if (from === to) return samples
  const scaled = to > 8 ? new Uint16Array(samples.length) : new Uint8Array(samples.length)
  const [most, scale] = [2 ** to - 1, 2 ** (to - from)]
  for (let i = 0; i < scaled.length; i++)
    scaled[i] = Math.min(most, Math.floor((samples[i] as number) * scale + 0.5))
  return scaled
}

/** Shares of what is seen through in another depth: all stays all. */
export function shareOfDepth(alpha: Samples, from: number, to: number): Samples {
  if (from === to) return alpha
  const scaled = to > 8 ? new Uint16Array(alpha.length) : new Uint8Array(alpha.length)
  const scale = (2 ** to - 1) / (2 ** from - 1)
  for (let i = 0; i < scaled.length; i++) scaled[i] = Math.floor((alpha[i] as number) * scale + 0.5)
  return scaled
}

/**
 * A picture with whole chroma in the colour and the depth of a raster.
 * @param planes as many samples of chroma as of luma; of a picture without colour none
 */
export function inColour(
  planes: Planes,
  from: Meaning,
  to: Meaning,
  conversion: Conversion,
  bitDepth: number,
): Planes {
  const { luma, alpha } = planes
  const depth = planes.bitDepth
  const grey = () => new Uint16Array(luma.length).fill(2 ** (depth - 1))
  const chroma = planes.chroma ?? { cb: grey(), cr: grey() }
  const rest = { ...planes, bitDepth, alpha: alpha && shareOfDepth(alpha, depth, bitDepth) }
  if (conversion.names.length === 0)
    return {
      ...rest,
      luma: ofDepth(luma, depth, bitDepth),
      chroma: { cb: ofDepth(chroma.cb, depth, bitDepth), cr: ofDepth(chroma.cr, depth, bitDepth) },
    }
  const room = () => (bitDepth > 8 ? new Uint16Array(luma.length) : new Uint8Array(luma.length))
  const converted = { luma: room(), cb: room(), cr: room() }
  const [a, b] = [levelsOf(from, depth), levelsOf(to, bitDepth)]
  const [[kr, kb], [tr, tb]] = [matrixWeights(from.matrix), matrixWeights(to.matrix)]
  const [kg, tg] = [1 - kr - kb, 1 - tr - tb]
  const most = 2 ** bitDepth - 1
  const put = (value: number) => (value < 0 ? 0 : value > most ? most : Math.floor(value + 0.5))
  const rgb: Rgb = [0, 0, 0]
  for (let i = 0; i < luma.length; i++) {
    const y = ((luma[i] as number) - a.black) / a.luma
    rgb[0] = y + (2 * (1 - kr) * ((chroma.cr[i] as number) - a.middle)) / a.chroma
    rgb[2] = y + (2 * (1 - kb) * ((chroma.cb[i] as number) - a.middle)) / a.chroma
    rgb[1] = (y - kr * rgb[0] - kb * rgb[2]) / kg
    conversion.signals?.(rgb)
    const to = tr * rgb[0] + tg * rgb[1] + tb * rgb[2]
    converted.luma[i] = put(b.black + b.luma * to)
    converted.cb[i] = put(b.middle + (b.chroma * (rgb[2] - to)) / (2 * (1 - tb)))
    converted.cr[i] = put(b.middle + (b.chroma * (rgb[0] - to)) / (2 * (1 - tr)))
  }
  return { ...rest, luma: converted.luma, chroma: { cb: converted.cb, cr: converted.cr } }
}
