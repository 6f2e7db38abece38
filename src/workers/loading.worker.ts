import { expose } from 'comlink'
import type { Clip } from '../core/edit/clip'
import type { Doc } from '../core/edit/project'
import { type LoadedProject, loadProject } from '../storage/projects'
import { jobs } from './job'

const running = jobs()

/** So many clips are handed over at once: more would hold the page up while they are unpacked. */
const atOnce = 250

/** A project without its clips, which are handed over before it. */
export type LoadedFrame = Omit<LoadedProject, 'doc'> & { readonly doc: Omit<Doc, 'clips'> }

const service = {
  /**
   * Reads a project from storage and sees that it makes sense, off the page.
   * @param tell takes the clips, a handful at a time
   */
  load: (
    id: number,
    projectId: string,
    at: string,
    mayWrite: boolean,
    tell: (clips: readonly Clip[]) => Promise<void>,
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
      return { ...loaded, doc: rest }
    }),
  end: running.end,
}

export type LoadingService = typeof service
expose(service)
