import * as z from 'zod'
import { mostFrames } from '../model/timeline'

/**
 * Objects of OpenTimelineIO as its published format has them, the older names and versions of them too. What else an object carries is
 * let through: other programs keep their own there.
 */
const named = <Name extends string>(...names: readonly Name[]) =>
  z.object({ OTIO_SCHEMA: z.literal([...names]) })

export const RationalTime = named('RationalTime.1').extend({
  /** No film has more frames, and sums of them stay exact. */
  value: z.number().min(-mostFrames).max(mostFrames),
  rate: z.number().positive().max(1e6),
})
export type RationalTime = z.infer<typeof RationalTime>

export const TimeRange = named('TimeRange.1').extend({ start_time: RationalTime, duration: RationalTime })
export type TimeRange = z.infer<typeof TimeRange>

/** A mark on an item; the older one names its colour otherwise. */
export const Marker = named('Marker.2', 'Marker.1').extend({
  name: z.string().nullish(),
  color: z.string().nullish(),
  comment: z.string().nullish(),
  marked_range: TimeRange.nullish(),
  metadata: z.record(z.string(), z.unknown()).nullish(),
})

/** An object of any kind, known or not. */
export const AnyObject = z.looseObject({ OTIO_SCHEMA: z.string().max(200), name: z.string().nullish() })
export type AnyObject = z.infer<typeof AnyObject>

const metadata = z.record(z.string(), z.unknown()).nullish()
const item = {
  name: z.string().nullish(),
  metadata,
  source_range: TimeRange.nullish(),
  effects: z.array(AnyObject).nullish(),
  markers: z.array(AnyObject).nullish(),
  enabled: z.boolean().nullish(),
}

export const MediaReference = named(
  'ExternalReference.1',
  'MissingReference.1',
  'GeneratorReference.1',
  'ImageSequenceReference.1',
  'MediaReference.1',
).extend({
  name: z.string().nullish(),
  metadata,
  available_range: TimeRange.nullish(),
  target_url: z.string().nullish(),
  target_url_base: z.string().nullish(),
  name_prefix: z.string().nullish(),
})
export type MediaReference = z.infer<typeof MediaReference>

/** A clip with one reference, as it was, or with several of which one counts. */
export const OtioClip = z.union([
  named('Clip.2').extend({
    ...item,
    media_references: z.record(z.string(), MediaReference.nullable()).nullish(),
    active_media_reference_key: z.string().nullish(),
  }),
  named('Clip.1').extend({ ...item, media_reference: MediaReference.nullish() }),
])
export type OtioClip = z.infer<typeof OtioClip>

/** A gap; of old, a filler. */
export const OtioGap = named('Gap.1', 'Filler.1').extend(item)
export const LinearTimeWarp = named('LinearTimeWarp.1').extend({ time_scalar: z.number() })

/** A track; of old, a sequence. */
export const OtioTrack = named('Track.1', 'Sequence.1').extend({
  ...item,
  kind: z.string().nullish(),
  children: z.array(AnyObject),
})
export type OtioTrack = z.infer<typeof OtioTrack>

export const OtioStack = named('Stack.1').extend({ ...item, children: z.array(AnyObject) })
export type OtioStack = z.infer<typeof OtioStack>

export const OtioTimeline = named('Timeline.1').extend({
  name: z.string().nullish(),
  metadata,
  global_start_time: RationalTime.nullish(),
  tracks: OtioStack,
})
export type OtioTimeline = z.infer<typeof OtioTimeline>
