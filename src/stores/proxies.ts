import { proxy } from 'comlink'
import { defineStore } from 'pinia'
import { computed, reactive, ref, shallowReactive, watch } from 'vue'
import type { Clip, ClipFile } from '../core/model/clip'
import { timingOfReading } from '../core/model/timing'
import { countOf } from '../core/motion/timing'
import { read } from '../core/reading/read'
import { type Weight, playingWeightOf } from '../core/toll/heavy'
import { fileNameOf } from '../core/words/file-name'
import { reasonOf } from '../core/words/reason'
import { contentKey, kindOf, kindOfReading } from '../media/frame-locator'
import type { DecodableFile } from '../media/measure'
import { byteSource } from '../media/source'
import { keptProxies } from '../storage/kept-files'
import { storageError } from '../storage/error'
import { proxyService } from '../workers/services'
import { type Job, useJobQueue } from './job-queue'
import { useMedia } from './media'
import { useProject } from './document/project'

/** A proxy that is being made. */
export interface ProxyInWork {
  readonly clip: Clip
  readonly frames: number
  readonly total: number
}

const ending = '.mp4'
const nameOf = (file: Clip | ClipFile) => `${fileNameOf(contentKey(file))}${ending}`
const filesOf = (clip: Clip): readonly (Clip | ClipFile)[] => (clip.parts.length ? clip.parts : [clip])

/** Clips that are heavy to play, and small stand-ins for them: for playing alone, never for what is made. */
export const useProxies = defineStore('proxies', () => {
  const project = useProject()
  const media = useMedia()
  /** By the name of the file. */
  const proxyFiles = shallowReactive(new Map<string, File>())
  /** Frames a second that were decoded of a clip, by what it holds. */
  const paces = reactive(new Map<string, number>())
  /** Whether they are played where they are there. */
  const plays = ref(true)
  const jobs = useJobQueue({
    errorOf: (error) => (error instanceof DOMException ? storageError(error) : reasonOf(error)),
  })
  /** Clips whose proxies wait or are made. */
  const wanted = shallowReactive(new Set<string>())
  /** The one that is being made. */
  const inWork = computed((): ProxyInWork | null => {
    const [job] = jobs.running.value
    const clip = job && project.doc?.clips[job.key]
    return clip ? { clip, frames: job.done, total: job.total } : null
  })
  const bytes = computed(() => [...proxyFiles.values()].reduce((sum, { size }) => sum + size, 0))

  watch(
    () => project.doc?.project.id,
    async (id) => {
      jobs.cancel()
      proxyFiles.clear()
      jobs.errors.clear()
      if (!id) return
      const { whole } = await keptProxies.find(id).catch(() => ({ whole: [] }))
      if (project.doc?.project.id === id) for (const { name, file } of whole) proxyFiles.set(name, file)
    },
    { immediate: true },
  )

  const weight = (clip: Clip): Weight | null =>
    playingWeightOf(clip.reading, paces.get(contentKey(clip)) ?? null)
  const has = (clip: Clip): boolean => filesOf(clip).every((file) => proxyFiles.has(nameOf(file)))
  /** Bytes of a clip's proxies. */
  const sizeOf = (clip: Clip): number =>
    filesOf(clip).reduce((sum, file) => sum + (proxyFiles.get(nameOf(file))?.size ?? 0), 0)
  /** Why a clip has none; null where nothing speaks against it. */
  const speaksAgainst = (clip: Clip): string | null =>
    clip.reading?.video?.alpha
      ? 'what is seen through it would be lost'
      : clip.reading?.video?.numbered
        ? 'each of its pictures is a file of its own'
        : null

  /** Makes proxies of clips, one after the other. */
  function make(clips: readonly Clip[]): void {
    for (const clip of clips) {
      if (has(clip) || speaksAgainst(clip)) continue
      wanted.add(clip.id)
      const work: Job['work'] = (signal, tell) => makeOf(clip, signal, tell)
      void jobs.add({ key: clip.id, work }).finally(() => wanted.delete(clip.id))
    }
  }
  async function makeOf(
    clip: Clip,
    signal: AbortSignal,
    tell: (frames: number, total: number) => void,
  ): Promise<void> {
    const projectId = project.opened.project.id
    const hasFields = clip.reading?.video?.scan === 'interlaced'
    for (const file of filesOf(clip)) {
      const name = nameOf(file)
      const kind = kindOf(clip, clip.parts.length ? file : undefined)
      const locator = await media.locate(file)
      if (proxyFiles.has(name) || !kind) continue
      if (!locator) throw new Error(`${file.name} is not at hand: take the file in again.`)
      tell(0, countOf(kind.steps))
      try {
        const into = await keptProxies.begin(projectId, name)
        await proxyService().make({ locator, kind, hasFields, into }, proxy(tell), signal)
        proxyFiles.set(name, await keptProxies.finish(projectId, name))
      } catch (error) {
        await keptProxies.dropUnfinished(projectId, name)
        throw error
      }
    }
  }
  /** Makes no more of them; how fast clips are decoded is measured all the same. */
  function end(): void {
    for (const id of wanted) jobs.cancel(id)
  }

  /** Throws all of them away. */
  async function throwAway(): Promise<void> {
    end()
    proxyFiles.clear()
    const id = project.doc?.project.id
    if (id) await keptProxies.dropAll(id)
  }

  /** Measures how fast clips are decoded here, one after the other. */
  function measure(clips: readonly Clip[]): void {
    for (const clip of clips) void jobs.add({ key: `pace of ${clip.id}`, work: () => paceOf(clip) })
  }
  async function paceOf(clip: Clip): Promise<void> {
    const [first] = filesOf(clip)
    const locator = first && (await media.locate(first))
    const kind = kindOf(clip, clip.parts[0])
    const pace = locator && kind ? await proxyService().pace(locator, kind) : null
    if (pace !== null) paces.set(contentKey(clip), pace)
  }

  /** The proxies of a clip as what is decoded for playing; null where its own files are. */
  async function decodable(clip: Clip): Promise<DecodableFile[] | null> {
    if (!plays.value || !has(clip)) return null
    const files: DecodableFile[] = []
    let first = 0
    for (const part of filesOf(clip)) {
      const file = proxyFiles.get(nameOf(part))
      const own = kindOf(clip, clip.parts.length ? part : undefined)
      if (!file || !own) return null
      const locator = { kind: 'file', file } as const
      const result = await read(byteSource(locator))
      const kind = result.ok ? kindOfReading(result.reading, timingOfReading(result.reading)) : null
      // One that has other frames than its clip is none of it.
      if (!kind || countOf(kind.steps) !== countOf(own.steps)) return null
      files.push({ locator, kind, first })
      first += countOf(own.steps)
    }
    return files
  }

  return {
    plays,
    inWork,
    isMaking: computed(() => wanted.size > 0),
    bytes,
    errors: jobs.errors,
    weight,
    has,
    sizeOf,
    speaksAgainst,
    make,
    end,
    throwAway,
    measure,
    decodable,
  }
})
