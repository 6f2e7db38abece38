import type { Doc } from '../core/model/project'
import { type PointRow, database } from './database'

/** A restore point as it is listed. */
export type PointEntry = Omit<PointRow, 'projectId' | 'doc'>

/** The restore points of a project, the newest first, without what they hold. */
export async function listPoints(projectId: string): Promise<PointEntry[]> {
  const rows = await database.points.where({ projectId }).toArray()
  return rows
    .map(({ id, name, at, position }) => ({ id, name, at, position }))
    .sort((a, b) => (a.at < b.at ? 1 : -1))
}

/** Keeps a project as it is now under a name. */
export const keepPoint = async (row: PointRow): Promise<void> => void (await database.points.put(row))

/** What a restore point holds; null where there is none of this id. */
export const loadPoint = async (projectId: string, id: string): Promise<Doc | null> =>
  (await database.points.get([projectId, id]))?.doc ?? null

export const dropPoint = (projectId: string, id: string): Promise<void> =>
  database.points.delete([projectId, id])
