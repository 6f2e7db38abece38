import { proxy } from 'comlink'
import { produce } from 'immer'
import { defineStore } from 'pinia'
import { computed, reactive, ref, shallowRef, watch } from 'vue'
import type { RetimedPlacement } from '../core/edit/correction'
import type { Draft } from '../core/edit/draft'
import { replaceClip, replacement } from '../core/edit/replacing'
import { type Refound, type SoughtFile, refound, soughtFiles, worthHashing } from '../core/edit/relinking'
import { type Check, checkTimeline } from '../core/check/check'
import type { ListedFile } from '../core/card/listing'
import type { Clip, ClipFile } from '../core/model/clip'
import { type Doc, timelinesOf } from '../core/model/project'
import type { Timeline } from '../core/model/timeline'
import { readingService } from '../workers/services'
import { useArrivals } from './arrivals/arrivals'
import { readClipsAgain } from '../core/edit/rereading'
import { counted } from '../core/words/figures'
import { useBackground } from './background'
import { useCard } from './card'
import { contentKey } from '../media/frame-locator'
import { type IncomingFile, useMedia } from './media'
import { useProject } from './document/project'
import { useTimelines } from './timelines'

/** A clip of which a file on the card holds something else by now, and these files. */
export interface ChangedClip {
  readonly clip: Clip
  readonly files: readonly { readonly file: Clip | ClipFile; readonly listed: ListedFile }[]
}

/** What a file that holds something else would be taken as. */
export interface ChangedFile {
  readonly sought: SoughtFile
  readonly incoming: IncomingFile
}

/** What putting another clip in the place of one does: to placements, and to what timelines pay. */
export interface Replacing {
  readonly clip: Clip
  readonly by: Clip
  readonly incoming: IncomingFile | null
  readonly placements: readonly RetimedPlacement[]
  readonly timelines: readonly {
    readonly timeline: Timeline
    readonly before: Check | null
    readonly after: Check | null
  }[]
}

/**
 * Files that are not at hand, found again in a folder; clips that take the place of others; and files of the card that were replaced by other
 * copies since they were read: noticed, and read again in their place.
 */
