import { defineStore } from 'pinia'
import { computed, ref, watch } from 'vue'
import type { Clip, ClipFile } from '../core/model/clip'
import { readClipsAgain } from '../core/edit/rereading'
import { counted } from '../core/words/figures'
import { useArrivals } from './arrivals'
import { useBackground } from './background'
import { useCard } from './card'
import { useMedia } from './media'
import { useProject } from './document/project'
import type { ListedFile } from '../core/card/listing'

/** A clip of which a file on the card holds something else by now, and these files. */
export interface ChangedClip {
  readonly clip: Clip
  readonly files: readonly { readonly file: Clip | ClipFile; readonly listed: ListedFile }[]
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
      const files = (clip.parts.length ? clip.parts : [clip]).flatMap((file: Clip | ClipFile) => {
        const listed = file.source.kind === 'siding' ? onCard.get(file.source.id) : undefined
        return listed && isOther(file, listed) ? [{ file, listed }] : []
      })
      return files.length ? [{ clip, files }] : []
    })
  })
  const ids = computed(() => new Set(clips.value.map(({ clip }) => clip.id)))
  const isChanged = (clipId: string): boolean => ids.value.has(clipId)
  // One that is being copied anew has to rest first; until it does, nothing of it is looked at either.
  const rested = computed(() => clips.value.filter(({ files }) => files.every(({ listed }) => listed.rests)))

  watch(clips, (changedClips, before = []) => {
    for (const { clip, files } of before) {
      for (const { file } of files) media.changed.delete(file.id)
      media.missing.delete(clip.id)
    }
    for (const { clip, files } of changedClips) {
      for (const { file } of files) media.changed.add(file.id)
      media.missing.add(clip.id)
    }
    if (changedClips.length < before.length) void useBackground().work()
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
        for (const { file, listed } of files) fresh.set(file.id, await arrivals.readOfCard(listed))
      if (project.doc?.project.id !== projectId) return
      const ids = concerned.map(({ clip }) => clip.id)
      project.edit(`read ${counted(concerned.length, 'changed file')} again`, (doc) =>
        readClipsAgain(doc, ids, fresh),
      )
      for (const { clip } of concerned) media.forgetPicture(clip.id)
      void useBackground().work()
    } finally {
      reading.value = false
    }
  }

  return { clips, isChanged, rested, reading, readAll }
})

/** Whether a file on the card is another copy than the one that was read. */
function isOther({ sizeBytes, source }: Clip | ClipFile, listed: ListedFile): boolean {
  const read = source.kind === 'siding' ? source.modifiedAt : undefined
  return read === undefined ? listed.rests && listed.sizeBytes !== sizeBytes : listed.modifiedAt !== read
}
