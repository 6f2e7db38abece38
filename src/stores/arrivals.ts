import { proxy } from 'comlink'
import { defineStore } from 'pinia'
import { computed, reactive, ref } from 'vue'
import { z } from 'zod'
import { takeIn } from '../core/edit/operations'
import type { Clip, ClipSource } from '../core/edit/project'
import type { MediaLocator } from '../media/source'
import type { ReadAnswer } from '../workers/reading.worker'
import { readingService } from '../workers/services'
import { type IncomingFile, useMedia } from './media'
import { newId, now, useProject } from './project'

const SidingList = z.object({
  files: z.array(
    z.object({
      id: z.string(),
      name: z.string(),
      folder: z.string(),
      sizeBytes: z.number(),
      modifiedAt: z.string(),
      rests: z.boolean(),
      expectedBytes: z.number().nullable(),
    }),
  ),
})
export type SidingFile = z.infer<typeof SidingList>['files'][number]

/** A file on its way in. */
interface Arriving {
  readonly id: string
  readonly name: string
  readonly folder: string
  readonly sizeBytes: number
  readonly source: ClipSource
  readonly locator: MediaLocator
  readonly incoming?: IncomingFile
}

/** Results are shown in gulps of this many milliseconds, so that a fast card does not redraw the list for each clip. */
const gulp = 60

