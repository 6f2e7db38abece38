import { z } from 'zod'
import { Clip, type Doc, LeftAside, type Placement, Project, Timeline, newProject } from './project'
import { timelineNonsense } from './sense'

/** The rows of a project as they were stored, whatever they hold. */
export interface StoredRows {
  readonly project: unknown
  readonly clips: readonly unknown[]
  readonly timelines: readonly unknown[]
  readonly leftAside: readonly unknown[]
}

/** A stored part that cannot be read any more: kept as it was, with the reason. */
export interface PutAside {
  readonly what: 'project' | 'clip' | 'timeline' | 'left-aside' | 'own-format'
  readonly name: string
  readonly why: string
  readonly row: unknown
}

/** A document from what could be read, and what could not. */
export interface Mended {
  readonly doc: Doc
  readonly putAside: readonly PutAside[]
}

const text = (row: unknown, key: string): string | null => {
  const value = typeof row === 'object' && row !== null ? (row as Record<string, unknown>)[key] : null
  return typeof value === 'string' && value ? value : null
}

/** Where a row departs from its schema: `reading.video.rate: a rate is more than 0`. */
export const departure = ({ issues: [{ path, message }] }: z.ZodError): string =>
  `${path.map(String).join('.') || 'the whole of it'}: ${message}`

/**
 * Reads stored rows into a document. A clip or a timeline that does not pass its schema, or whose names lead nowhere, is put
 * aside with the reason, and the rest opens; of the project's own row, what cannot be read is as in a new one.
 * @returns null where there is no project at all
 */
export function mend(stored: StoredRows): Mended | null {
  const putAside: PutAside[] = []
  const read = <T extends { id: string }>(
    what: PutAside['what'],
    rows: readonly unknown[],
    schema: z.ZodType<T>,
    wrong: (value: T) => string | null = () => null,
  ): Record<string, T> => {
    const kept: Record<string, T> = {}
    for (const row of rows) {
      const parsed = schema.safeParse(row)
      const why = parsed.success ? wrong(parsed.data) : departure(parsed.error)
      if (why === null && parsed.success) kept[parsed.data.id] = parsed.data
      else putAside.push({ what, name: text(row, 'name') ?? text(row, 'id') ?? 'nameless', why: why!, row })
    }
    return kept
  }
  const project = mendProject(stored.project, putAside)
  if (!project) return null
  const clips = read('clip', stored.clips, Clip)
  const withoutLost = stored.timelines.map((row) => withoutLostClips(row, clips, putAside))
  const timelines = read('timeline', withoutLost, Timeline, (timeline) => timelineNonsense(timeline, clips))
  const leftAside = read('left-aside', stored.leftAside, LeftAside)
  const doc: Doc = {
    project: {
      ...project,
      clipOrder: agreeing(project.clipOrder, clips),
      timelineOrder: agreeing(project.timelineOrder, timelines),
    },
    clips,
    timelines,
    leftAside,
  }
  return { doc, putAside }
}

/** A timeline without the placements of clips that are not there any more; as it was, it is put aside. */
function withoutLostClips(row: unknown, clips: Record<string, Clip>, putAside: PutAside[]): unknown {
  const parsed = Timeline.safeParse(row)
  if (!parsed.success) return row
  const { name, tracks } = parsed.data
  const isThere = ({ clipId }: Placement) => Object.hasOwn(clips, clipId)
  const lost = tracks.flatMap(({ placements }) => placements.filter((one) => !isThere(one))).length
  if (lost === 0) return row
  const why = `${lost} of its placements are of clips that cannot be read; the others stay where they are`
  putAside.push({ what: 'timeline', name, why, row })
  return {
    ...parsed.data,
    tracks: tracks.map((track) => ({ ...track, placements: track.placements.filter(isThere) })),
  }
}

/** An order that lists what is there, each once; what was not listed comes last. */
const agreeing = (order: readonly string[], held: Record<string, unknown>): string[] => [
  ...new Set([...order.filter((id) => Object.hasOwn(held, id)), ...Object.keys(held)]),
]

/** The project's own row; facts of it that cannot be read are as in a new project. */
function mendProject(row: unknown, putAside: PutAside[]): Project | null {
  const parsed = Project.safeParse(row)
  if (parsed.success) return parsed.data
  const id = text(row, 'id')
  if (!id) return null
  const name = text(row, 'name') ?? 'Untitled'
  putAside.push({ what: 'project', name, why: departure(parsed.error), row })
  const broken = new Set(parsed.error.issues.map(({ path: [key] }) => String(key)))
  const fresh = newProject(id, name, text(row, 'createdAt') ?? '1970-01-01T00:00:00Z')
  const kept = Object.fromEntries(
    Object.entries(row as Record<string, unknown>).filter(([key]) => !broken.has(key)),
  )
  return Project.parse({ ...fresh, ...kept })
}
