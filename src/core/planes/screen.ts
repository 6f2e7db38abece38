import type { Planes, Samples } from './planes'

/** What the samples of a picture mean, as ITU-T H.273 names it. */
export interface Meaning {
  readonly matrix: string
  readonly primaries: string | null
  readonly transfer: string | null
  readonly range: 'full' | 'limited' | null
  /** Whether it is of standard definition, whose primaries are brought to BT.709 by the matrix alone. */
  readonly isStandardDefinition?: boolean
}

/** A picture as a screen takes it: red, green, blue and opacity, a byte each. */
export interface ScreenPicture {
  readonly width: number
  readonly height: number
  readonly data: Uint8ClampedArray<ArrayBuffer>
}

/** What red and blue weigh in luma: BT.601, BT.709, BT.2020 non-constant (ITU-T H.273 table 4). */
const weights: Readonly<Record<string, readonly [red: number, blue: number]>> = {
  'bt601-625': [0.299, 0.114],
  'bt601-525': [0.299, 0.114],
  bt709: [0.2126, 0.0722],
  bt2020: [0.2627, 0.0593],
}
/** What red and blue weigh in the luma of a matrix; of one that is not known, as in BT.709. */
export const matrixWeights = (matrix: string): readonly [red: number, blue: number] =>
  weights[matrix] ?? [0.2126, 0.0722]

/** Whether a matrix is computed: of one that is not, colours come out wrong. RGB has none. */
export const isMatrixKnown = (matrix: string): boolean => matrix === 'rgb' || matrix in weights

/** What stands for luminance in BT.2020. */
export const luminance2020 = [0.2627, 0.678, 0.0593] as const
const [red2020, green2020, blue2020] = luminance2020
/** Fine enough that two neighbours of 10 bits never fall on one. */
const steps = 4096
const tabled = (curve: (x: number) => number): Float32Array =>
  Float32Array.from({ length: steps + 1 }, (_, i) => curve(i / steps))
const looked = (table: Float32Array, x: number): number =>
  table[x <= 0 ? 0 : x >= 1 ? steps : (x * steps + 0.5) | 0] ?? 0

/** Light of a PQ signal as a share of 1000 cd/m², brighter held there (SMPTE ST 2084). */
export function lightOfPq(signal: number): number {
  const power = Math.max(0, signal) ** (1 / 78.84375)
  const light = (Math.max(0, power - 0.8359375) / (18.8515625 - 18.6875 * power)) ** (1 / 0.1593017578125)
  return Math.min(1, light * 10)
}

/** Scene light of an HLG signal, 0 … 1 (ITU-R BT.2100). */
export function lightOfHlg(signal: number): number {
  const [a, b, c] = [0.17883277, 0.28466892, 0.55991073]
  return signal <= 0.5 ? signal ** 2 / 3 : (Math.exp((signal - c) / a) + b) / 12
}

/** What of the luma of a picture of 1000 cd/m² is seen on a screen of 100, both as gamma 1/2.4 (ITU-R BT.2446, method A). */
export function toneMapped(luma: number): number {
  const rho = (nits: number) => 1 + 32 * (nits / 10_000) ** (1 / 2.4)
  const [bright, dim] = [rho(1000), rho(100)]
  const perceived = Math.log(1 + (bright - 1) * luma) / Math.log(bright)
  const bent =
    perceived <= 0.7399
      ? 1.077 * perceived
      : perceived < 0.9909
        ? -1.151 * perceived ** 2 + 2.7811 * perceived - 0.6302
        : 0.5 * perceived + 0.5
  return (dim ** bent - 1) / (dim - 1)
}

const once = <T>(make: () => T) => {
  let value: T | undefined
  return () => (value ??= make())
}
const tables = once(() => ({
  pq: tabled((signal) => lightOfPq(signal) ** (1 / 2.4)),
  hlg: tabled(lightOfHlg),
  light: tabled((signal) => signal ** 2.4),
  signal: tabled((light) => light ** (1 / 2.4)),
  tone: tabled(toneMapped),
}))

export type Rgb = [red: number, green: number, blue: number]

