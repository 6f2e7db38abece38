import { proxy } from 'comlink'
import type { Clip } from '../core/edit/clip'
import { nextTurn } from '../media/turns'
import { type LoadedProject, loadProject } from '../storage/projects'
import { askFor } from './job'
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
  const take = async (some: readonly Clip[]) => {
    for (const clip of some) clips[clip.id] = clip
  }
  const loaded = await askFor(service, (id) => service.load(id, projectId, at, mayWrite, proxy(take)))
  // What came is unpacked by now; what is painted of it begins with a turn of its own.
  await nextTurn()
  return loaded && { ...loaded, doc: { ...loaded.doc, clips } }
}
