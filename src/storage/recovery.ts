import { type Patch, applyPatches, enablePatches } from 'immer'
import type { Doc } from '../core/model/project'
import { database } from './database'
import { loadProject, saveTouched } from './projects'
import { aheadFolder, aheadText, entriesAfter } from './write-ahead'

enablePatches()

/**
 * Brings into the database what the last tab that wrote a project did not come to, step by step, so that what went wrong in one does not
 * take those before it along.
 * @param log what a tab has written ahead; null where it has not
 * @returns whether all of it could be brought in
 */
export async function catchUp(
  projectId: string,
  log: (writer: string) => Promise<string | null>,
  at: string,
): Promise<boolean> {
  const row = await database.histories.get(projectId)
  const text = row ? await log(row.writer) : null
  const due = row && text ? entriesAfter(row.ahead ?? 0, text) : []
  if (!row || due.length === 0) return true
  const loaded = await loadProject(projectId, at)
  if (!loaded) return true
  let doc: Doc = loaded.doc
  try {
    for (const { n, patches, journal } of due) {
      doc = applyPatches(doc, patches as Patch[])
      await saveTouched(doc, patches, journal, row.writer, n)
    }
    return true
  } catch {
    // It could not be written when it was done either, and was told then.
    return false
  }
}

/**
 * Brings into the database what tabs that are gone have written ahead of it, and takes their logs away. To be called with leave to write
 * the project, before it is read.
 */
export async function recoverAhead(projectId: string, at: string): Promise<void> {
  // Where the browser keeps no files nothing was written ahead.
  const folder = await aheadFolder(projectId, false).catch(() => null)
  if (!folder) return
  if (!(await catchUp(projectId, (writer) => aheadText(folder, writer), at))) return
  for await (const writer of folder.keys())
    // A tab that is still there holds its own.
    await folder.removeEntry(writer).catch(() => {})
}