/** Signals of HDR (BT.2100) to signals of SDR in the same primaries, in place. */
export function toneMap(rgb: Rgb, transfer: 'pq' | 'hlg'): void {
  const { pq, hlg, tone, signal } = tables()
  if (transfer === 'pq') for (let i = 0; i < 3; i++) rgb[i] = looked(pq, rgb[i] ?? 0)
  else {
    const [r, g, b] = rgb.map((x) => looked(hlg, x)) as Rgb
    // The light of the screen at a peak of 1000 cd/m²: a system gamma of 1.2.
    const gain = Math.max(0, red2020 * r + green2020 * g + blue2020 * b) ** 0.2
    rgb[0] = looked(signal, r * gain)
    rgb[1] = looked(signal, g * gain)
    rgb[2] = looked(signal, b * gain)
  }
  const luma = red2020 * rgb[0] + green2020 * rgb[1] + blue2020 * rgb[2]
  const seen = looked(tone, luma)
  const colour = luma > 0 ? seen / (1.1 * luma) : 0
  const cb = (colour * (rgb[2] - luma)) / 1.8814
  const cr = (colour * (rgb[0] - luma)) / 1.4746
  const y = seen - Math.max(0.1 * cr, 0)
  rgb[0] = y + 1.4746 * cr
  rgb[2] = y + 1.8814 * cb
  rgb[1] = (y - red2020 * rgb[0] - blue2020 * rgb[2]) / green2020
}

/** Signals in BT.2020 primaries to BT.709, in place; what lies outside is held at the edge (ITU-R BT.2407, its plain matrix). */
export function narrow(rgb: Rgb): void {
  const { light, signal } = tables()
  const [r, g, b] = rgb.map((x) => looked(light, x)) as Rgb
  rgb[0] = looked(signal, 1.6605 * r - 0.5876 * g - 0.0728 * b)
  rgb[1] = looked(signal, -0.1246 * r + 1.1329 * g - 0.0083 * b)
  rgb[2] = looked(signal, -0.0182 * r - 0.1006 * g + 1.1187 * b)
}

/**
 * A picture for the screen: by its matrix and range, HDR tone mapped (BT.2446 A), BT.2020 primaries brought to BT.709.
 * @param stride only every so many pixels of every so many lines, for small pictures
 */
export function toScreen(planes: Planes, meaning: Meaning, stride = 1): ScreenPicture {
  const { luma, chroma, alpha, bitDepth, across } = planes
  const width = Math.ceil(planes.width / stride)
  const height = Math.ceil(planes.height / stride)
  const data = new Uint8ClampedArray(width * height * 4)
  const top = 2 ** bitDepth - 1
  const unit = 2 ** (bitDepth - 8)
  const full = meaning.range === 'full'
  const [black, lumaSpan, chromaSpan] = full ? [0, top, top] : [16 * unit, 219 * unit, 224 * unit]
  const middle = 128 * unit
  const [kr, kb] = matrixWeights(meaning.matrix)
  const kg = 1 - kr - kb
  const [toRed, toBlue] = [(2 * (1 - kr)) / chromaSpan, (2 * (1 - kb)) / chromaSpan]
  const { transfer } = meaning
  const hdr = transfer === 'pq' || transfer === 'hlg' ? transfer : null
  const wide = meaning.primaries === 'bt2020' || hdr !== null
  const chromaWidth = Math.ceil(planes.width / across)
  const rgb: Rgb = [0, 0, 0]
  const at = (samples: Samples, index: number) => samples[index] ?? 0
  let out = 0
  for (let row = 0; row < height; row++) {
    const line = row * stride
    const chromaLine = Math.floor(line / planes.down) * chromaWidth
    for (let column = 0; column < width; column++) {
      const x = column * stride
      const from = line * planes.width + x
      const y = (at(luma, from) - black) / lumaSpan
      rgb[0] = rgb[1] = rgb[2] = y
      if (chroma) {
        const c = chromaLine + Math.floor(x / across)
        rgb[0] = y + toRed * (at(chroma.cr, c) - middle)
        rgb[2] = y + toBlue * (at(chroma.cb, c) - middle)
        rgb[1] = (y - kr * rgb[0] - kb * rgb[2]) / kg
      }
      if (hdr) toneMap(rgb, hdr)
      if (wide) narrow(rgb)
      data[out++] = rgb[0] * 255
      data[out++] = rgb[1] * 255
      data[out++] = rgb[2] * 255
      data[out++] = alpha ? (at(alpha, from) * 255) / top : 255
    }
  }
  return { width, height, data }
}