export const useRelinking = defineStore('relinking', () => {
  const project = useProject()
  const media = useMedia()
  const arrivals = useArrivals()
  const timelinesNow = useTimelines()
  const card = useCard()
  const isReadingAgain = ref(false)

  const changedClips = computed<ChangedClip[]>(() => {
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
  const ids = computed(() => new Set(changedClips.value.map(({ clip }) => clip.id)))
  const isChanged = (clipId: string): boolean => ids.value.has(clipId)
  // One that is being copied anew has to rest first; until it does, nothing of it is looked at either.
  const restedClips = computed(() =>
    changedClips.value.filter(({ files }) => files.every(({ listed }) => listed.rests)),
  )

  watch(changedClips, (now, before = []) => {
    for (const { clip, files } of before) {
      for (const { file } of files) media.changed.delete(file.id)
      media.missing.delete(clip.id)
    }
    for (const { clip, files } of now) {
      for (const { file } of files) media.changed.add(file.id)
      media.missing.add(clip.id)
    }
    if (now.length < before.length) void useBackground().work()
  })

  /** Reads the changed files again: each clip keeps its name, its corrections and its placements. One step. */
  async function readAgain(): Promise<void> {
    const projectId = project.doc?.project.id
    const concerned = restedClips.value
    if (!projectId || isReadingAgain.value || concerned.length === 0) return
    isReadingAgain.value = true
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
      isReadingAgain.value = false
    }
  }

  const progress = reactive({ running: false, offered: 0, worth: 0, hashed: 0, seconds: 0 })
  /** What came of the last look; null where there was none. */
  const result = shallowRef<{
    readonly found: number
    readonly renamed: number
    readonly changed: readonly ChangedFile[]
    readonly notThere: readonly SoughtFile[]
  } | null>(null)
  let ended = new AbortController()
  // What only changed on the card is there: it is read again, not sought.
  const sought = computed(() =>
    project.doc ? soughtFiles(project.doc, ({ id }) => media.missing.has(id) && !isChanged(id)) : [],
  )

  /** Looks for what is sought among files, and links what holds the same; what holds something else is told. */
  async function look(incoming: readonly IncomingFile[]): Promise<void> {
    const projectId = project.doc?.project.id
    if (!projectId || progress.running) return
    ended = new AbortController()
    const { signal } = ended
    const begun = performance.now()
    const files = sought.value
    const offered = incoming.map(({ file, folder }) => ({ name: file.name, folder, sizeBytes: file.size }))
    const worth = worthHashing(files, offered)
    Object.assign(progress, { running: true, offered: offered.length, worth: worth.length, hashed: 0 })
    try {
      const locators = worth.flatMap((i) => {
        const incomingFile = incoming[i]
        return incomingFile ? [{ kind: 'file' as const, file: incomingFile.file }] : []
      })
      const tell = proxy((done: number) => void (progress.hashed = done))
      const hashes = await readingService().hashAll(locators, tell, signal)
      if (project.doc?.project.id !== projectId) return
      const known = new Map(worth.flatMap((i, k) => (hashes[k] ? [[i, hashes[k]] as const] : [])))
      link(projectId, refound(files, offered, known), incoming)
    } catch (error) {
      if (!signal.aborted) throw error
    } finally {
      progress.running = false
      progress.seconds = (performance.now() - begun) / 1000
    }
  }
  function link(projectId: string, { found, changed, notThere }: Refound, incoming: readonly IncomingFile[]) {
    // A clip of several files is at hand once all of them are.
    const lacking = new Set([
      ...changed.map((refound) => refound.sought.clipId),
      ...notThere.map((soughtFile) => soughtFile.clipId),
    ])
    for (const { sought: file, offered } of found) {
      const incomingFile = incoming[offered]
      if (incomingFile) media.keepFile(projectId, file.fileId, incomingFile, file.clipId)
    }
    for (const clipId of lacking) media.missing.add(clipId)
    result.value = {
      found: found.length,
      renamed: found.filter(({ renamed }) => renamed).length,
      changed: changed.flatMap(({ sought: file, offered }) => {
        const incomingFile = incoming[offered]
        return incomingFile ? [{ sought: file, incoming: incomingFile }] : []
      }),
      notThere,
    }
    void useBackground().work()
  }
  const cancel = () => ended.abort()

  /** The clip in whose place another is to be put, while that is chosen. */
  const choosing = shallowRef<Clip | null>(null)
  /** What is about to take the place of a clip; null where nothing is. */
  const replacing = shallowRef<Replacing | null>(null)
  /** Prices another clip in the place of one: one of the project, or a file that is read for it. */
  function price(clip: Clip, by: Clip, incoming: IncomingFile | null): void {
    choosing.value = null
    const doc = project.opened
    const placements = replacement(doc, clip.id, by)
    const after = produce(doc, (draft) => replaceClip(draft as Draft<Doc>, clip.id, by))
    const concerned = new Set(placements.map(({ timelineId }) => timelineId))
    const timelines = timelinesOf(after)
      .filter(({ id }) => concerned.has(id))
      .map((timeline) => {
        const was = doc.timelines[timeline.id]
        return {
          timeline,
          before: was ? timelinesNow.checkOnce(doc, was) : null,
          after: checkTimeline(after, timeline),
        }
      })
    replacing.value = { clip, by, incoming, placements, timelines }
  }
  async function priceFile(clip: Clip, incoming: IncomingFile): Promise<void> {
    price(clip, await arrivals.readClip(incoming), incoming)
  }
  /** Puts the new clip in the place of the old one, as one step. */
  async function replace(): Promise<void> {
    const { value } = replacing
    const projectId = project.doc?.project.id
    replacing.value = null
    if (!value || !projectId) return
    const { clip, by, incoming } = value
    project.edit(`put ${by.name} in the place of ${clip.name}`, (doc) => replaceClip(doc, clip.id, by))
    // Under what it holds, so that going back finds the old file.
    const file = incoming ?? (await fileOf(by))
    if (file) media.keepFile(projectId, contentKey({ id: clip.id, hash: by.hash }), file, clip.id)
    media.forgetPicture(clip.id)
    if (result.value)
      result.value = {
        ...result.value,
        changed: result.value.changed.filter(({ sought: file }) => file.clipId !== clip.id),
      }
    void useBackground().work()
  }

  /** The file of a clip that is one of the editor's. */
  async function fileOf(clip: Clip): Promise<IncomingFile | null> {
    const locator = clip.source.kind === 'file' ? await media.locate(clip) : null
    return locator?.kind === 'file' ? { file: locator.file, folder: clip.folder } : null
  }

  return {
    sought,
    progress,
    result,
    look,
    cancel,
    choosing,
    replacing,
    price,
    priceFile,
    replace,
    changedClips,
    restedClips,
    isChanged,
    isReadingAgain,
    readAgain,
  }
})

/** Whether a file on the card is another copy than the one that was read. */
function isOther({ sizeBytes, source }: Clip | ClipFile, listed: ListedFile): boolean {
  const read = source.kind === 'siding' ? source.modifiedAt : undefined
  return read === undefined ? listed.rests && listed.sizeBytes !== sizeBytes : listed.modifiedAt !== read
}
