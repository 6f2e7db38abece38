import * as z from 'zod'
import { PixelAspect, Pixels } from '../picture/size'
import { Colour } from '../picture/colour'
import { FieldOrder, Scan } from '../picture/scan'
import { Rotation } from '../picture/turn'
import { Rate } from '../rate/rate'
import { frameToTimecode } from '../rate/timecode'
import { rational } from '../rational/rational'

/** A count that any file can hold; beyond it a header lies. */
const Count = z
  .number()
  .int()
  .nonnegative()
  .max(2 ** 40)
/** A rate as a figure, for what is measured of a variable clip. */
const RateFigure = z.number().positive().max(1000)
/** A month of film: longer is no recording. */
const longestSeconds = 30 * 24 * 3600
/** A date as files state it (ISO 8601): a day, mostly with a time. */
const StatedDate = z
  .string()
  .max(40)
  .refine((text) => /^\d{4}-\d{2}-\d{2}/.test(text) && !Number.isNaN(Date.parse(text)), {
    error: 'a date is written as 2026-05-01T09:00:00Z',
  })

/** Numbers of numbered pictures that have none of their own, and why: missing, damaged, of another size. The picture before them is shown. */
export const LeftOut = z
  .object({
    from: z.number().int().nonnegative(),
    to: z.number().int().nonnegative(),
    why: z.string().max(100),
  })
  .readonly()
export type LeftOut = z.infer<typeof LeftOut>

export const VideoFacts = z
  .object({
    codec: z.string().default('unknown'),
    profile: z.string().nullable().default(null),
    /** Stored picture after codec cropping, before pixel shape and rotation. */
    width: Pixels,
    height: Pixels,
    pixelAspect: PixelAspect.default(rational(1)),
    /** Clockwise turn, in degrees, that shows the picture upright. */
    rotation: Rotation.default(0),
    rate: Rate.nullable().default(null),
    rateMode: z.enum(['constant', 'variable', 'unknown']).default('unknown'),
    /** With `variable` only: frames per second, and the share of frames that last more than 10 % off nominal. */
    minRate: RateFigure.optional(),
    maxRate: RateFigure.optional(),
    meanRate: RateFigure.optional(),
    medianRate: RateFigure.optional(),
    /** The rate at which the file says it was recorded, where that is above its own: it is meant to be slowed. */
    captureRate: Rate.nullable().default(null),
    offNominalShare: z.number().min(0).max(1).optional(),
    frameCount: Count.nullable().default(null),
    scan: Scan.default('unknown'),
    fieldOrder: FieldOrder.nullable().default(null),
    /** 1 where an odd number of baked lines is cropped above the picture; it then begins with a line of the other field. */
    firstLine: z.literal([0, 1]).optional(),
    bitDepth: z.number().int().min(1).max(32).nullable().default(null),
    chroma: z.string().nullable().default(null),
    alpha: z.boolean().default(false),
    /** The colours are multiplied by what is seen through; left out where they are straight. */
    premultiplied: z.literal(true).optional(),
    colour: Colour.prefault({}),
    /** What the file holds, from the corner of what it shows of it (OpenEXR's data window and display window); left out where both are one. */
    dataWindow: z
      .object({ left: z.number().int(), top: z.number().int(), width: Pixels, height: Pixels })
      .readonly()
      .optional(),
    /** Of numbered pictures: their first and last number, and what is left out between. */
    numbered: z
      .object({
        first: z.number().int().nonnegative(),
        last: z.number().int().nonnegative(),
        leftOut: z.array(LeftOut).readonly(),
      })
      .readonly()
      .optional(),
    /** What the decoded picture adds to what the clip costs. It changes nothing of what is done with it. */
    measured: z
      .object({
        /** It combs, and nobody says that it has fields. */
        combs: z.boolean(),
        /** The place of frame 0 in a pulldown. */
        pulldownPhase: z.number().int().min(0).max(4).nullable(),
        /** It is taken out, by the editor's word. */
        pulldownOut: z.literal(true).optional(),
        /** No more than this is in it, in pixels of its own raster: it was enlarged before. */
        detail: z.object({ width: Pixels, height: Pixels }).readonly().nullable().default(null),
      })
      .readonly()
      .optional(),
  })
  .readonly()
export type VideoFacts = z.infer<typeof VideoFacts>

export const AudioFacts = z
  .object({
    codec: z.string().default('unknown'),
    channels: z.number().int().min(1).max(256).nullable().default(null),
    sampleRate: z.number().positive().max(1_000_000).nullable().default(null),
    bitDepth: z.number().int().min(1).max(64).nullable().default(null),
    /** When it begins to be heard, in seconds from the first frame; left out where both begin together, or it is not stated. */
    startSec: z.number().min(-longestSeconds).max(longestSeconds).optional(),
  })
  .readonly()
export type AudioFacts = z.infer<typeof AudioFacts>

export const Note = z.object({ code: z.string(), message: z.string() }).readonly()
export type Note = z.infer<typeof Note>

/**
 * All that was found out about one file. The same fields stand in the store, the project file and the terminal's JSON.
 * Every reading has passed this schema before it leaves the reader: what is not stated is null, and nothing is absurd.
 */
export const Reading = z
  .object({
    kind: z.enum(['video', 'still', 'audio']),
    container: z.string().default('unknown'),
    sizeBytes: z.number().int().nonnegative().default(0),
    durationSec: z.number().min(0).max(longestSeconds).nullable().default(null),
    video: VideoFacts.nullable().default(null),
    audio: z.array(AudioFacts).readonly().default([]),
    timecode: z
      .object({ start: z.string(), dropFrame: z.boolean().default(false) })
      .readonly()
      .nullable()
      .default(null),
    /** Of sound that says when it began (EBU Tech 3285): seconds after midnight, from which its timecode follows at any rate. */
    timeReferenceSec: z
      .number()
      .nonnegative()
      .max(24 * 3600)
      .optional(),
    recordedAt: StatedDate.nullable().default(null),
    /** Reel or camera name, where the file states one. */
    reel: z.string().nullable().default(null),
    notes: z.array(Note).readonly().default([]),
  })
  .readonly()
export type Reading = z.infer<typeof Reading>

/** Where a fact was claimed, by its path in the reading: `{"video.scan": "stream: picture timing"}`. */
export const Origins = z.record(z.string(), z.string()).readonly()
export type Origins = z.infer<typeof Origins>

/** The timecode of a file's first frame in a project of a rate: as it is stated; of sound that only says when it began, at that rate. */
export function timecodeIn({ timecode, timeReferenceSec }: Reading, rate: Rate | null): Reading['timecode'] {
  if (timeReferenceSec === undefined || !rate) return timecode
  const frame = Math.floor((timeReferenceSec * rate.num) / rate.den + 1e-6)
  return { start: frameToTimecode(frame, rate), dropFrame: false }
}
