import { parseQuickly } from '../core/quick-check'
import { Clip, LeftAside } from '../core/model/clip'
import { Timeline } from '../core/model/timeline'
import type { Patch } from 'immer'
import Dexie, { type Table } from 'dexie'
import type * as z from 'zod'
import { type PutAside, mending } from '../core/stored/mend'
import { pictureOf } from '../core/picture/picture'
import { displaySize } from '../core/picture/size'
import { uprightSize } from '../core/picture/turn'
import { Format } from '../core/format/format'
import { type Doc, Project } from '../core/model/project'
import { type OpeningRow, type Owned, type PutAsideRow, database } from './database'
import { type StoredPast, loadPast, writeJournal } from './history'
import { keptProxies, keptRenders } from './kept-files'
import { dropAhead } from './write-ahead'
import type { Journal } from './schema'

/** A project as the list of projects shows it: what it holds, what is decided, and a picture of it. */
export interface ProjectEntry {
  readonly id: string
  readonly name: string
  readonly createdAt: string
  readonly clips: number
  readonly timelines: number
  /** Null while it is openly undecided, and where it cannot be read. */
  readonly format: Format | null
  readonly picture: Blob | null
  /** The shape in which the picture is meant to be seen, width by height. */
  readonly aspect: number
  /** When it was opened last, and its footage; null where it was not since that is noted. */
  readonly opening: OpeningRow | null
}

/** A clip’s shape as it stands upright; 16:9 where it cannot be told. */
function aspectOf(row: unknown): number {
  const clip = Clip.safeParse(row)
  const video = clip.success ? clip.data.reading?.video : null
  if (!video) return 16 / 9
  const { width, height } = displaySize(uprightSize(pictureOf(video)))
  return width / height
}

/** The first clips of a project may have no picture: so many are looked at. */
const mostLookedAt = 8

export async function listProjects(): Promise<ProjectEntry[]> {
  const [all, openings] = await Promise.all([database.projects.toArray(), database.openings.toArray()])
  const opened = new Map(openings.map((row) => [row.projectId, row]))
  const projects = all.filter(({ id }) => !opened.get(id)?.deletedAt)
  const entries = projects.map(async ({ id, name, createdAt, clipOrder, timelineOrder, format }) => {
    const first = (Array.isArray(clipOrder) ? clipOrder : []).slice(0, mostLookedAt)
    const keys = first.map((clipId): [string, string] => [id, clipId])
    const [posters, clips] = await Promise.all([database.posters.bulkGet(keys), database.clips.bulkGet(keys)])
    const shown = posters.findIndex((row) => row)
    const read = Format.nullable().safeParse(format)
    return {
      id,
      name,
      createdAt,
      clips: clipOrder?.length ?? 0,
      timelines: timelineOrder?.length ?? 0,
      format: read.success ? read.data : null,
      picture: posters[shown]?.picture ?? null,
      aspect: aspectOf(clips[shown]),
      opening: opened.get(id) ?? null,
    }
  })
  const since = ({ createdAt, opening }: ProjectEntry) => opening?.openedAt || createdAt
  return (await Promise.all(entries)).sort((a, b) => (since(a) < since(b) ? 1 : -1))
}

/** The id that a project is kept under: its own, or another where one of its id is here already. */
export const freeId = async (id: string, freshId: string): Promise<string> =>
  (await database.projects.get(id)) === undefined ? id : freshId
export const withId = (doc: Doc, id: string): Doc => ({ ...doc, project: { ...doc.project, id } })

/** Keeps a project that was read from a file, under an id that is free. */
export async function takeInProject(
  { doc, putAside }: { readonly doc: Doc; readonly putAside: readonly PutAside[] },
  at: string,
  writer: string,
): Promise<Written> {
  const written = await saveTouched(doc, [{ op: 'replace', path: [], value: null }], [], writer)
  if (putAside.length) await keepPutAside(doc.project.id, at, putAside)
  return written
}

/** Notes when a project was opened, and what footage it has. */
export const noteOpening = async (row: OpeningRow): Promise<void> => void (await database.openings.put(row))

/** Gives a project that is not open another name. */
export const renameProject = async (id: string, name: string): Promise<void> =>
  void (await database.projects.update(id, { name }))

/** Puts a project out of sight, to be deleted for good when nobody can want it back; or brings it back (null). */
export async function markDeleted(projectId: string, at: string | null): Promise<void> {
  const known = await database.openings.get(projectId)
  const row = known ?? { projectId, openedAt: '', seconds: 0, bytes: 0 }
  await database.openings.put({ ...row, deletedAt: at })
}
/** Projects that were put out of sight. */
export const deletedProjects = async (): Promise<string[]> =>
  (await database.openings.toArray()).flatMap(({ projectId, deletedAt }) => (deletedAt ? [projectId] : []))

