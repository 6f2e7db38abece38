import { expose } from 'comlink'
import type { Clip } from '../core/edit/clip'
import type { Doc } from '../core/edit/project'
import type { Placement, Timeline } from '../core/edit/timeline'
import { readProjectFile } from '../core/exchange/project-file'
import { type LoadedProject, loadProject, takeInProject } from '../storage/projects'
import { recoverAhead } from '../storage/recovery'
import { jobs } from './job'

const running = jobs()

/** So many clips, or placements, are handed over at once: more would hold the page up while they are unpacked. */
const [atOnce, placementsAtOnce] = [250, 1000]

/** Placements of a track, in order. */
export interface SomePlacements {
  readonly timelineId: string
  readonly trackId: string
  readonly placements: readonly Placement[]
}

/** A project without its clips, which are handed over before it. */
export type LoadedFrame = Omit<LoadedProject, 'doc'> & { readonly doc: Omit<Doc, 'clips'> }

const service = {
  /** Brings into the database what was written ahead of it. */
  recover: (id: number, projectId: string, at: string): Promise<void> =>
    running.run(id, () => recoverAhead(projectId, at)),
  /**
   * Reads a project from storage and sees that it makes sense, off the page.
   * @param tell takes the clips, a handful at a time
   * @param tellPlaced takes what is placed, a handful at a time; the timelines come without it
   */
  load: (
    id: number,
    projectId: string,
    at: string,
    mayWrite: boolean,
    tell: (clips: readonly Clip[]) => Promise<void>,
    tellPlaced: (some: SomePlacements) => Promise<void>,
  ): Promise<LoadedFrame | null> =>
    running.run(id, async (signal) => {
      const loaded = await loadProject(projectId, at, mayWrite)
      if (!loaded) return null
      const { clips, ...rest } = loaded.doc
      const all = Object.values(clips)
      for (let i = 0; i < all.length; i += atOnce) {
        signal.throwIfAborted()
        await tell(all.slice(i, i + atOnce))
      }
      const timelines: Record<string, Timeline> = {}
      for (const timeline of Object.values(rest.timelines)) {
        for (const { id: trackId, placements } of timeline.tracks)
          for (let i = 0; i < placements.length; i += placementsAtOnce) {
            signal.throwIfAborted()
            await tellPlaced({
              timelineId: timeline.id,
              trackId,
              placements: placements.slice(i, i + placementsAtOnce),
            })
          }
        timelines[timeline.id] = {
          ...timeline,
          tracks: timeline.tracks.map((track) => ({ ...track, placements: [] })),
        }
      }
      return { ...loaded, doc: { ...rest, timelines } }
    }),
  /**
   * Reads a project file and keeps what it holds as a project of its own, off the page: one that is here already is not overwritten.
   * @param freshId for it where its own is taken
   * @param writer the tab that takes it in
   * @returns its id, or what is wrong with the file
   */
  takeIn: (
    id: number,
    file: Blob,
    freshId: string,
    at: string,
    writer: string,
  ): Promise<{ readonly id: string } | { readonly error: string }> =>
    running.run(id, async () => {
      const result = readProjectFile(await file.text())
      return result.ok ? { id: await takeInProject(result, freshId, at, writer) } : { error: result.error }
    }),
  end: running.end,
}

export type LoadingService = typeof service
expose(service)
