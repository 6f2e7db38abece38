import { defineStore } from 'pinia'
import type { Clip } from '../core/edit/clip'
import type { Draft } from '../core/edit/draft'
import { hasToBeWalked } from '../core/edit/timing'
import { useMedia } from './media'
import { useProject } from './project'

/** What is made of clips while the editor does something else: posters, and the frame times of those that list none. */
export const useBackground = defineStore('background', () => {
  const project = useProject()
  const media = useMedia()
  let working = false
  /** Clips whose frames could not be walked in this session. */
  const unwalkable = new Set<string>()

  /** Makes what is missing, one after the other; a second call while it runs adds nothing. */
  async function work(projectId: string): Promise<void> {
    if (working) return
    working = true
    try {
      // Clips may come while others are worked on: the list is gone through until nothing is left to do.
      for (let made = 1; made > 0;) {
        made = 0
        for (const { id } of project.clips) {
          if (project.doc?.project.id !== projectId) return
          const clip = project.doc.clips[id]
          if (!clip) continue
          if (wantsPoster(clip)) {
            await media.makePoster(projectId, clip, !project.readOnly)
            made++
          }
          if (hasToBeWalked(clip) && !unwalkable.has(id) && !media.missing.has(id)) {
            await walk(projectId, clip)
            made++
          }
        }
      }
    } finally {
      working = false
    }
  }

  const wantsPoster = (clip: Clip) =>
    Boolean(clip.reading?.video) &&
    !media.posterOf(clip) &&
    !media.troubles.has(clip.id) &&
    !media.missing.has(clip.id)

  /** Walks a clip and keeps what was found. It is no step of the editor's, and is not undone alone. */
  async function walk(projectId: string, clip: Clip): Promise<void> {
    const frameTimes = await media.walk(clip)
    if (!frameTimes) unwalkable.add(clip.id)
    if (!frameTimes || project.readOnly || project.doc?.project.id !== projectId) return
    project.learn((doc) => {
      const known = doc.clips[clip.id]
      if (known) known.frameTimes = frameTimes as Draft<Clip>['frameTimes']
    })
  }

  return { work }
})
