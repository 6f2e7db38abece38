import type { Doc } from '../core/model/project'
import { mend } from '../core/stored/mend'
import { canMigrate, migrated, storedVersion } from '../core/stored/migrate'
import { type PointRow, database } from './database'

/** A restore point as it is listed. */
export type PointEntry = Omit<PointRow, 'projectId' | 'doc' | 'version'>

/** The restore points of a project, the newest first, without what they hold. */
export async function listPoints(projectId: string): Promise<PointEntry[]> {
  const rows = await database.points.where({ projectId }).toArray()
  return rows
    .map(({ id, name, at, position }) => ({ id, name, at, position }))
    .sort((a, b) => (a.at < b.at ? 1 : -1))
}

/** Keeps a project as it is now under a name. */
export const keepPoint = async (row: PointRow): Promise<void> =>
  void (await database.points.put({ ...row, version: storedVersion }))

const isRow = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null
const rowsOf = (value: unknown): readonly unknown[] => (isRow(value) ? Object.values(value) : [])

/**
 * What a restore point holds, brought to today's shape.
 * @returns null where there is none of this id; `unreadable` where some of it can be read no more: half a project is none to go back to
 */
export async function loadPoint(projectId: string, id: string): Promise<Doc | null | 'unreadable'> {
  const row = await database.points.get([projectId, id])
  if (!row) return null
  const doc: unknown = row.doc
  const stored = {
    project: isRow(doc) ? doc.project : null,
    clips: isRow(doc) ? rowsOf(doc.clips) : [],
    timelines: isRow(doc) ? rowsOf(doc.timelines) : [],
    leftAside: isRow(doc) ? rowsOf(doc.leftAside) : [],
  }
  // Points of old do not say their version: the latest that makes a whole project of them is it.
  const versions = row.version === undefined ? [storedVersion, 3, 2, 1] : [row.version]
  for (const version of versions.filter(canMigrate)) {
    const mended = mend(migrated(stored, version))
    if (mended?.putAside.length === 0) return mended.doc
  }
  return 'unreadable'
}

export const dropPoint = (projectId: string, id: string): Promise<void> =>
  database.points.delete([projectId, id])
