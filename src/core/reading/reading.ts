import { z } from 'zod'
import { Rational } from '../rational/rational'

/** Colour as ITU-T H.273 code points, named; null where the file does not say. */
export const Colour = z.object({
  primaries: z.string().nullable(),
  transfer: z.string().nullable(),
  matrix: z.string().nullable(),
  range: z.enum(['full', 'limited']).nullable(),
})
export type Colour = z.infer<typeof Colour>

export const Scan = z.enum(['progressive', 'interlaced', 'unknown'])
export type Scan = z.infer<typeof Scan>
export const FieldOrder = z.enum(['top-first', 'bottom-first', 'unknown'])
export type FieldOrder = z.infer<typeof FieldOrder>
export const Rotation = z.union([z.literal(0), z.literal(90), z.literal(180), z.literal(270)])
export type Rotation = z.infer<typeof Rotation>

export const VideoFacts = z.object({
  codec: z.string(),
  profile: z.string().nullable(),
  /** Stored picture after codec cropping, before pixel shape and rotation. */
  width: z.number().int().positive(),
  height: z.number().int().positive(),
  pixelAspect: Rational,
  /** Clockwise turn, in degrees, that shows the picture upright. */
  rotation: Rotation,
  rate: Rational.nullable(),
  rateMode: z.enum(['constant', 'variable', 'unknown']),
  /** With `variable` only: frames per second, and the share of frames that last more than 10 % off nominal. */
  minRate: z.number().optional(),
  maxRate: z.number().optional(),
  meanRate: z.number().optional(),
  medianRate: z.number().optional(),
  offNominalShare: z.number().optional(),
  frameCount: z.number().int().nonnegative().nullable(),
  scan: Scan,
  fieldOrder: FieldOrder.nullable(),
  bitDepth: z.number().int().nullable(),
  chroma: z.string().nullable(),
  alpha: z.boolean(),
  colour: Colour,
})
export type VideoFacts = z.infer<typeof VideoFacts>

export const AudioFacts = z.object({
  codec: z.string(),
  channels: z.number().int().nullable(),
  sampleRate: z.number().nullable(),
  bitDepth: z.number().int().nullable(),
})
export type AudioFacts = z.infer<typeof AudioFacts>

export const Note = z.object({ code: z.string(), message: z.string() })
export type Note = z.infer<typeof Note>

/** All that was found out about one file. The same fields stand in the store, the project file and the terminal's JSON. */
export const Reading = z.object({
  kind: z.enum(['video', 'still', 'audio']),
  container: z.string(),
  sizeBytes: z.number(),
  durationSec: z.number().nullable(),
  video: VideoFacts.nullable(),
  audio: z.array(AudioFacts),
  timecode: z.object({ start: z.string(), dropFrame: z.boolean() }).nullable(),
  recordedAt: z.string().nullable(),
  /** Reel or camera name, where the file states one. */
  reel: z.string().nullable(),
  notes: z.array(Note),
})
export type Reading = z.infer<typeof Reading>

/** Where a fact was claimed, by its path in the reading: `{"video.scan": "stream: picture timing"}`. */
export const Origins = z.record(z.string(), z.string())
export type Origins = z.infer<typeof Origins>

export const unknownColour: Colour = { primaries: null, transfer: null, matrix: null, range: null }
