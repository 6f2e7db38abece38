import { rational } from '../../rational/rational'
import type { WrapperReading } from '../assemble'
import { claimOfJpeg2000 } from '../bitstream/jpeg2000'
import { Cursor } from '../bytes/cursor'
import type { FileWindow } from '../bytes/source'
import { ReadingFault } from '../fault'
import { boxesIn } from '../isobmff/box'
import { stillReading } from './still'

/** Headers stand in front of the samples. */
const headLength = 16 * 1024
const colours: Readonly<Record<number, { matrix: string }>> = {
  16: { matrix: 'rgb' },
  18: { matrix: 'bt601-625' },
}

/** Reads a JPEG 2000 as a file (JP2, ISO/IEC 15444-1 Annex I) or as a codestream: size, depth, parts, alpha, resolution. */
export async function readJpeg2000(file: FileWindow): Promise<WrapperReading> {
  const bytes = (await file.some(0, headLength)).slice()
  const claim = claimOfJpeg2000(bytes)
  const { width, height } = claim?.facts ?? {}
  if (!claim || !width || !height)
    throw new ReadingFault(
      'damaged',
      'No size marker of the picture is found at its start. Copy it again.',
      0,
    )
  let pixelAspect = rational(1)
  let colour = {}
  let alpha = claim.facts.alpha ?? false
  const isFile = bytes[0] === 0
  if (isFile)
    for (const outer of boxesIn(new Cursor(bytes)))
      if (outer.type === 'jp2h')
        for (const { type, body } of boxesIn(outer.body)) {
          if (type === 'colr' && body.left >= 7 && body.u8() === 1) colour = colours[body.skip(2).u32()] ?? {}
          if (type === 'cdef' && body.left >= 2) alpha = hasAlpha(body)
          if (type === 'res ')
            for (const { body: inside } of boxesIn(body)) {
              if (inside.left < 10) continue
              const [vn, vd, hn, hd] = [inside.u16(), inside.u16(), inside.u16(), inside.u16()]
              const [ve, he] = [inside.i8(), inside.i8()]
              if (vn && vd && hn && hd && ve === he) pixelAspect = rational(vn * hd, vd * hn)
            }
        }
  return {
    reading: stillReading('JPEG 2000', file.size, {
      width,
      height,
      bitDepth: claim.facts.bitDepth ?? null,
      chroma: claim.facts.chroma ?? null,
      alpha,
      pixelAspect,
      colour,
    }),
    origins: { 'video.width': 'size marker' },
    fault: null,
  }
}

/** Whether a channel is said to be opacity (`cdef`). */
function hasAlpha(body: Cursor): boolean {
  for (let n = Math.min(body.u16(), 64); n > 0 && body.left >= 6; n--) {
    body.skip(2)
    const kind = body.u16()
    body.skip(2)
    if (kind === 1 || kind === 2) return true
  }
  return false
}
