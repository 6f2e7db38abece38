import * as z from 'zod'
import { Format } from '../format/format'
import { FrameSize } from '../picture/size'
import { Rate } from '../rate/rate'
import { frameToTimecode, timecodeToFrame } from '../rate/timecode'
import { Rational } from '../rational/rational'
import { Rule } from '../treatment/rule'
import { FramingOverride, Override } from '../treatment/treatment'
import { Id, Name } from './id'

/** Who set a format, and from what. */
export const SetBy = z.enum(['typed', 'standard', 'own', 'clip', 'recommended', 'tried', 'delivery'])
export type SetBy = z.infer<typeof SetBy>

/** Where a timeline's own format came from; the name of the clip where it was taken from one. */
export const FormatOrigin = z.object({ setBy: SetBy, clip: z.string().nullable().default(null) }).readonly()
export type FormatOrigin = z.infer<typeof FormatOrigin>

/** More frames than any film has; sums of them stay exact. */
export const mostFrames = 2 ** 40
const Frames = z.number().int().max(mostFrames)

/** Gains add up where timelines come out of timelines; beyond these decibels nothing is heard, or nothing else. */
export const mostGain = 200

/** What a placement shows: a clip, another timeline, or the test figure, drawn at any size and rate. */
export const PlacementSource = z
  .discriminatedUnion('kind', [
    z.object({ kind: z.literal('clip'), clipId: Id }),
    z.object({ kind: z.literal('timeline'), timelineId: Id }),
    z.object({
      kind: z.literal('figure'),
      size: FrameSize,
      rate: Rate,
      scan: z.enum(['progressive', 'interlaced']),
    }),
  ])
  .readonly()
export type PlacementSource = z.infer<typeof PlacementSource>

/** Something on a track: frames of the timeline, and the time in the source where it begins. */
export const Placement = z
  .object({
    id: Id,
    source: PlacementSource,
    start: Frames.nonnegative(),
    length: Frames.positive(),
    /** Seconds into the source. */
    sourceIn: Rational.refine(({ num, den }) => num >= 0 && num / den <= 30 * 24 * 3600, {
      error: 'a clip begins within its first 30 days',
    }),
    /** What of its treatment is its own; all else is as the timeline's defaults and rules say. */
    treatment: Override.default({}),
    /** Framing for deliverables of another shape, by display aspect: `9:16`. */
    framingByShape: z.record(z.string().max(40), FramingOverride).readonly().default({}),
    /** Decibels. */
    gain: z.number().min(-mostGain).max(mostGain).default(0),
    /** Which channels of the source sound, in order; null for all as they are. */
    channels: z.array(z.number().int().nonnegative().max(255)).readonly().nullable().default(null),
    /** The link: shared by one picture and its own sounds, which run in step and move together. */
    pairId: Id.nullable().default(null),
  })
  .readonly()
export type Placement = z.infer<typeof Placement>

export const TrackKind = z.enum(['video', 'audio'])
export type TrackKind = z.infer<typeof TrackKind>

export const Track = z
  .object({
    id: Id,
    kind: TrackKind,
    name: Name,
    /** Of pictures: not shown. */
    hidden: z.boolean().default(false),
    /** Of sound: not heard. */
    muted: z.boolean().default(false),
    locked: z.boolean().default(false),
    /** In order of their start; none overlaps another. */
    placements: z.array(Placement).readonly(),
  })
  .readonly()
export type Track = z.infer<typeof Track>

/** A finding that the editor has seen and takes as it is, by the kind of its charge. */
export const AcceptedFinding = z
  .object({
    placementId: Id,
    charge: z.string().max(60),
    at: z.string(),
    /** Why, in the editor's words. */
    word: z.string().max(500).default(''),
  })
  .readonly()
export type AcceptedFinding = z.infer<typeof AcceptedFinding>

export const Timeline = z
  .object({
    id: Id,
    name: Name,
    /** The rate that its frames belong to; null only while nothing is placed and no format is decided. */
    rate: Rate.nullable(),
    /** Its own format, or null while it follows the project's. */
    ownFormat: Format.nullable(),
    /** Null while it follows the project. */
    formatOrigin: FormatOrigin.nullable().default(null),
    startTimecode: z
      .string()
      .regex(/^\d\d:\d\d:\d\d[:;]\d{2,3}$/)
      .default('00:00:00:00'),
    dropFrame: z.boolean().default(false),
    /** Samples of sound a second. */
    sampleRate: z.number().int().min(8000).max(384_000).default(48_000),
    soundLayout: z.enum(['mono', 'stereo', '5.1']).default('stereo'),
    /** Its defaults: what its placements are treated with unless rules or they themselves say otherwise. */
    treatment: Override.default({}),
    rules: z.array(Rule).readonly().default([]),
    accepted: z.array(AcceptedFinding).readonly().default([]),
    tracks: z.array(Track).readonly(),
    /** The frames that it had in other shapes, by shape: what framings that are kept for those are told in. */
    rasters: z.record(z.string().max(40), FrameSize).readonly().default({}),
    createdAt: z.string(),
  })
  .readonly()
export type Timeline = z.infer<typeof Timeline>

/** Timelines stand in timelines, never in themselves; so deep they are followed, deeper nobody works. */
export const deepestNesting = 16

/** The frame after the last one that is placed. */
export const endOf = (placements: readonly Placement[]): number =>
  placements.reduce((end, p) => Math.max(end, p.start + p.length), 0)

/** How many frames a timeline has: to the end of its last placement. */
export const lengthOf = ({ tracks }: Timeline): number =>
  tracks.reduce((end, track) => Math.max(end, endOf(track.placements)), 0)

export const placementsIn = ({ tracks }: Timeline): Placement[] => tracks.flatMap((track) => track.placements)

/** The timecode of a frame of a timeline, counted from its start. */
export function timecodeAt(
  { rate, startTimecode, dropFrame }: Pick<Timeline, 'rate' | 'startTimecode' | 'dropFrame'>,
  frame: number,
): string {
  if (!rate) return ''
  const start = timecodeToFrame(startTimecode, rate, dropFrame) ?? 0
  return frameToTimecode(start + frame, rate, dropFrame)
}

/** What is placed as an editor counts it: picture and sound of one clip once, by what stands first. */
export function leadsIn(timeline: Timeline): Placement[] {
  const pairs = new Set<string>()
  return placementsIn(timeline).filter(
    ({ pairId }) => pairId === null || (!pairs.has(pairId) && pairs.add(pairId)),
  )
}

/** The clip that a placement shows; null for another timeline and the test figure. */
export const clipIdOf = ({ source }: Placement): string | null =>
  source.kind === 'clip' ? source.clipId : null
