import type { PictureClaim } from '../claims'
import { claimsOfH264 } from '../bitstream/h264'
import { lengthPrefixedUnits } from '../bitstream/nal'
import { claimOfProRes } from '../bitstream/prores'
import type { FileWindow } from '../bytes/source'
import type { VisualDescription } from './description'

/** Pictures are looked into this far: parameter sets, messages and the first slice headers lie in front. */
const firstBytes = 32 * 1024

/** What the codec's configuration record says by itself, where the first frame is out of reach. */
export function claimsOfConfiguration(visual: VisualDescription): PictureClaim[] {
  const configuration = visual.configuration
  if (configuration?.type === 'avcC') return claimsOfH264(parameterSets(configuration.bytes)).claims
  return []
}

/** What the first frame says of itself. A frame beyond the end of the file says nothing. */
export async function claimsOfFirstFrame(
  file: FileWindow,
  visual: VisualDescription,
  place: { offset: number; size: number } | null,
): Promise<PictureClaim[]> {
  if (!place || place.size === 0 || place.offset >= file.size) return []
  const frame = await file.some(place.offset, Math.min(place.size, firstBytes))
  switch (visual.codec) {
    case 'H.264': {
      const configuration = visual.configuration
      if (configuration?.type !== 'avcC') return []
      const lengthSize = (configuration.bytes[4] & 3) + 1
      const units = [...parameterSets(configuration.bytes), ...lengthPrefixedUnits(frame, lengthSize)]
      return claimsOfH264(units).claims.slice(1)
    }
    case 'ProRes': {
      const claim = claimOfProRes(frame)
      return claim ? [claim] : []
    }
    default:
      return []
  }
}

/** The sequence parameter sets of an `avcC` record (ISO/IEC 14496-15 §5.3.3). */
function parameterSets(record: Uint8Array): Uint8Array[] {
  const sets: Uint8Array[] = []
  let at = 6
  for (let n = (record[5] ?? 0) & 31; n > 0 && at + 2 <= record.length; n--) {
    const length = record[at] * 256 + record[at + 1]
    at += 2
    if (length === 0 || at + length > record.length) break
    sets.push(record.subarray(at, at + length))
    at += length
  }
  return sets
}
