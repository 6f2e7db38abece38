import { proxy } from 'comlink'
import { freeze } from 'immer'
import type { Clip } from '../core/model/clip'
import type { Placement, Timeline } from '../core/model/timeline'
import type { Result } from '../core/result'
import { nextTurn } from '../media/turns'
import type { LoadedProject } from '../storage/projects'
import type { Handful, LoadedFrame, SomePlacements } from './loading-service'
import { loadingService } from './services'

/** Puts a project together out of the handfuls in which it comes. */
function gatherer() {
  const clips: Record<string, Clip> = {}
  const placed = new Map<string, Placement[]>()
  const take = async (handful: Handful) => {
    // Values do not change. An edit would freeze all of them at once, and hold the page up for 300 ms.
    freeze(handful, true)
    if ('clips' in handful) for (const clip of handful.clips) clips[clip.id] = clip
    else for (const somePlacements of handful.placed) place(somePlacements)
  }
  function place({ timelineId, trackId, placements }: SomePlacements): void {
    const key = `${timelineId} ${trackId}`
    const known = placed.get(key)
    if (known) for (const placement of placements) known.push(placement)
    else placed.set(key, [...placements])
  }
  function whole(frame: LoadedFrame): LoadedProject {
    const timelines = Object.fromEntries(
      Object.values(frame.doc.timelines).map((timeline): [string, Timeline] => {
        const tracks = timeline.tracks.map((track) => ({
          ...track,
          placements: placed.get(`${timeline.id} ${track.id}`) ?? [],
        }))
        return [timeline.id, freeze({ ...timeline, tracks }, true)]
      }),
    )
    return { ...frame, doc: { ...frame.doc, clips, timelines } }
  }
  return { take: proxy(take), whole }
}

/**
 * The whole of a project as it was last saved, read and checked off the page; null where there is none of this id.
 * @see loadProject
 */
export async function loadOffPage(
  projectId: string,
  at: string,
  mayWrite: boolean,
): Promise<LoadedProject | null> {
  const { take, whole } = gatherer()
  const frame = await loadingService().load(projectId, at, mayWrite, take)
  // What came is unpacked by now; what is painted of it begins with a turn of its own.
  await nextTurn()
  return frame && whole(frame)
}

/** Brings into the database what a tab that is gone had written ahead of it, off the page. @see recoverAhead */
export const recoverOffPage = (projectId: string, at: string): Promise<void> =>
  loadingService().recover(projectId, at)

/** Takes a project file in, off the page. @see LoadingService.takeIn */
export async function takeInOffPage(
  file: Blob,
  freshId: string,
  at: string,
  writer: string,
): Promise<Result<{ loaded: LoadedProject; isKept: boolean }>> {
  const { take, whole } = gatherer()
  const taken = await loadingService().takeIn(file, freshId, at, writer, take)
  await nextTurn()
  return taken.ok ? { ok: true, loaded: whole(taken.frame), isKept: taken.isKept } : taken
}
