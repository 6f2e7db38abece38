import { proxy } from 'comlink'
import type { Clip } from '../core/model/clip'
import type { Placement, Timeline } from '../core/model/timeline'
import { readProjectFile } from '../core/stored/project-file'
import { nextTurn } from '../media/turns'
import { type LoadedProject, loadProject, takeInProject } from '../storage/projects'
import { recoverAhead } from '../storage/recovery'
import type { Handful, SomePlacements } from './loading.worker'
import { loadingService } from './services'

/**
 * The whole of a project as it was last saved, read and checked off the page; null where there is none of this id.
 * @see loadProject
 */
export async function loadOffPage(
  projectId: string,
  at: string,
  mayWrite: boolean,
): Promise<LoadedProject | null> {
  // Where there are no workers it is read in place: the tests.
  if (typeof Worker === 'undefined') return loadProject(projectId, at, mayWrite)
  const service = loadingService()
  const clips: Record<string, Clip> = {}
  const placed = new Map<string, Placement[]>()
  const take = async (handful: Handful) => {
    if ('clips' in handful) for (const clip of handful.clips) clips[clip.id] = clip
    else for (const somePlacements of handful.placed) place(somePlacements)
  }
  function place({ timelineId, trackId, placements }: SomePlacements): void {
    const key = `${timelineId} ${trackId}`
    const known = placed.get(key)
    if (known) for (const placement of placements) known.push(placement)
    else placed.set(key, [...placements])
  }
  const loaded = await service.load(projectId, at, mayWrite, proxy(take))
  // What came is unpacked by now; what is painted of it begins with a turn of its own.
  await nextTurn()
  if (!loaded) return null
  const timelines = Object.fromEntries(
    Object.values(loaded.doc.timelines).map((timeline): [string, Timeline] => {
      const tracks = timeline.tracks.map((track) => ({
        ...track,
        placements: placed.get(`${timeline.id} ${track.id}`) ?? [],
      }))
      return [timeline.id, { ...timeline, tracks }]
    }),
  )
  return { ...loaded, doc: { ...loaded.doc, clips, timelines } }
}

/** Brings into the database what a tab that is gone had written ahead of it, off the page. @see recoverAhead */
export async function recoverOffPage(projectId: string, at: string): Promise<void> {
  if (typeof Worker === 'undefined') return recoverAhead(projectId, at)
  await loadingService().recover(projectId, at)
}

/** Takes a project file in, off the page. @see LoadingService.takeIn */
export async function takeInOffPage(
  file: Blob,
  freshId: string,
  at: string,
  writer: string,
): Promise<{ readonly id: string } | { readonly error: string }> {
  if (typeof Worker === 'undefined') {
    const result = readProjectFile(await file.text())
    return result.ok ? { id: await takeInProject(result, freshId, at, writer) } : { error: result.error }
  }
  return loadingService().takeIn(file, freshId, at, writer)
}
