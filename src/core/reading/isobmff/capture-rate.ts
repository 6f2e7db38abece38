import { type Rate, exactRate, snapToStandard } from '../../rate/rate'
import { Cursor, utf8 } from '../bytes/cursor'
import { type Box, boxesIn, findBox } from './box'

/**
 * The rate at which a file says it was recorded, in frames a second: a number under a key that ends with `capture.fps` (QuickTime File
 * Format, metadata with `keys` and `ilst`), or `captureFps` in the XML of a `meta` box (ISO/IEC 14496-12 §8.11). Null where it says none.
 */
export function captureRateIn(metas: readonly Box[]): Rate | null {
  for (const { body } of metas) {
    const meta = contentOf(body)
    const stated = statedInKeys(meta) ?? statedInXml(meta)
    if (stated !== null && stated > 0 && stated <= 1000) return snapToStandard(stated) ?? exactRate(stated)
  }
  return null
}

/** QuickTime has its boxes at once, ISO a version and flags in front of them. */
function contentOf(body: Cursor): Cursor {
  const start = body.bytes.subarray(body.at)
  const isPlain = start.length >= 8 && new Cursor(start.subarray(4, 8)).code() === 'hdlr'
  return new Cursor(isPlain ? start : start.subarray(Math.min(4, start.length)))
}

function statedInKeys(meta: Cursor): number | null {
  const [keys, list] = [findBox(meta, 'keys'), findBox(meta, 'ilst')]
  if (!keys || !list || keys.body.left < 8) return null
  keys.body.skip(8)
  const names = [...boxesIn(keys.body)].map(({ body }) => utf8(body.bytes.subarray(body.at)))
  const place = names.findIndex((name) => /(^|\.)capture\.fps$/.test(name)) + 1
  if (place === 0) return null
  // An item's type is the place of its key, counted from one.
  const item = [...boxesIn(list.body)].find(({ type }) => place === placeIn(type))
  const data = item && findBox(item.body, 'data')
  if (!data || data.body.left < 9) return null
  const kind = data.body.u32()
  const value = data.body.skip(4)
  if (kind === 23 && value.left >= 4) return value.f32()
  if (kind === 24 && value.left >= 8) return value.f64()
  if (kind === 1) return parseFloat(utf8(value.bytes.subarray(value.at)))
  return kind !== 23 && value.left >= 4 ? value.u32() : null
}

const placeIn = (type: string): number =>
  [...type].reduce((place, letter) => place * 256 + letter.charCodeAt(0), 0)

function statedInXml(meta: Cursor): number | null {
  const xml = findBox(meta, 'xml ')
  const found = xml && /\bcaptureFps="(\d+(?:\.\d+)?)/.exec(utf8(xml.body.bytes.subarray(xml.body.at + 4)))
  return found ? parseFloat(found[1] ?? '') : null
}
