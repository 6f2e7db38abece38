import * as z from 'zod'
import { present } from '../assert'
import { Priority } from '../choice/vote'
import { Evidence } from '../evidence/evidence'
import { Corrections, decodedSize } from '../reading/correct'
import { Fault } from '../reading/fault'
import { FrameTimes } from '../reading/frame-times'
import type { ReadResult } from '../reading/read'
import { Origins, Reading } from '../reading/reading'
import { Id } from './id'

/** Where files stand that can be taken in: the watched folder, and the card of the demo. */
export const Card = z.enum(['siding', 'demo'])
export type Card = z.infer<typeof Card>

/** Where the bytes of a clip are: on a card, or in a file of the editor's. */
export const ClipSource = z
  .discriminatedUnion('kind', [
    z.object({
      kind: z.literal('siding'),
      card: Card.default('siding'),
      id: z.string(),
      /** When the file was last written, as it was when it was read; a later one tells another copy. */
      modifiedAt: z.string().optional(),
    }),
    z.object({ kind: z.literal('file') }),
  ])
  .readonly()
export type ClipSource = z.infer<typeof ClipSource>

/** What is kept of one file: where it came from, and how it is found again. */
const InFile = z.object({
  id: Id,
  name: z.string(),
  /** The folder it came in, for telling apart files of one name. */
  folder: z.string(),
  sizeBytes: z.number().int().nonnegative(),
  /** Hash of head and tail; with name and size it finds the file again. */
  hash: z.string().nullable(),
  source: ClipSource,
  origins: Origins,
  /** When each frame of a variable clip is on screen; null for a constant one, and while nobody has walked it. */
  frameTimes: FrameTimes.nullable().default(null),
})

/** One file of a clip that lies in several: a recording that a camera split, or numbered pictures. */
export const ClipFile = InFile.extend({
  /** Null of a numbered picture that is as the first is: thousands of equal readings would be kept. */
  reading: Reading.nullable(),
  /** Of a numbered picture: for how many frames it is on, where the next ones are left out. */
  frames: z
    .number()
    .int()
    .min(1)
    .max(2 ** 31)
    .optional(),
}).readonly()
export type ClipFile = z.infer<typeof ClipFile>

export const Clip = InFile.extend({
  /** What is held true of the clip: as claimed, or as corrected. */
  reading: Reading.nullable(),
  corrections: Corrections.default({}),
  /** What its decoded picture says; null until it is measured. Frames are counted as in the file. */
  evidence: Evidence.nullable().default(null),
  /** The claims, where corrections or measurements add to them or overrule them; null where the reading is what was claimed. */
  claimed: Reading.nullable().default(null),
  fault: Fault.nullable(),
  priority: Priority,
  arrivedAt: z.string(),
  /** The files of a clip that lies in several, in order; empty where it is one file. */
  parts: z
    .array(ClipFile)
    .refine(([first]) => first === undefined || first.reading !== null, {
      error: 'the first file of a clip that lies in several says what it is',
    })
    .readonly()
    .default([]),
}).readonly()
export type Clip = z.infer<typeof Clip>

/** A clip of what was read of a file that has just come in; one that cannot be read is kept with the reason. */
export const arrivedClip = (
  file: Pick<Clip, 'id' | 'name' | 'folder' | 'sizeBytes' | 'hash' | 'source' | 'arrivedAt'>,
  result: ReadResult,
): Clip => ({
  ...file,
  reading: result.reading ?? null,
  frameTimes: result.ok ? (result.frameTimes ?? null) : null,
  corrections: {},
  evidence: null,
  claimed: null,
  origins: result.origins ?? {},
  fault: result.ok ? null : result.error,
  priority: 'normal',
  parts: [],
})

/** Longer than any file system’s paths. */
const longestPlace = 8192

/** Folder and name of a file, led by a slash, so that no name of a file is one that every object answers to. */
export const placeOf = ({ folder, name }: Pick<Clip, 'folder' | 'name'>): string =>
  folder ? `/${folder}/${name}` : `/${name}`

/** A file of a card that is no clip: its index, thumbnails, descriptions, locks. */
export const LeftAside = z
  .object({
    /** Where it stands on its card, as `placeOf` says it. */
    id: z.string().startsWith('/').max(longestPlace),
    kind: z.string(),
    source: ClipSource,
  })
  .readonly()
export type LeftAside = z.infer<typeof LeftAside>

/** What one file of a clip that lies in several says of itself. */
export const readingOfPart = (clip: Pick<Clip, 'parts'>, part: ClipFile): Reading =>
  present(part.reading ?? clip.parts[0]?.reading, 'the first file of a clip says what it is')

/** What a clip's file claims, whatever was corrected. */
export const claimsOf = (clip: Clip): Reading | null => clip.claimed ?? clip.reading

/** The size of the picture that is decoded of a clip, before bars are taken off; null without a picture. */
export function decodedSizeOf(clip: Clip): { width: number; height: number } | null {
  const video = claimsOf(clip)?.video
  return video ? decodedSize(video, clip.corrections) : null
}
