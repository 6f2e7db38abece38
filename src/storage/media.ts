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

/** Gives a project the pictures of another one's clips, and its leave to open their files. */
export async function copyMedia(from: string, to: string): Promise<void> {
  const { posters, handles } = database
  await database.transaction('rw', [posters, handles], async () => {
    const [pictures, leaves] = await Promise.all([
      posters.where({ projectId: from }).toArray(),
      handles.where({ projectId: from }).toArray(),
    ])
    await posters.bulkPut(pictures.map((row) => ({ ...row, projectId: to })))
    await handles.bulkPut(leaves.map((row) => ({ ...row, projectId: to })))
  })
}
