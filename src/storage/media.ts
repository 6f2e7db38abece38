import { type PosterRow, database } from './database'

export const loadPosters = (projectId: string): Promise<PosterRow[]> =>
  database.posters.where({ projectId }).toArray()

export async function savePoster(row: PosterRow): Promise<void> {
  await database.posters.put(row)
}

export async function saveHandle(
  projectId: string,
  clipId: string,
  handle: FileSystemFileHandle,
): Promise<void> {
  await database.handles.put({ projectId, clipId, handle })
}

/** Which clips of a project have a kept handle. */
export async function clipsWithHandle(projectId: string): Promise<Set<string>> {
  const keys = await database.handles.where({ projectId }).primaryKeys()
  return new Set(keys.map(([, clipId]) => clipId))
}

/** The file behind a kept handle, where the browser still grants it without asking; else null. */
export async function fileFromHandle(projectId: string, clipId: string): Promise<File | null> {
  const row = await database.handles.get([projectId, clipId])
  if (!row) return null
  try {
    // Not in every browser's types yet.
    const handle = row.handle as FileSystemFileHandle & {
      queryPermission?: (o: { mode: 'read' }) => Promise<string>
    }
    if (handle.queryPermission && (await handle.queryPermission({ mode: 'read' })) !== 'granted') return null
    return await handle.getFile()
  } catch {
    return null
  }
}
