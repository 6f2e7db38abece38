import { defineStore } from 'pinia'
import { computed, shallowRef } from 'vue'
import type { Clip } from '../../core/model/clip'
import { joinStills, stillSequences } from '../../core/edit/numbered'
import { joinRecording, putTogether, splitRecordings } from '../../core/edit/parts'
import type { Rate } from '../../core/rate/rate'
import { useBackground } from '../background'
import { newId, useProject } from '../document/project'

/** Clips that came in several files: recordings become one each, numbered stills are offered as one. */
export const useSplit = defineStore('split', () => {
  const project = useProject()
  const background = useBackground()

  /** Looks through what has just come in. @param joins the step that it belongs to, so that both are undone together */
  function join(projectId: string, ids: readonly string[], joins: string): void {
    const { doc } = project
    if (doc?.project.id !== projectId) return
    const here = ids.flatMap((id) => doc.clips[id] ?? [])
    const recordings = splitRecordings(here).map((files) => joinRecording(files, newId()))
    if (recordings.length > 0)
      project.edit('take in clips', (draft) => recordings.forEach((clip) => putTogether(draft, clip)), joins)
    offers.value = stillSequences(here).map((clips) => ({ projectId, ids: clips.map(({ id }) => id) }))
  }

  /** Numbered stills of the last take-in that could be one clip each. */
  const offers = shallowRef<readonly { projectId: string; ids: readonly string[] }[]>([])
  const stillOffers = computed(() => {
    const { doc } = project
    if (!doc) return []
    return offers.value
      .filter(({ projectId }) => projectId === doc.project.id)
      .map(({ ids }) => ids.flatMap((id) => doc.clips[id] ?? []))
      .filter((clips) => clips.length > 1)
  })

  /** Makes one clip of numbered stills. */
  function takeAsOne(clips: readonly Clip[], rate: Rate): void {
    const clip = joinStills(clips, newId(), rate)
    if (!clip) return
    project.edit(`make one clip of ${clips.length} stills`, (doc) => putTogether(doc, clip))
    void background.work()
  }
  const leaveAsStills = () => (offers.value = [])

  return { join, stillOffers, takeAsOne, leaveAsStills }
})
