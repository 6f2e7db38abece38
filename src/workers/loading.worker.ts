import { expose } from 'comlink'
import type { Clip } from '../core/model/clip'
import type { Doc } from '../core/model/project'
import type { Placement } from '../core/model/timeline'
import { readProjectFile } from '../core/stored/project-file'
import { type LoadedProject, loadProject, takeInProject } from '../storage/projects'
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

/** A project without its clips, which are handed over before it. */
export type LoadedFrame = Omit<LoadedProject, 'doc'> & { readonly doc: Omit<Doc, 'clips'> }

const service = {
  /** Brings into the database what was written ahead of it. */
  recover: (projectId: string, at: string, until?: AbortSignal): Promise<void> =>
    job(until, () => recoverAhead(projectId, at)),
  /**
   * Reads a project from storage and sees that it makes sense, off the page.
   * @param tell takes the clips and what is placed, a handful at a time; the rest comes without them
   */
  load: (
    projectId: string,
    at: string,
    mayWrite: boolean,
    tell: (handful: Handful) => Promise<void>,
    until?: AbortSignal,
  ): Promise<LoadedFrame | null> =>
    job(until, async (signal) => {
      const loaded = await loadProject(projectId, at, mayWrite)
      if (!loaded) return null
      // The next handful is packed while one is unpacked, and none waits beyond that.
      let before = Promise.resolve()
      for (const handful of handfulsOf(loaded.doc)) {
        signal.throwIfAborted()
        const sent = tell(handful)
        await before
        before = sent
      }
      await before
      const { clips: _, timelines, ...rest } = loaded.doc
      return { ...loaded, doc: { ...rest, timelines: bare(timelines) } }
    }),
  /**
   * Reads a project file and keeps what it holds as a project of its own, off the page: one that is here already is not overwritten.
   * @param freshId for it where its own is taken
   * @param writer the tab that takes it in
   * @returns its id, or what is wrong with the file
   */
  takeIn: (
    file: Blob,
    freshId: string,
    at: string,
    writer: string,
    until?: AbortSignal,
  ): Promise<{ readonly id: string } | { readonly error: string }> =>
    job(until, async () => {
      const result = readProjectFile(await file.text())
      return result.ok ? { id: await takeInProject(result, freshId, at, writer) } : { error: result.error }
    }),
}

export type LoadingService = typeof service
expose(service)
