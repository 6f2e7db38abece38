import * as z from 'zod'
import { present } from '../assert'
import { Format, sameFormat } from '../format/format'
import { Ranking, Mains, Policy, type Weights, defaultPolicy, weightsForRanking } from '../toll/policy'
import { Card, type Clip, type LeftAside } from './clip'
import { Deliverable } from './deliverable'
import { Id, Name } from './id'
import { type PlacementSource, SetBy, type Timeline } from './timeline'

/** A line of the decision log: who decided what format, when and why. */
export const Decision = z
  .object({
    at: z.string(),
    setBy: SetBy,
    format: Format,
    reason: z.string(),
    /** The name of the clip that the format was taken from; null where it was from none. */
    clip: z.string().nullable().optional(),
  })
  .readonly()
export type Decision = z.infer<typeof Decision>

export const Project = z
  .object({
    id: Id,
    name: Name,
    createdAt: z.string(),
    /** Null while it is openly undecided. */
    format: Format.nullable(),
    /** Newest last; the last one is why the format is what it is. */
    decisions: z.array(Decision).readonly(),
    deliverables: z.array(Deliverable).readonly(),
    lean: Ranking,
    /** Whether footage that was enlarged before counts with what is truly in it when it comes to what is lost. */
    trueDetail: z.boolean().default(true),
    policy: Policy.default(defaultPolicy),
    /** The region that the film is made for; null where it is not known. */
    mains: Mains.nullable().default(null),
    /** What to do when a placed clip does not match: ask, or keep the timeline's format. */
    onMismatch: z.enum(['ask', 'keep']),
    clipOrder: z.array(Id).readonly(),
    timelineOrder: z.array(Id).readonly(),
    /** A format that the footage speaks against and the editor means all the same, by its key. */
    meant: z.string().max(200).nullable().default(null),
    /** The card that this project takes its clips from. */
    card: Card.default('siding'),
  })
  .readonly()
export type Project = z.infer<typeof Project>

/** Everything of one project, as it is open, stored, exported and undone. */
export interface Doc {
  readonly project: Project
  readonly clips: Readonly<Record<string, Clip>>
  readonly timelines: Readonly<Record<string, Timeline>>
  /** Files that came in with the clips and are none. */
  readonly leftAside: Readonly<Record<string, LeftAside>>
}

/** What a table of a project holds, in the order in which it is listed. */
export const inOrder = <Row>(order: readonly string[], table: Readonly<Record<string, Row>>): Row[] =>
  order.map((id) => present(table[id], 'what is listed is there'))

export const clipsOf = ({ project, clips }: Pick<Doc, 'project' | 'clips'>): Clip[] =>
  inOrder(project.clipOrder, clips)
export const timelinesOf = ({ project, timelines }: Doc): Timeline[] =>
  inOrder(project.timelineOrder, timelines)

/** What is placed is called: by its clip, its timeline, or what it is. */
export function sourceName(
  { clips, timelines }: Pick<Doc, 'clips' | 'timelines'>,
  source: PlacementSource,
): string {
  const named =
    source.kind === 'clip'
      ? clips[source.clipId]
      : source.kind === 'timeline'
        ? timelines[source.timelineId]
        : undefined
  return named?.name ?? 'test figure'
}

/** What a timeline runs in: its own format, else the project's; null while that is undecided. */
export const formatOf = (doc: Doc, timeline: Timeline): Format | null =>
  timeline.ownFormat ?? doc.project.format

/** What tolls are weighed with in a project: its policy, under its lean. */
export const weightsOf = ({ policy, lean }: Project): Weights => weightsForRanking(policy, lean)

/** The formats in which the main cut will be handed over, once each: the first timeline, or the one that is still to be made. */
export const deliveredFormats = ({ deliverables, timelineOrder: [main] }: Project): Format[] =>
  deliverables
    .filter(({ timelineId }) => timelineId === null || timelineId === main)
    .map(({ format }) => format)
    .filter((format, i, all) => all.findIndex((other) => sameFormat(other, format)) === i)

export const newProject = (id: string, name: string, createdAt: string): Project => ({
  id,
  name,
  createdAt,
  format: null,
  decisions: [],
  deliverables: [],
  lean: 'balanced',
  trueDetail: true,
  policy: defaultPolicy,
  mains: null,
  onMismatch: 'ask',
  clipOrder: [],
  timelineOrder: [],
  meant: null,
  card: 'siding',
})
