import { type Planes, type Samples, placeFor } from '../../core/planes/planes'
import { type Meaning, matrixWeights } from '../../core/planes/screen'
import { type DpxLayout, dpxLayout } from '../../core/reading/still/dpx-samples'
import type { ByteSource } from '../../core/reading/bytes/source'
import { type MediaLocator, byteSource } from '../source'
import { type ClipKind, type DecodedFrame, type Engine, noPicture } from './engine'
import { planesFrame } from './planes-frame'
import { turns } from '../turns'

const headerLength = 2048
/** Lines are read in stretches of so many bytes: of a large picture nothing is held but its planes. */
const stretchBytes = 16 * 2 ** 20

/** A DPX by its own samples; null where they lie in a way that is not known here. */
export async function openDpx(locator: MediaLocator, { steps, meaning }: ClipKind): Promise<Engine | null> {
  const source = byteSource(locator)
  const layout = dpxLayout(await source.read(0, headerLength), source.size)
  if (!layout) return null
  const isLight = meaning.transfer === 'linear'
  const signal = isLight ? { ...meaning, transfer: 'bt709' } : meaning
  const isRgb = layout.parts.includes('r')
  const shown: Meaning = isRgb ? { ...signal, matrix: 'bt709', range: 'full' } : signal
  // A picture may take two hundred megabytes: it stays as long as there is room.
  let held: WeakRef<Planes> | null = null
  // Whoever comes while it is unpacked takes what comes out.
  const inTurn = turns()
  const frame = (signal: AbortSignal): Promise<DecodedFrame> =>
    inTurn(async () => {
      signal.throwIfAborted()
      try {
        const planes = held?.deref() ?? (await planesOfDpx(source, layout, isLight, signal))
        held = new WeakRef(planes)
        return planesFrame(0, planes, shown)
      } catch (error) {
        signal.throwIfAborted()
        throw noPicture(error)
      }
    })
  return {
    engine: 'browser',
    steps,
    sample: (_, signal) => frame(signal),
    near: (_, signal) => frame(signal),
    async *samples(_, signal) {
      yield await frame(signal)
    },
    close: () => {},
  }
}

/** Light as the signal of a display, sample by sample (ITU-R BT.709 §1.2). */
function curveOf(most: number): Uint16Array {
  const signalOf = (light: number) => (light < 0.018 ? 4.5 * light : 1.099 * light ** 0.45 - 0.099)
  return Uint16Array.from({ length: most + 1 }, (_, value) => Math.round(most * signalOf(value / most)))
}

async function planesOfDpx(
  source: ByteSource,
  layout: DpxLayout,
  isLight: boolean,
  signal: AbortSignal,
): Promise<Planes> {
  const { width, height, bitDepth, parts, pixels, offset, lineBytes, unpack } = layout
  const isWide = bitDepth > 8
  const plane = (across = 1) => placeFor(Math.ceil(width / across) * height, isWide, null)
  const alpha = parts.includes('a') ? plane() : null
  const chroma = parts.length > 1 ? { cb: plane(pixels), cr: plane(pixels) } : null
  const planes: Planes = { width, height, bitDepth, across: pixels, down: 1, luma: plane(), chroma, alpha }
  const line = new Uint16Array(Math.ceil(width / pixels) * parts.length)
  const lay = layer(planes, layout, isLight ? curveOf(2 ** bitDepth - 1) : null)
  const together = Math.max(1, Math.floor(stretchBytes / lineBytes))
  for (let top = 0; top < height; top += together) {
    const lines = Math.min(together, height - top)
    const bytes = await source.read(offset + top * lineBytes, lines * lineBytes)
    signal.throwIfAborted()
    if (bytes.length < lines * lineBytes) throw new Error('the picture ends too early')
    for (let i = 0; i < lines; i++) {
      unpack(new DataView(bytes.buffer, bytes.byteOffset + i * lineBytes, lineBytes), line)
      lay(line, top + i)
    }
  }
  return planes
}

/** How a line of samples gets into the planes. @param curve what each of red, green and blue becomes first */
function layer(
  { width, luma, chroma, alpha }: Planes,
  { parts, pixels, bitDepth }: DpxLayout,
  curve: Uint16Array | null,
): (line: Uint16Array, row: number) => void {
  const [each, half, most] = [parts.length, 2 ** (bitDepth - 1), 2 ** bitDepth - 1]
  const [a, r, g, b] = (['a', 'r', 'g', 'b'] as const).map((part) => parts.indexOf(part)) as [
    number,
    number,
    number,
    number,
  ]
  const put = (plane: Samples | undefined, from: number, place: number, line: Uint16Array) => {
    if (!plane) return
    const count = plane === luma ? width : Math.ceil(width / pixels)
    const step = plane === luma ? each / pixels : each
    for (let x = 0, at = from; x < count; x++, at += step) plane[place + x] = line[at] ?? 0
  }
  if (r < 0)
    return (line, row) => {
      put(luma, parts.indexOf('y'), row * width, line)
      const place = row * Math.ceil(width / pixels)
      put(chroma?.cb, parts.indexOf('cb'), place, line)
      put(chroma?.cr, parts.indexOf('cr'), place, line)
    }
  const [kr, kb] = matrixWeights('bt709')
  const kg = 1 - kr - kb
  const [forBlue, forRed] = [1 / (2 * (1 - kb)), 1 / (2 * (1 - kr))]
  const within = (value: number) => (value < 0 ? 0 : value > most ? most : Math.round(value))
  return (line, row) => {
    for (let x = 0, at = 0, to = row * width; x < width; x++, at += each, to++) {
      let [red, green, blue] = [line[at + r] ?? 0, line[at + g] ?? 0, line[at + b] ?? 0]
      if (curve) [red, green, blue] = [curve[red] ?? 0, curve[green] ?? 0, curve[blue] ?? 0]
      const y = kr * red + kg * green + kb * blue
      luma[to] = Math.round(y)
      if (chroma) {
        chroma.cb[to] = within(half + (blue - y) * forBlue)
        chroma.cr[to] = within(half + (red - y) * forRed)
      }
      if (alpha) alpha[to] = line[at + a] ?? most
    }
  }
}