/** Clips coming in: from the siding, from files and folders; with progress and a way to stop. */
export const useArrivals = defineStore('arrivals', () => {
  const project = useProject()
  const media = useMedia()
  const siding = ref<SidingFile[]>([])
  const sidingTrouble = ref<string | null>(null)
  const progress = reactive({ running: false, total: 0, read: 0, bytes: 0, startedAt: 0, cancelled: false })

  /** The project that takes in files of the siding as soon as they rest. */
  const follower = ref<string | null>(null)
  const following = computed({
    get: () => follower.value !== null && follower.value === project.doc?.project.id,
    set: (follow) => (follower.value = follow ? (project.doc?.project.id ?? null) : null),
  })
  /** Cards are read one after the other: what is taken in meanwhile waits its turn. */
  let line: Promise<void> = Promise.resolve()
  /** Files of the siding that were asked for and are not listed yet, by project. */
  const onTheWay = reactive(new Set<string>())
  /** All that were ever asked for in this session. */
  const offered = new Set<string>()
  const notTaken = computed(() => {
    const taken = new Set(
      project.clips.flatMap((clip) => (clip.source.kind === 'siding' ? [clip.source.id] : [])),
    )
    return siding.value.filter(
      (file) => !taken.has(file.id) && !onTheWay.has(`${project.doc?.project.id} ${file.id}`),
    )
  })
  /** Files of the siding that rest and are not taken in yet. */
  const waiting = computed(() => notTaken.value.filter((file) => file.rests))
  /** Files that are still being copied onto the siding. */
  const growing = computed(() => notTaken.value.filter((file) => !file.rests))

  async function lookAtSiding(): Promise<void> {
    // Whoever looks is about to take something in: the reader starts meanwhile.
    readingService()
    try {
      const copy = project.doc ? `?copy=${encodeURIComponent(project.doc.project.id)}` : ''
      const answer = await fetch(`/api/siding${copy}`)
      if (!answer.ok) throw new Error(`it answered ${answer.status}`)
      siding.value = SidingList.parse(await answer.json()).files
      sidingTrouble.value = null
    } catch (error) {
      sidingTrouble.value = `The siding cannot be reached: ${error instanceof Error ? error.message : error}.`
    }
  }

  /** Looks again every so often while someone watches; takes in what came to rest, if that is wanted. */
  async function watchSiding(): Promise<void> {
    await lookAtSiding()
    // What was taken in once and taken out again by the editor does not come back by itself.
    const fresh = waiting.value.filter((file) => !offered.has(`${project.doc?.project.id} ${file.id}`))
    if (following.value && fresh.length && !progress.running) await takeFromSiding(fresh, 'siding')
  }

  async function takeFromSiding(files: readonly SidingFile[], joins?: string): Promise<void> {
    const keys = files.map((file) => `${project.doc?.project.id} ${file.id}`)
    for (const key of keys) {
      onTheWay.add(key)
      offered.add(key)
    }
    const taken = takeAll(
      files.map((file) => ({
        id: newId(),
        name: file.name,
        folder: file.folder,
        sizeBytes: file.sizeBytes,
        source: { kind: 'siding', card: project.doc!.project.card, id: file.id },
        locator: {
          kind: 'url',
          url: new URL(`/api/siding/${file.id}`, location.href).href,
          sizeBytes: file.sizeBytes,
        },
      })),
      joins,
    )
    await taken.finally(() => keys.forEach((key) => onTheWay.delete(key)))
  }

  const takeFiles = (incoming: readonly IncomingFile[]) =>
    takeAll(
      incoming.map((one) => ({
        id: newId(),
        name: one.file.name,
        folder: one.folder,
        sizeBytes: one.file.size,
        source: { kind: 'file' },
        locator: { kind: 'file', file: one.file },
        incoming: one,
      })),
    )

  /** Reads files and lists them as one step that can be undone; what was read before a cancel stays. */
  function takeAll(arriving: readonly Arriving[], joins?: string): Promise<void> {
    const turn = line.then(() => takeNow(arriving, joins))
    // One that fails does not hold up the next.
    line = turn.catch(() => {})
    return turn
  }

  async function takeNow(arriving: readonly Arriving[], joins = newId()): Promise<void> {
    const projectId = project.doc?.project.id
    if (!projectId || arriving.length === 0) return
    Object.assign(progress, {
      running: true,
      total: arriving.length,
      read: 0,
      bytes: 0,
      startedAt: Date.now(),
      cancelled: false,
    })
    const byKey = new Map(arriving.map((one) => [one.id, one]))
    const order = new Map(arriving.map((one, i) => [one.id, i]))
    let answers: ReadAnswer[] = []
    let timer: ReturnType<typeof setTimeout> | null = null
    const swallow = () => {
      timer = null
      // In the order asked for, as far as they came together.
      const clips = answers
        .sort((a, b) => order.get(a.key)! - order.get(b.key)!)
        .map((answer) => toClip(byKey.get(answer.key)!, answer))
      answers = []
      list(projectId, clips, byKey, joins)
    }
    try {
      const requests = arriving.map(({ id, locator }) => ({ key: id, locator }))
      const tell = (answer: ReadAnswer) => {
        progress.read++
        progress.bytes += byKey.get(answer.key)!.sizeBytes
        answers.push(answer)
        timer ??= setTimeout(swallow, gulp)
      }
      await readingService().readAll(requests, proxy(tell))
    } finally {
      if (timer) clearTimeout(timer)
      swallow()
      progress.running = false
    }
    void makePosters(projectId)
  }

  function list(projectId: string, clips: Clip[], byKey: Map<string, Arriving>, joins: string) {
    // The editor may have opened another project meanwhile.
    if (clips.length === 0 || project.doc?.project.id !== projectId) return
    const fresh: Clip[] = []
    for (const clip of clips) {
      const { incoming } = byKey.get(clip.id)!
      const known = incoming && project.clips.find((other) => isSameFile(other, clip))
      // A file that is here already is linked again rather than listed twice.
      if (incoming) media.keepFile(projectId, known ? known.id : clip.id, incoming)
      if (!known) fresh.push(clip)
    }
    if (fresh.length) project.edit('take in clips', (doc) => takeIn(doc, fresh), joins)
  }

  const isSameFile = (a: Clip, b: Clip) =>
    a.source.kind === 'file' && a.name === b.name && a.sizeBytes === b.sizeBytes && a.hash === b.hash

  let drawing = false
  /** Makes the posters that are missing, one after the other; a second call while it runs adds nothing. */
  async function makePosters(projectId: string) {
    if (drawing) return
    drawing = true
    try {
      // Clips may come while others are drawn: the list is gone through until nothing is left to do.
      for (let made = 1; made > 0;) {
        made = 0
        for (const { id } of project.clips) {
          if (project.doc?.project.id !== projectId) return
          const clip = project.doc.clips[id]
          if (!clip || !wantsPoster(clip)) continue
          await media.makePoster(projectId, clip)
          made++
        }
      }
    } finally {
      drawing = false
    }
  }
  const wantsPoster = ({ id, reading }: Clip) =>
    Boolean(reading?.video) && !media.posters.has(id) && !media.troubles.has(id) && !media.missing.has(id)

  function toClip(arriving: Arriving, { hash, result }: ReadAnswer): Clip {
    const { id, name, folder, sizeBytes, source } = arriving
    return {
      id,
      name,
      folder,
      sizeBytes,
      hash,
      source,
      reading: result.reading ?? null,
      corrections: {},
      claimed: null,
      origins: result.origins ?? {},
      fault: result.ok ? null : result.error,
      priority: 'normal',
      arrivedAt: now(),
      parts: [],
    }
  }

  function cancel(): void {
    progress.cancelled = true
    void readingService().cancel()
  }

  return {
    siding,
    sidingTrouble,
    waiting,
    growing,
    following,
    watchSiding,
    progress,
    lookAtSiding,
    takeFromSiding,
    takeFiles,
    makePosters,
    cancel,
  }
})
