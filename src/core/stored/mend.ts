import { parseQuickly } from '../quick-check'
import type * as z from 'zod'
import { equal } from '../rational/rational'
import { Clip, LeftAside } from '../model/clip'
import type { StoredRows } from './migrate'
import { type Doc, Project, formatOf, newProject } from '../model/project'
import { reframed } from '../edit/reformat'
import { departure } from '../words/reason'
import { lostSource, showsTimeline, timelineNonsense } from '../model/integrity'
import { type Placement, Timeline } from '../model/timeline'

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

/**
 * Reads stored rows into a document, each as it comes. A clip or a timeline that does not pass its schema, or whose names lead nowhere, is
 * put aside with the reason, and the rest opens; of the project's own row, what cannot be read is as in a new one.
 */
export function mending() {
  const putAside: PutAside[] = []
  const clips: Record<string, Clip> = {}
  const all: Record<string, Timeline> = {}
  const leftAside: Record<string, LeftAside> = {}
  const reader =
    <T extends { readonly id: string }>(
      what: PutAside['what'],
      schema: z.ZodType<T>,
      into: Record<string, T>,
    ) =>
    (row: unknown): T | null => {
      const parsed = parseQuickly(schema, row)
      if (parsed.success) return (into[parsed.data.id] = parsed.data)
      const name = text(row, 'name') ?? text(row, 'id') ?? 'nameless'
      putAside.push({ what, name, why: departure(parsed.error), row })
      return null
    }

  /** The document of all that was read. @returns null where there is no project at all */
  function mended(row: unknown): Mended | null {
    const ofProject: PutAside[] = []
    const project = mendProject(row, ofProject)
    if (!project) return null
    const timelines: Record<string, Timeline> = {}
    for (const timeline of Object.values(all)) {
      const mended = mendTimeline(timeline, { project, clips, timelines: all, leftAside }, putAside)
      if (mended) timelines[timeline.id] = mended
    }
    const doc: Doc = {
      project: {
        ...project,
        clipOrder: agreeing(project.clipOrder, clips),
        timelineOrder: agreeing(project.timelineOrder, timelines),
        deliverables: project.deliverables.map((deliverable) =>
          deliverable.timelineId !== null && !Object.hasOwn(timelines, deliverable.timelineId)
            ? { ...deliverable, timelineId: null }
            : deliverable,
        ),
      },
      clips,
      timelines,
      leftAside,
    }
    return { doc, putAside: [...ofProject, ...putAside] }
  }

  return {
    /** Reads the row of a clip. @returns null where it is put aside */
    clip: reader('clip', Clip, clips),
    /** Reads the row of a timeline, which may be mended still once all are there. */
    timeline: reader('timeline', Timeline, all),
    leftAside: reader('left-aside', LeftAside, leftAside),
    mended,
  }
}

/** Reads stored rows into a document, all at once. @see mending */
export function mend({ project, clips, timelines, leftAside }: StoredRows): Mended | null {
  const rows = mending()
  clips.forEach(rows.clip)
  timelines.forEach(rows.timeline)
  leftAside.forEach(rows.leftAside)
  return rows.mended(project)
}

/**
 * A timeline as it can be opened: without the placements of what is not there any more, its frames at the rate of its format.
 * As it was, it is put aside, with the reason.
 */
function mendTimeline(timeline: Timeline, doc: Doc, putAside: PutAside[]): Timeline | null {
  const aside = (why: string) => putAside.push({ what: 'timeline', name: timeline.name, why, row: timeline })
  let mended = timeline
  const isThere = (placement: Placement) =>
    lostSource(placement, doc) === null &&
    !(
      placement.source.kind === 'timeline' &&
      (placement.source.timelineId === timeline.id ||
        showsTimeline(doc, placement.source.timelineId, timeline.id))
    )
  const lost = timeline.tracks.flatMap(({ placements }) => placements.filter((p) => !isThere(p))).length
  if (lost > 0) {
    aside(`${lost} of its placements are of clips that cannot be read; the others stay where they are`)
    const tracks = timeline.tracks.map((track) => ({
      ...track,
      placements: track.placements.filter(isThere),
    }))
    mended = { ...timeline, tracks }
  }
  const format = formatOf(doc, mended)
  if (format && !mended.rate) mended = { ...mended, rate: format.rate }
  else if (format && mended.rate && !equal(format.rate, mended.rate)) {
    aside('its frames were counted at another rate than its format has; its cut was carried')
    mended = reframed(doc, doc, mended).timeline
  }
  const why = timelineNonsense(mended, doc)
  if (why === null) return mended
  aside(why)
  return null
}

/** An order that lists what is there, each once; what was not listed comes last. */
const agreeing = (order: readonly string[], held: Record<string, unknown>): string[] => [
  ...new Set([...order.filter((id) => Object.hasOwn(held, id)), ...Object.keys(held)]),
]

/** The project's own row; facts of it that cannot be read are as in a new project. */
function mendProject(row: unknown, putAside: PutAside[]): Project | null {
  const parsed = parseQuickly(Project, row)
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
