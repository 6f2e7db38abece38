import type { Planes } from './planes'
import { type Meaning, type ScreenPicture, matrixWeights } from './screen'

/** Whether a picture is one that `toPreview` takes: standard range, narrow primaries, nothing to see through. */
export const hasPreview = ({ alpha, chroma }: Planes, { transfer, primaries }: Meaning): boolean =>
  alpha === null && chroma !== null && primaries !== 'bt2020' && transfer !== 'pq' && transfer !== 'hlg'

/** Places on an axis: the sample that stands for each, and the one beside it. */
function placesOn(length: number, count: number): { readonly at: Int32Array; readonly beside: Int32Array } {
  const step = length / count
  const at = Int32Array.from({ length: count }, (_, i) =>
    Math.min(length - 1, Math.floor((i + 0.5) * step - 0.25)),
  )
  const reach = step > 1.5 ? Math.max(1, Math.floor(step / 2)) : 0
  return { at, beside: at.map((place) => Math.min(length - 1, place + reach)) }
}

/** Lines of one field where they stand for those of the other too. */
function linesOf(height: number, count: number, field: 'top' | 'bottom') {
  const first = field === 'top' ? 0 : 1
  const { at } = placesOn(Math.max(1, (height - first + 1) >> 1), count)
  const lines = at.map((line) => Math.min(height - 1, 2 * line + first))
  return { at: lines, beside: lines }
}

/** What a sample adds to red, green and blue, in units of 1/64, by its value. */
function tablesOf({ matrix, range }: Meaning) {
  const [kr, kb] = matrixWeights(matrix)
  const kg = 1 - kr - kb
  const full = range === 'full'
  const [black, lumaSpan, chromaSpan] = full ? [0, 255, 255] : [16, 219, 224]
  const unit = 255 * 64
  const tableOf = (scale: number, middle: number) =>
    Int32Array.from({ length: 256 }, (_, v) => Math.round(((v - middle) * scale * unit) / 1))
  const [red, blue] = [(2 * (1 - kr)) / chromaSpan, (2 * (1 - kb)) / chromaSpan]
  return {
    luma: tableOf(1 / lumaSpan, black),
    red: tableOf(red, 128),
    blue: tableOf(blue, 128),
    greenOfRed: tableOf((-kr * red) / kg, 128),
    greenOfBlue: tableOf((-kb * blue) / kg, 128),
  }
}

/** The byte of a sum in units of 1/64, held between black and white. */
const [below, bytes] = [512, 1536]
const held = Uint8Array.from({ length: bytes }, (_, i) => Math.max(0, Math.min(255, i - below)))

/**
 * Draws pictures of one size and meaning small and fast, for playing: neighbours averaged, no more.
 * @param field whose lines alone are drawn; null for all
 */
export function previewer(
  from: Pick<Planes, 'width' | 'height' | 'across' | 'down' | 'bitDepth'>,
  meaning: Meaning,
  width: number,
  height: number,
  field: 'top' | 'bottom' | null = null,
): (planes: Planes) => ScreenPicture {
  const tables = tablesOf(meaning)
  const shift = from.bitDepth - 8
  const x = placesOn(from.width, width)
  const y = field ? linesOf(from.height, height, field) : placesOn(from.height, height)
  const chromaColumns = Math.ceil(from.width / from.across)
  const chromaX = x.at.map((place) => Math.floor(place / from.across))
  const data = new Uint8ClampedArray(width * height * 4)
  const out = new Uint32Array(data.buffer)
  return ({ luma, chroma }) => {
    if (!chroma) return { width, height, data }
    const { cb, cr } = chroma
    const { luma: ofLuma, red, blue, greenOfRed, greenOfBlue } = tables
    for (let row = 0, to = 0; row < height; row++) {
      const line = (y.at[row] as number) * from.width
      const next = (y.beside[row] as number) * from.width
      const chromaLine = Math.floor((y.at[row] as number) / from.down) * chromaColumns
      for (let column = 0; column < width; column++) {
        const [a, b] = [x.at[column] as number, x.beside[column] as number]
        const grey = ((luma[line + a] as number) + (luma[next + b] as number) + 1) >> (shift + 1)
        const c = chromaLine + (chromaX[column] as number)
        const [u, v] = [(cb[c] as number) >> shift, (cr[c] as number) >> shift]
        const base = (ofLuma[grey] as number) + 32
        const r = held[((base + (red[v] as number)) >> 6) + below] as number
        const g = held[
          ((base + (greenOfRed[v] as number) + (greenOfBlue[u] as number)) >> 6) + below
        ] as number
        const bl = held[((base + (blue[u] as number)) >> 6) + below] as number
        out[to++] = 0xff000000 | (bl << 16) | (g << 8) | r
      }
    }
    return { width, height, data }
  }
}
