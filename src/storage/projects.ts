import type { Patch } from 'immer'
import { Clip, type Doc, Project, Timeline } from '../core/edit/project'
import { type Owned, database } from './database'

/** A project as the list of projects shows it. */
export interface ProjectEntry {
  readonly id: string
  readonly name: string
  readonly createdAt: string
  readonly clips: number
}

export async function listProjects(): Promise<ProjectEntry[]> {
  const projects = await database.projects.toArray()
  return projects
    .map(({ id, name, createdAt, clipOrder }) => ({ id, name, createdAt, clips: clipOrder.length }))
    .sort((a, b) => (a.createdAt < b.createdAt ? 1 : -1))
}

/** The whole of a project as it was last saved; null where there is none of this id. @throws ZodError on damaged rows */
export async function loadDoc(projectId: string): Promise<Doc | null> {
  const [project, clips, timelines] = await Promise.all([
    database.projects.get(projectId),
    database.clips.where({ projectId }).toArray(),
    database.timelines.where({ projectId }).toArray(),
  ])
  if (!project) return null
  return {
    project: Project.parse(project),
    clips: Object.fromEntries(clips.map((row) => [row.id, Clip.parse(row)])),
    timelines: Object.fromEntries(timelines.map((row) => [row.id, Timeline.parse(row)])),
  }
}

/** Writes a whole project. */
export async function saveDoc(doc: Doc): Promise<void> {
  const projectId = doc.project.id
  await database.transaction('rw', database.projects, database.clips, database.timelines, async () => {
    await database.projects.put(doc.project)
    await database.clips.bulkPut(
      Object.values(doc.clips).map((clip): Owned<Clip> => ({ ...clip, projectId })),
    )
    await database.timelines.bulkPut(
      Object.values(doc.timelines).map((t): Owned<Timeline> => ({ ...t, projectId })),
    )
  })
}

/** Writes only the rows that patches touched, all or none. A patch of the whole writes the whole. */
export async function saveTouched(doc: Doc, patches: readonly Patch[]): Promise<void> {
  if (patches.some((p) => p.path.length === 0)) return saveDoc(doc)
  const projectId = doc.project.id
  const touched = (part: string) => [
    ...new Set(patches.filter((p) => p.path[0] === part).map((p) => String(p.path[1]))),
  ]
  await database.transaction('rw', database.projects, database.clips, database.timelines, async () => {
    if (patches.some((p) => p.path[0] === 'project')) await database.projects.put(doc.project)
    const write = async <T extends { id: string }>(
      table: typeof database.clips,
      rows: Record<string, T>,
      ids: string[],
    ) => {
      const gone = ids.filter((id) => !rows[id]).map((id): [string, string] => [projectId, id])
      const kept = ids.filter((id) => rows[id]).map((id) => ({ ...rows[id], projectId }))
      if (gone.length) await table.bulkDelete(gone)
      if (kept.length) await table.bulkPut(kept as never)
    }
    await write(database.clips, doc.clips, touched('clips'))
    await write(database.timelines as never, doc.timelines, touched('timelines'))
  })
}

/** Deletes a project and everything that belongs to it. */
export async function deleteProject(projectId: string): Promise<void> {
  const { projects, clips, timelines, posters, handles } = database
  await database.transaction('rw', [projects, clips, timelines, posters, handles], async () => {
    await projects.delete(projectId)
    for (const table of [clips, timelines, posters, handles]) await table.where({ projectId }).delete()
  })
}
