import * as z from 'zod'
import { FrameSize, sizeKey } from '../picture/size'
import { isHdr } from '../picture/colour'
import { Scan } from '../picture/scan'
import { type Picture } from '../picture/picture'
import { uprightSize } from '../picture/turn'
import { Rate } from '../rate/rate'
import { equal } from '../rational/rational'
import { Override } from './treatment'

/** What a clip must be for a rule to hold; what is left out may be anything. */
export const Condition = z
  .object({
    size: FrameSize.optional(),
    rate: Rate.optional(),
    scan: Scan.optional(),
    /** Of high dynamic range, or not. */
    hdr: z.boolean().optional(),
  })
  .readonly()
export type Condition = z.infer<typeof Condition>

/** A treatment for every clip of a kind: “every 50i clip: interpolate, double rate”. */
export const Rule = z
  .object({
    id: z.string().min(1).max(200),
    when: Condition,
    set: Override,
    on: z.boolean(),
  })
  .readonly()
export type Rule = z.infer<typeof Rule>

/** Whether a picture is one that a condition means. */
export const meets = (picture: Picture, { size, rate, scan, hdr }: Condition): boolean =>
  (size === undefined || sizeKey(uprightSize(picture)) === sizeKey(size)) &&
  (rate === undefined || (picture.rate !== null && equal(picture.rate, rate))) &&
  (scan === undefined || picture.scan === scan) &&
  (hdr === undefined || isHdr(picture.transfer) === hdr)