/** A project once more, under another name: all of it but its history. */
export async function duplicateProject(
  from: string,
  to: string,
  name: string,
  createdAt: string,
): Promise<void> {
  const { projects, clips, timelines, leftAside, posters, handles, points, openings } = database
  await database.transaction(
    'rw',
    [projects, clips, timelines, leftAside, posters, handles, points, openings],
    async () => {
      const project = await projects.get(from)
      if (!project) return
      await projects.put({ ...project, id: to, name, createdAt })
      const opening = await openings.get(from)
      if (opening) await openings.put({ ...opening, projectId: to, openedAt: '' })
      const copy = async <Row extends { readonly projectId: string }>(
        table: Table<Row, [string, string]>,
      ) => {
        const rows = await table.where({ projectId: from }).toArray()
        await table.bulkPut(rows.map((row) => ({ ...row, projectId: to })))
      }
      await copy(clips)
      await copy(timelines)
      await copy(leftAside)
      await copy(posters)
      await copy(handles)
      await copy(points)
    },
  )
}

/** A project as it was last saved, and what of it was put aside, now or before. */
export interface LoadedProject {
  readonly doc: Doc
  readonly putAside: readonly PutAsideRow[]
  /** The steps that it was left with; null where there are none, and where what was put aside makes them say nothing. */
  readonly past: StoredPast | null
  /** How often it was written. */
  readonly revision: number
}

/**
 * The whole of a project as it was last saved; null where there is none of this id. What cannot be read any more is put
 * aside as it was, and the rest opens.
 * @param at when, for what is put aside
 * @param mayWrite whether what is put aside is moved there at once; a reader leaves everything where it lies
 * @param early is told the clips while the timelines are still on their way
 */
export async function loadProject(
  projectId: string,
  at: string,
  mayWrite = true,
  early: (clips: readonly Clip[]) => void = () => {},
): Promise<LoadedProject | null> {
  const { projects, clips, timelines, leftAside, putAside, steps, moreOfSteps, histories } = database
  // By the primary key: the index beside it looks each row up once more.
  const rowsOf = (table: Table<Owned<object>, [string, string]>) =>
    table.where('[projectId+id]').between([projectId, Dexie.minKey], [projectId, Dexie.maxKey])
  const bare = ({ projectId: _, ...row }: Owned<object>) => row
  return database.transaction(
    'rw',
    [projects, clips, timelines, leftAside, putAside, steps, moreOfSteps, histories],
    async () => {
      const rows = mending()
      const readClips = rowsOf(clips).toArray((stored) => {
        const read = stored.flatMap((row) => rows.clip(bare(row)) ?? [])
        early(read)
      })
      const readTimelines = rowsOf(timelines).toArray((stored) =>
        stored.flatMap((row) => rows.timeline(bare(row)) ?? []),
      )
      const [project, before, leftRows] = await Promise.all([
        projects.get(projectId),
        putAside.where({ projectId }).toArray(),
        rowsOf(leftAside).toArray(),
        readTimelines,
        readClips,
      ])
      if (!project) return null
      for (const row of leftRows) rows.leftAside(bare(row))
      const mended = rows.mended(project)
      if (!mended) return null
      const { doc } = mended
      const fresh = mended.putAside.map((putAside): PutAsideRow => ({ ...putAside, projectId, at }))
      if (fresh.length && mayWrite) {
        // What was put aside leaves its place, so that nothing stumbles over it again.
        for (const { what, row } of mended.putAside) {
          const { id } = row as { id?: unknown }
          if (typeof id !== 'string') continue
          if (what === 'clip') await clips.delete([projectId, id])
          if (what === 'timeline') await timelines.delete([projectId, id])
          if (what === 'left-aside') await leftAside.delete([projectId, id])
        }
        await putAside.bulkAdd(fresh)
        await writeDoc(doc)
      }
      return {
        doc,
        putAside: [...before, ...fresh],
        past: fresh.length ? null : await loadPast(projectId),
        revision: (await histories.get(projectId))?.revision ?? 0,
      }
    },
  )
}

/** Keeps what a file brought that could not be read. */
export async function keepPutAside(projectId: string, at: string, rows: readonly PutAside[]): Promise<void> {
  await database.putAside.bulkAdd(rows.map((row): PutAsideRow => ({ ...row, projectId, at })))
}

/** A value as it is kept. @throws ZodError where it could not be read again */
function kept<T>(schema: z.ZodType<T>, value: unknown): T {
  const parsed = parseQuickly(schema, value)
  if (!parsed.success) throw parsed.error
  return parsed.data
}
const owned = <T extends object>(projectId: string, schema: z.ZodType<T>, row: unknown): Owned<T> => ({
  ...kept(schema, row),
  projectId,
})
const allOwned = <T extends object>(
  projectId: string,
  schema: z.ZodType<T>,
  rows: Record<string, T>,
): Owned<T>[] => Object.values(rows).map((row) => owned(projectId, schema, row))

async function writeDoc(doc: Doc): Promise<void> {
  const projectId = doc.project.id
  await database.projects.put(kept(Project, doc.project))
  await database.clips.bulkPut(allOwned(projectId, Clip, doc.clips))
  await database.timelines.bulkPut(allOwned(projectId, Timeline, doc.timelines))
  await database.leftAside.bulkPut(allOwned(projectId, LeftAside, doc.leftAside))
}

