import * as z from 'zod'
import { Format } from '../format/format'
import { Override } from '../treatment/treatment'
import { Id, Name } from './id'
import { Proof } from './proof'

/** How the picture of a deliverable is encoded. */
const VideoSetting = z
  .object({
    codec: z.string().max(60),
    profile: z.string().max(60).nullable(),
    /** By bits a second, or by a quality of the codec's own scale. */
    rateControl: z
      .discriminatedUnion('kind', [
        z.object({ kind: z.literal('bit-rate'), bitsPerSecond: z.number().positive().max(1e10) }),
        z.object({ kind: z.literal('quality'), value: z.number().min(0).max(100) }),
      ])
      .readonly()
      .nullable(),
    passes: z.literal([1, 2]),
  })
  .readonly()

const SoundSetting = z
  .object({
    codec: z.string().max(60),
    sampleRate: z.number().int().min(8000).max(384_000),
    channels: z.number().int().min(1).max(64),
    /** The loudness that is brought about (LUFS); null for as it is. */
    loudnessLufs: z.number().min(-70).max(0).nullable(),
  })
  .readonly()

/** What is handed over: a format first; the timeline and how it is wrapped may be said later. */
export const Deliverable = z
  .object({
    id: Id,
    name: Name,
    timelineId: Id.nullable(),
    format: Format,
    wrapper: z.string().max(60).nullable(),
    video: VideoSetting.nullable(),
    sound: SoundSetting.nullable(),
    /** What of the treatment is its own when the timeline goes out. */
    treatment: Override.default({}),
    /** The frames of it that go out, from the first to before the last; null for all. */
    range: z
      .object({ from: z.number().int().nonnegative(), to: z.number().int().positive() })
      .refine(({ from, to }) => from < to, { error: 'a range ends after it begins' })
      .readonly()
      .nullable()
      .default(null),
    /** Whether timecode and source frame are written into the picture. */
    burnIn: z.boolean().default(false),
    /** What was found in the file that was made of it last; null while none was read back. */
    proof: Proof.nullable().default(null),
  })
  .readonly()
export type Deliverable = z.infer<typeof Deliverable>

/** A deliverable of which only the format is known. */
export const deliverableOf = (id: string, name: string, format: Format): Deliverable => ({
  id,
  name,
  timelineId: null,
  format,
  wrapper: null,
  video: null,
  sound: null,
  treatment: {},
  range: null,
  burnIn: false,
  proof: null,
})
