import { defineStore } from 'pinia'
import { computed, ref, watch } from 'vue'
import type { Clip, ClipFile } from '../core/model/clip'
import { readAgain } from '../core/edit/rereading'
import { replaceClip } from '../core/edit/replacing'
import { counted } from '../core/words/figures'
import { useArrivals } from './arrivals'
import { useBackground } from './background'
import { type SidingFile, useCard } from './card'
import { useMedia } from './media'
import { useProject } from './project'

/** A clip of which a file on the card holds something else by now, and these files. */
export interface ChangedClip {
  readonly clip: Clip
  readonly files: readonly { readonly of: Clip | ClipFile; readonly now: SidingFile }[]
}

/** Files of the card that were replaced by other copies since they were read: noticed, and read again in their place. */
export const useChanged = defineStore('changed', () => {
  const project = useProject()
  const card = useCard()
  const media = useMedia()
  const arrivals = useArrivals()
  const reading = ref(false)

  const clips = computed<ChangedClip[]>(() => {
    const onCard = new Map(card.files.map((file) => [file.id, file]))
    if (onCard.size === 0) return []
    return project.clips.flatMap((clip) => {
      const files = (clip.parts.length ? clip.parts : [clip]).flatMap((of: Clip | ClipFile) => {
        const now = of.source.kind === 'siding' ? onCard.get(of.source.id) : undefined
        return now && isOther(of, now) ? [{ of, now }] : []
      })
      return files.length ? [{ clip, files }] : []
    })
  })
  const ids = computed(() => new Set(clips.value.map(({ clip }) => clip.id)))
  const isChanged = (clipId: string): boolean => ids.value.has(clipId)
  // One that is being copied anew has to rest first; until it does, nothing of it is looked at either.
  const rested = computed(() => clips.value.filter(({ files }) => files.every(({ now }) => now.rests)))

  watch(clips, (now, before = []) => {
    for (const { clip, files } of before) {
      for (const { of } of files) media.changed.delete(of.id)
      media.missing.delete(clip.id)
    }
    for (const { clip, files } of now) {
      for (const { of } of files) media.changed.add(of.id)
      media.missing.add(clip.id)
    }
    if (now.length < before.length) void useBackground().work()
  })

  /** Reads the changed files again: each clip keeps its name, its corrections and its placements. One step. */
  async function readAll(): Promise<void> {
    const projectId = project.doc?.project.id
    const concerned = rested.value
    if (!projectId || reading.value || concerned.length === 0) return
    reading.value = true
    try {
      const fresh = new Map<string, Clip>()
      for (const { files } of concerned)
        for (const { of, now } of files) fresh.set(of.id, await arrivals.readOfCard(now))
      if (project.doc?.project.id !== projectId) return
      project.edit(`read ${counted(concerned.length, 'changed file')} again`, (doc) => {
        for (const { clip } of concerned) {
          const known = doc.clips[clip.id] as Clip | undefined
          const by = known && readAgain(known, fresh)
          if (by) replaceClip(doc, clip.id, by)
        }
      })
      for (const { clip } of concerned) media.forgetPicture(clip.id)
      void useBackground().work()
    } finally {
      reading.value = false
    }
  }

  return { clips, isChanged, rested, reading, readAll }
})

/** Whether a file on the card is another copy than the one that was read. */
function isOther({ sizeBytes, source }: Clip | ClipFile, now: SidingFile): boolean {
  const read = source.kind === 'siding' ? source.modifiedAt : undefined
  return read === undefined ? now.rests && now.sizeBytes !== sizeBytes : now.modifiedAt !== read
}