/** Writes a whole project. @throws ZodError where it could not be read again as it is; nothing is written then */
export const saveDoc = (doc: Doc): Promise<void> =>
  database.transaction(
    'rw',
    [database.projects, database.clips, database.timelines, database.leftAside],
    () => writeDoc(doc),
  )

/** What was written: how often the project was, counting this. */
export interface Written {
  readonly revision: number
  /** Whether what the browser had kept of the project was gone, and all of it was written anew. */
  readonly anew: boolean
}

/**
 * Writes only the rows that patches touched, and the history with them, all or none. A patch of the whole writes the whole, and so does
 * any where the browser has lost what it kept.
 * @param writer the tab that writes; refused where another one has taken the project since
 * @param ahead the number of the last of these changes among those that the tab wrote ahead
 * @throws ZodError where a row could not be read again as it is; nothing is written then
 * @throws WrittenElsewhere where another tab writes the project
 */
export async function saveTouched(
  doc: Doc,
  patches: readonly Patch[],
  journal: readonly Journal[] = [],
  writer = '',
  ahead?: number,
): Promise<Written> {
  const projectId = doc.project.id
  const { projects, clips, timelines, leftAside, steps, moreOfSteps, histories } = database
  const tables = [projects, clips, timelines, leftAside, steps, moreOfSteps, histories]
  return database.transaction('rw', tables, async () => {
    const [before, known] = await Promise.all([histories.get(projectId), projects.get(projectId)])
    if (before && before.writer !== writer && writer) throw new WrittenElsewhere(doc.project.name)
    const whole = patches.some((p) => p.path.length === 0)
    const anew = !whole && known === undefined
    const revision = (before?.revision ?? 0) + 1
    const position = journal.at(-1)?.position ?? before?.position ?? 0
    await Promise.all([
      whole || anew ? writeDoc(doc) : writeTouched(doc, patches),
      writeJournal(projectId, journal),
      histories.put({ projectId, position, writer, revision, ahead: ahead ?? before?.ahead ?? 0 }),
    ])
    return { revision, anew }
  })
}

/** Another tab has taken the project: what is written here would overwrite what is written there. */
export class WrittenElsewhere extends Error {
  override name = 'WrittenElsewhere'
  constructor(name: string) {
    super(`Another tab has taken “${name}” and writes it: what was done here since is only here.`)
  }
}

/**
 * Takes a project for a tab: from now on no other one's writing is taken.
 * @returns the number of the last change that is in of those that the tab wrote ahead
 */
export async function takeForWriting(projectId: string, writer: string): Promise<number> {
  const { histories } = database
  return database.transaction('rw', histories, async () => {
    const row = await histories.get(projectId)
    const ahead = row?.writer === writer ? (row.ahead ?? 0) : 0
    await histories.put({
      projectId,
      position: row?.position ?? 0,
      revision: row?.revision ?? 0,
      writer,
      ahead,
    })
    return ahead
  })
}

async function writeTouched(doc: Doc, patches: readonly Patch[]): Promise<void> {
  const projectId = doc.project.id
  const touched = (part: string) => [
    ...new Set(patches.filter((p) => p.path[0] === part && p.path.length > 1).map((p) => String(p.path[1]))),
  ]
  const { projects, clips, timelines, leftAside } = database
  const write = <T extends object>(
    table: Table<Owned<T>, [string, string]>,
    schema: z.ZodType<T>,
    rows: Record<string, T>,
    ids: string[],
  ) => {
    const gone = ids.filter((id) => !Object.hasOwn(rows, id)).map((id): [string, string] => [projectId, id])
    const kept = ids.filter((id) => Object.hasOwn(rows, id)).map((id) => owned(projectId, schema, rows[id]))
    return [gone.length > 0 && table.bulkDelete(gone), kept.length > 0 && table.bulkPut(kept)]
  }
  await Promise.all([
    patches.some((p) => p.path[0] === 'project') && projects.put(kept(Project, doc.project)),
    ...write(clips, Clip, doc.clips, touched('clips')),
    ...write(timelines, Timeline, doc.timelines, touched('timelines')),
    ...write(leftAside, LeftAside, doc.leftAside, touched('leftAside')),
  ])
}

/** Deletes a project and everything that belongs to it. */
export async function deleteProject(projectId: string): Promise<void> {
  const {
    projects,
    clips,
    timelines,
    leftAside,
    putAside,
    posters,
    handles,
    steps,
    moreOfSteps,
    histories,
    points,
    openings,
  } = database
  const its = [clips, timelines, leftAside, putAside, posters, handles]
  const theirs = [...its, steps, moreOfSteps, histories, points, openings]
  await database.transaction('rw', [projects, ...theirs], async () => {
    await projects.delete(projectId)
    for (const table of theirs) await table.where({ projectId }).delete()
  })
  // Where no files are kept of it there are none to take away.
  await dropAhead(projectId).catch(() => {})
  for (const kept of [keptRenders, keptProxies]) await kept.dropAll(projectId).catch(() => {})
}
