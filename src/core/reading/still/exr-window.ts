import type { ByteSource } from '../bytes/source'
import { exrHeader, exrWindow, linesInChunk } from './exr'

/** A part of a picture, or more than it: from its corner, in its own pixels. */
export interface ExrWindow {
  readonly left: number
  readonly top: number
  readonly width: number
  readonly height: number
}

/** Bytes that stand in a file instead of its own. */
export interface ReplacedBytes {
  readonly at: number
  readonly bytes: Uint8Array<ArrayBuffer>
}

/** A header of an OpenEXR is no longer than this here. */
const mostHeader = 192 * 1024

const numbers = (...values: readonly number[]) => {
  const view = new DataView(new ArrayBuffer(4 * values.length))
  values.forEach((value, i) => view.setInt32(4 * i, value, true))
  return new Uint8Array(view.buffer)
}

/**
 * The bytes by which an OpenEXR shows a window whose corner is the origin. Decoders give out what the display window shows, and lay the
 * data as if that began at the origin: so both windows are moved there, and with them the line that each chunk says it begins with.
 * @param window from the corner of what it shows; null for what it shows
 * @returns none where it is so already; none for files of several parts either, whose lines are told otherwise
 * @throws ReadingFault
 */
export async function exrShowing(
  source: ByteSource,
  window: ExrWindow | null,
): Promise<readonly ReplacedBytes[]> {
  const header = exrHeader(await source.read(0, Math.min(source.size, mostHeader)))
  const [display, data] = [exrWindow(header, 'displayWindow'), exrWindow(header, 'dataWindow')]
  const { width, height } = window ?? display
  const [right, down] = [-display.left - (window?.left ?? 0), -display.top - (window?.top ?? 0)]
  if (header.isMultiPart || (right === 0 && down === 0 && window === null)) return []
  const at = (name: string) => header.attributes.get(name)?.at ?? 0
  const [left, top] = [data.left + right, data.top + down]
  return [
    { at: at('displayWindow'), bytes: numbers(0, 0, width - 1, height - 1) },
    { at: at('dataWindow'), bytes: numbers(left, top, left + data.width - 1, top + data.height - 1) },
    ...(down !== 0 && !header.isTiled
      ? await linesFrom(source, header.end, top, data.height, linesInChunk(header) ?? 1)
      : []),
  ].sort((a, b) => a.at - b.at)
}

/** The line that each chunk begins with, the first from `top`: they are listed from the top of the picture, wherever they lie. */
async function linesFrom(
  source: ByteSource,
  at: number,
  top: number,
  height: number,
  lines: number,
): Promise<ReplacedBytes[]> {
  const table = await source.read(at, 8 * Math.ceil(height / lines))
  const view = new DataView(table.buffer, table.byteOffset, table.length)
  return Array.from({ length: Math.floor(table.length / 8) }, (_, i) => ({
    at: view.getUint32(8 * i, true) + view.getUint32(8 * i + 4, true) * 2 ** 32,
    bytes: numbers(top + i * lines),
  }))
}
