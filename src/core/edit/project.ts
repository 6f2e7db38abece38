import { z } from 'zod'
import { Priority } from '../choice/vote'
import { Format } from '../format/format'
import { Rational } from '../rational/rational'
import { Corrections } from '../reading/correct'
import { Fault } from '../reading/fault'
import { Origins, Reading } from '../reading/reading'
import { Lean, Mains, Policy, type Weights, defaultPolicy, leaning } from '../toll/policy'
import { Treatment } from '../toll/treatment'

/** Who set a format, and from what. */
export const SetBy = z.enum(['typed', 'standard', 'own', 'clip', 'recommended', 'tried', 'delivery'])
export type SetBy = z.infer<typeof SetBy>

/** Where a timeline's own format came from; the name of the clip where it was taken from one. */
export const FormatOrigin = z.object({ setBy: SetBy, clip: z.string().nullable().default(null) })
export type FormatOrigin = z.infer<typeof FormatOrigin>

/** A line of the decision log: who decided what format, when and why. */
export const Decision = z.object({
  at: z.string(),
  setBy: SetBy,
  format: Format,
  reason: z.string(),
})
export type Decision = z.infer<typeof Decision>

/** A name by which things refer to each other; none that every object answers to. */
export const Id = z
  .string()
  .min(1)
  .max(200)
  .refine((id) => !(id in Object.prototype), { error: 'this name cannot stand for a thing' })

/** Where files stand that can be taken in: the watched folder, and the card of the demo. */
export const Card = z.enum(['siding', 'demo'])
export type Card = z.infer<typeof Card>

/** Where the bytes of a clip are: on a card, or in a file of the editor's. */
export const ClipSource = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('siding'), card: Card.default('siding'), id: z.string() }),
  z.object({ kind: z.literal('file') }),
])
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
})

/** One file of a clip that lies in several: a recording that a camera split, or numbered stills. */
export const Part = InFile.extend({
  reading: Reading,
  origins: Origins,
})
export type Part = z.infer<typeof Part>

export const Clip = InFile.extend({
  /** What is held true of the clip: as claimed, or as corrected. */
  reading: Reading.nullable(),
  corrections: Corrections.default({}),
  /** The claims that corrections overrule; null where there are none. */
  claimed: Reading.nullable().default(null),
  origins: Origins,
  fault: Fault.nullable(),
  priority: Priority,
  arrivedAt: z.string(),
  /** The files of a clip that lies in several, in order; empty where it is one file. */
  parts: z.array(Part).default([]),
})
export type Clip = z.infer<typeof Clip>

/** More frames than any film has; sums of them stay exact. */
const Frames = z
  .number()
  .int()
  .max(2 ** 40)

/** A clip on a track: frames of the timeline, and the time in the source where it begins. */
export const Placement = z.object({
  id: Id,
  clipId: Id,
  start: Frames.nonnegative(),
  length: Frames.positive(),
  /** Seconds into the source. */
  sourceIn: Rational.refine(({ num, den }) => num >= 0 && num / den <= 30 * 24 * 3600, {
    error: 'a clip begins within its first 30 days',
  }),
  treatment: Treatment,
})
export type Placement = z.infer<typeof Placement>

export const Track = z.object({
  id: Id,
  kind: z.enum(['video', 'audio']),
  placements: z.array(Placement),
})
export type Track = z.infer<typeof Track>

export const Timeline = z.object({
  id: Id,
  name: z.string(),
  /** Its own format, or null while it follows the project's. */
  ownFormat: Format.nullable(),
  /** Null while it follows the project. */
  formatOrigin: FormatOrigin.nullable().default(null),
  tracks: z.array(Track),
  createdAt: z.string(),
})
export type Timeline = z.infer<typeof Timeline>

export const Project = z.object({
  id: Id,
  name: z.string(),
  createdAt: z.string(),
  /** Null while it is openly undecided. */
  format: Format.nullable(),
  /** Newest last; the last one is why the format is what it is. */
  decisions: z.array(Decision),
  deliverables: z.array(Format),
  lean: Lean,
  policy: Policy.default(defaultPolicy),
  /** The region that the film is made for; null where it is not known. */
  mains: Mains.nullable().default(null),
  /** What to do when a placed clip does not match: ask, or keep the timeline's format. */
  onMismatch: z.enum(['ask', 'keep']),
  clipOrder: z.array(Id),
  timelineOrder: z.array(Id),
  /** The card that this project takes its clips from. */
  card: Card.default('siding'),
})
export type Project = z.infer<typeof Project>

/** Longer than any file system’s paths. */
const longestPlace = 8192

/** Folder and name of a file, led by a slash, so that no name of a file is one that every object answers to. */
export const placeOf = ({ folder, name }: Pick<Clip, 'folder' | 'name'>): string =>
  folder ? `/${folder}/${name}` : `/${name}`

/** A file of a card that is no clip: its index, thumbnails, descriptions, locks. */
export const LeftAside = z.object({
  /** Where it stands on its card, as `placeOf` says it. */
  id: z.string().startsWith('/').max(longestPlace),
  kind: z.string(),
  source: ClipSource,
})
export type LeftAside = z.infer<typeof LeftAside>

/** Everything of one project, as it is open, stored, exported and undone. */
export interface Doc {
  project: Project
  clips: Record<string, Clip>
  timelines: Record<string, Timeline>
  /** Files that came in with the clips and are none. */
  leftAside: Record<string, LeftAside>
}

export const clipsOf = (doc: Doc): Clip[] => doc.project.clipOrder.map((id) => doc.clips[id])
export const timelinesOf = (doc: Doc): Timeline[] => doc.project.timelineOrder.map((id) => doc.timelines[id])

/** What a timeline runs in: its own format, else the project's; null while that is undecided. */
export const formatOf = (doc: Doc, timeline: Timeline): Format | null =>
  timeline.ownFormat ?? doc.project.format

/** What tolls are weighed with in a project: its policy, under its lean. */
export const weightsOf = ({ policy, lean }: Project): Weights => leaning(policy, lean)

export const newProject = (id: string, name: string, createdAt: string): Project => ({
  id,
  name,
  createdAt,
  format: null,
  decisions: [],
  deliverables: [],
  lean: 'balanced',
  policy: defaultPolicy,
  mains: null,
  onMismatch: 'ask',
  clipOrder: [],
  timelineOrder: [],
  card: 'siding',
})
