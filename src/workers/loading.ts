import { proxy } from 'comlink'
import type { Clip } from '../core/model/clip'
import type { Timeline, Track } from '../core/model/timeline'
import type { Result } from '../core/result'
import { nextTurn } from '../media/turns'
import type { LoadedProject } from '../storage/projects'
import type { BareTimeline, Handful, LoadedFrame, TakeInOptions } from './loading-service'
import { loadingService } from './services'

/**
 * A timeline whose tracks are unpacked when they are first looked at: of two hundred the page shows one. What lies on them is frozen one by
 * one, or the first edit would do it for all at once and hold the page up.
 */
function packed(timeline: BareTimeline, text: string): Timeline {
  let tracks: readonly Track[] | null = null
  const unpack = () =>
    Object.freeze(
      (JSON.parse(text) as Track[]).map((track) =>
        Object.freeze({ ...track, placements: Object.freeze(track.placements.map(Object.freeze)) }),
      ),
    ) as readonly Track[]
  const whole = Object.defineProperty({ ...timeline }, 'tracks', {
    enumerable: true,
    get: () => (tracks ??= unpack()),
  })
  return Object.freeze(whole) as Timeline
}

/** Puts a project together out of the handfuls in which it comes. */
function gatherer() {
  const clips: Record<string, Clip> = {}
  const tracks = new Map<string, string>()
  const take = async (handful: Handful) => {
    if ('tracks' in handful) tracks.set(handful.timelineId, handful.tracks)
    else for (const clip of JSON.parse(handful.clips) as Clip[]) clips[clip.id] = Object.freeze(clip)
  }
  function whole(frame: LoadedFrame): LoadedProject {
    const timelines = Object.fromEntries(
      frame.doc.timelines.map((timeline): [string, Timeline] => [
        timeline.id,
        packed(timeline, tracks.get(timeline.id) ?? '[]'),
      ]),
    )
    void unpackInTurn(Object.values(timelines))
    return { ...frame, doc: { ...frame.doc, clips, timelines } }
  }
  return { take: proxy(take), whole }
}

/** Between two timelines that nobody has looked at yet the page has so long for itself, in milliseconds. */
const unpackingPause = 20

/** Unpacks them one after the other: what goes through all of them later would hold the page up. */
async function unpackInTurn(timelines: readonly Timeline[]): Promise<void> {
  for (const timeline of timelines) {
    await new Promise((turn) => setTimeout(turn, unpackingPause))
    void timeline.tracks
  }
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
  options: TakeInOptions,
): Promise<Result<{ loaded: LoadedProject; isKept: boolean }>> {
  const { take, whole } = gatherer()
  const taken = await loadingService().takeIn(file, options, take)
  await nextTurn()
  return taken.ok ? { ok: true, loaded: whole(taken.frame), isKept: taken.isKept } : taken
}
