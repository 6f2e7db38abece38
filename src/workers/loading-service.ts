import { type Result, failure } from '../core/result'
import type { Clip } from '../core/model/clip'
import type { Doc } from '../core/model/project'
import type { Placement } from '../core/model/timeline'
import { readProjectFile } from '../core/stored/project-file'
import { type LoadedProject, freeId, loadProject, takeInProject, withId } from '../storage/projects'
import { recoverAhead } from '../storage/recovery'
import { job } from './job'

/** So many clips, or placements, are handed over at once: more would hold the page up while they are unpacked. */
const [clipsAtOnce, placementsAtOnce] = [250, 1000]

/** Placements of a track, in order. */
export interface SomePlacements {
  readonly timelineId: string
  readonly trackId: string
  readonly placements: readonly Placement[]
}

/** A handful of a project. */
export type Handful = { readonly clips: readonly Clip[] } | { readonly placed: readonly SomePlacements[] }

function* handfulsOf({ clips, timelines }: Doc): Generator<Handful> {
  const all = Object.values(clips)
  for (let i = 0; i < all.length; i += clipsAtOnce) yield { clips: all.slice(i, i + clipsAtOnce) }
  let placed: SomePlacements[] = []
  let room = placementsAtOnce
  for (const { id: timelineId, tracks } of Object.values(timelines))
    for (const { id: trackId, placements } of tracks)
      for (let i = 0; i < placements.length;) {
        const part = placements.slice(i, i + room)
        placed.push({ timelineId, trackId, placements: part })
        i += part.length
        room -= part.length
        if (room > 0) continue
        yield { placed }
        placed = []
        room = placementsAtOnce
      }
  if (placed.length) yield { placed }
}

/** The timelines without what is placed on them. */
const bare = (timelines: Doc['timelines']): Doc['timelines'] =>
  Object.fromEntries(
    Object.values(timelines).map((timeline) => [
      timeline.id,
      { ...timeline, tracks: timeline.tracks.map((track) => ({ ...track, placements: [] })) },
    ]),
  )

/** A project without its clips and what is placed, which are handed over before it. */
export type LoadedFrame = Omit<LoadedProject, 'doc'> & { readonly doc: Omit<Doc, 'clips'> }

/** Takes a handful of a project; the next one comes once it has. */
type TakeHandful = (handful: Handful) => Promise<void>

/** Hands a document over, a handful at a time. @returns what is left of it */
async function handOver(doc: Doc, tell: TakeHandful, signal: AbortSignal): Promise<LoadedFrame['doc']> {
  // The next handful is packed while one is unpacked, and none waits beyond that.
  let before = Promise.resolve()
  for (const handful of handfulsOf(doc)) {
    signal.throwIfAborted()
    const sent = tell(handful)
    await before
    before = sent
  }
  await before
  const { clips: _, timelines, ...rest } = doc
  return { ...rest, timelines: bare(timelines) }
}

/** A project that was read from a file, and whether it is on disk: where nothing can be kept it is only here. */
export type TakenIn = Result<{ frame: LoadedFrame; isKept: boolean }>

/** Reading of whole projects, off the page. */
export const loadingServiceOffPage = {
  /** Brings into the database what was written ahead of it. */
  recover: (projectId: string, at: string, until?: AbortSignal): Promise<void> =>
    job(until, () => recoverAhead(projectId, at)),
  /**
   * Reads a project from storage and sees that it makes sense.
   * @param tell takes the clips and what is placed; the rest comes without them
   */
  load: (
    projectId: string,
    at: string,
    mayWrite: boolean,
    tell: TakeHandful,
    until?: AbortSignal,
  ): Promise<LoadedFrame | null> =>
    job(until, async (signal) => {
      const loaded = await loadProject(projectId, at, mayWrite)
      return loaded && { ...loaded, doc: await handOver(loaded.doc, tell, signal) }
    }),
  /**
   * Reads a project file and keeps what it holds as a project of its own: one that is here already is not overwritten.
   * @param freshId for it where its own is taken
   * @param writer the tab that takes it in
   * @param tell takes the clips and what is placed, while they are written; the rest comes without them
   */
  takeIn: (
    file: Blob,
    freshId: string,
    at: string,
    writer: string,
    tell: TakeHandful,
    until?: AbortSignal,
  ): Promise<TakenIn> =>
    job(until, async (signal): Promise<TakenIn> => {
      const text = await file.text().catch(() => null)
      if (text === null) return failure('it could not be read. Nothing was changed.')
      const result = readProjectFile(text)
      if (!result.ok) return result
      const named = await freeId(result.doc.project.id, freshId).catch(() => null)
      const doc = named ? withId(result.doc, named) : result.doc
      const keeping = takeInProject({ doc, putAside: result.putAside }, at, writer).catch(() => null)
      const handed = await handOver(doc, tell, signal)
      const written = await keeping
      const putAside = result.putAside.map((row) => ({ ...row, projectId: doc.project.id, at }))
      return {
        ok: true,
        isKept: written !== null,
        frame: { doc: handed, putAside, past: null, revision: written?.revision ?? 0 },
      }
    }),
}
export type LoadingService = typeof loadingServiceOffPage
