import { proxy } from 'comlink'
import { useEventListener } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import type { Clip } from '../core/model/clip'
import { endingOf, wrapperNamed } from '../core/dispatch/codecs'
import { type Outgoing, outgoing } from '../core/dispatch/outgoing'
import { type Proof, verdictWords } from '../core/model/proof'
import { wrapped } from '../core/dispatch/usual'
import type { Deliverable } from '../core/model/deliverable'
import type { Draft } from '../core/edit/draft'
import { timelinesWithin } from '../core/model/integrity'
import { type Timeline, placementsIn, timecodeAt } from '../core/model/timeline'
import { layoutOf } from '../core/sound/mix'
import { fileNameOf } from '../core/words/file-name'
import { reasonOf } from '../core/words/reason'
import { contentKey } from '../media/frame-locator'
import type { RenderPlan, RenderProgress } from '../media/render/plan'
import type { RenderResult } from '../media/render/render'
import type { MediaLocator } from '../media/source'
import { keptRenders } from '../storage/kept-files'
import { storageError } from '../storage/error'
import { renderService } from '../workers/services'
import { useMedia } from './media'
import { newId, timeNow, useProject } from './document/project'
import { useSounds } from './sounds'

/** A whole file; what there is to say of its making is null where it was made elsewhere. */
export interface RenderedFile {
  readonly file: File
  readonly rendered: RenderResult | null
}

/** A render that waits, is made, or is over. */
export interface QueuedRender {
  readonly id: string
  readonly projectId: string
  readonly deliverable: Deliverable
  readonly fileName: string
  readonly state: 'waits' | 'renders' | 'proves' | 'whole' | 'failed' | 'ended'
  readonly progress: RenderProgress | null
  /** Why there is no file. */
  readonly why: string | null
  readonly file: RenderedFile | null
  /** What was found in the file; null while it was not read back. */
  readonly proof: Proof | null
}

/** Deliverables that are being made, one after the other. */
export const useRendering = defineStore('rendering', () => {
  const project = useProject()
  const media = useMedia()
  const sounds = useSounds()
  const queue = shallowRef<readonly QueuedRender[]>([])
  const isPaused = ref(false)
  /** A folder of the editor's own that files go into; null where they stay in the browser until they are saved. */
  const folder = shallowRef<FileSystemDirectoryHandle | null>(null)
  /** Files that a crash had left unfinished, and that were taken away. */
  const removed = shallowRef<readonly string[]>([])
  const found = shallowRef<readonly { readonly name: string; readonly file: File }[]>([])
  const isBusy = computed(() =>
    queue.value.some(({ state }) => state !== 'whole' && state !== 'failed' && state !== 'ended'),
  )

  function change(id: string, what: Partial<QueuedRender>): void {
    queue.value = queue.value.map((queued) => (queued.id === id ? { ...queued, ...what } : queued))
  }
  const ends = new Map<string, AbortController>()
  let line: Promise<void> = Promise.resolve()

  /** What lies here of the open project, and what a crash has left. */
  async function find(): Promise<void> {
    const id = project.doc?.project.id
    if (!id || isBusy.value) return
    const { whole, removed: gone } = await keptRenders.find(id).catch(() => ({ whole: [], removed: [] }))
    found.value = whole
    if (gone.length) removed.value = gone
  }

  const fileFor = ({ name, wrapper }: Deliverable): string =>
    `${fileNameOf(project.opened.project.name, name)}.${endingOf[wrapperNamed(wrapper) ?? 'MP4']}`

  /** Puts a deliverable into the line. */
  function add(wanted: Deliverable): void {
    const set = queued(wanted, null)
    if (set) line = line.then(() => make(set.entry, set.out, set.signal))
  }

  /** Holds a file that was made elsewhere against a deliverable, in its turn. */
  function hold(wanted: Deliverable, file: File): void {
    const set = queued(wanted, { file, rendered: null })
    if (!set) return
    const { entry, out, signal } = set
    line = line.then(async () => {
      try {
        plans.set(entry.id, await planOf(out, entry.deliverable))
        await prove(entry.id, false, signal)
      } catch (error) {
        change(entry.id, { state: 'whole', why: signal.aborted ? null : whyOf(error) })
      } finally {
        ends.delete(entry.id)
      }
    })
  }

  /** Puts a deliverable into the queue, in the place of what is over of it. */
  function queued(wanted: Deliverable, renderedFile: RenderedFile | null) {
    const deliverable = wrapped(wanted)
    const id = newId()
    const { doc } = project
    const out = doc && outgoing(doc, deliverable)
    if (!doc || !out) return null
    const entry: QueuedRender = {
      id,
      projectId: doc.project.id,
      deliverable,
      fileName: renderedFile?.file.name ?? fileFor(deliverable),
      state: 'waits',
      progress: null,
      why: null,
      file: renderedFile,
      proof: null,
    }
    queue.value = [
      ...queue.value.filter((queued) => queued.deliverable.id !== wanted.id || queued.state === 'renders'),
      entry,
    ]
    const end = new AbortController()
    ends.set(id, end)
    return { entry, out, signal: end.signal }
  }

  async function make(
    { id, projectId, deliverable, fileName }: QueuedRender,
    out: Outgoing,
    signal: AbortSignal,
  ) {
    if (signal.aborted) return change(id, { state: 'ended' })
    change(id, { state: 'renders' })
    try {
      const file = await keptRenders.begin(projectId, fileName)
      const plan = await planOf(out, deliverable)
      const tell = proxy((progress: RenderProgress) => void change(id, { progress }))
      const rendered = await renderService().render({ ...plan, file }, tell, signal)
      const whole = await keptRenders.finish(projectId, fileName)
      const written = folder.value ? await putInto(folder.value, projectId, fileName, whole, signal) : whole
      change(id, { state: 'proves', file: { file: written, rendered }, progress: null })
      plans.set(id, plan)
      await prove(id, false, signal)
    } catch (error) {
      // What is whole stays, also where it was not read back to the end.
      const isWhole = queue.value.some((queued) => queued.id === id && queued.file)
      if (isWhole) return change(id, { state: 'whole', why: signal.aborted ? null : whyOf(error) })
      await keptRenders.dropUnfinished(projectId, fileName)
      change(id, signal.aborted ? { state: 'ended' } : { state: 'failed', why: whyOf(error) })
    } finally {
      ends.delete(id)
    }
  }
  /** What each whole file was made from. */
  const plans = new Map<string, RenderPlan>()
  /** Reads a whole file back. @param all compares every frame of it */
  async function prove(id: string, all: boolean, signal: AbortSignal): Promise<void> {
    const [queued, plan] = [queue.value.find((entry) => entry.id === id), plans.get(id)]
    if (!queued?.file || !plan) return
    change(id, { state: 'proves', progress: null })
    const { file } = queued.file
    const tell = proxy((progress: RenderProgress) => void change(id, { progress }))
    const proof = await renderService().prove(plan, { file, all, at: timeNow() }, tell, signal)
    change(id, { state: 'whole', proof })
    keep(queued, proof)
  }
  /** Keeps a proof with its deliverable, as long as that is what was made. */
  function keep({ projectId, deliverable }: QueuedRender, proof: Proof): void {
    const stored = project.doc?.project
    if (stored?.id !== projectId || !stored.deliverables.some(({ id }) => id === deliverable.id)) return
    project.edit(`proof of ${deliverable.name}: ${verdictWords(proof)}`, (doc) => {
      for (const other of doc.project.deliverables)
        if (other.id === deliverable.id) other.proof = proof as Draft<Proof>
    })
  }
  /** Compares every frame of a whole file, in its turn. */
  function proveAll(id: string): void {
    const end = new AbortController()
    ends.set(id, end)
    line = line.then(() =>
      prove(id, true, end.signal)
        .catch((error: unknown) =>
          change(id, { state: 'whole', why: end.signal.aborted ? null : whyOf(error) }),
        )
        .finally(() => ends.delete(id)),
    )
  }
  const whyOf = (error: unknown) => (error instanceof DOMException ? storageError(error) : reasonOf(error))

  /** Puts a whole file into a folder, a piece after the other; it stands there once it is whole, and no longer here. */
  async function putInto(
    into: FileSystemDirectoryHandle,
    projectId: string,
    name: string,
    whole: File,
    signal: AbortSignal,
  ): Promise<File> {
    const handle = await into.getFileHandle(name, { create: true })
    await whole.stream().pipeTo(await handle.createWritable(), { signal })
    await keptRenders.drop(projectId, name)
    return handle.getFile()
  }
  /** What a worker has to have for a render. */
  async function planOf(out: Outgoing, deliverable: Deliverable): Promise<RenderPlan> {
    const { timeline, range } = out
    const { timelines, clips } = needed(out)
    const locators: Record<string, MediaLocator> = {}
    for (const clip of Object.values(clips))
      for (const file of clip.parts.length ? clip.parts : [clip]) {
        const locator = await media.locate(file)
        if (!locator) throw new Error(`${file.name} is not at hand: take the file in again.`)
        locators[contentKey(file)] = locator
      }
    const parts = deliverable.sound ? await sounds.heardOn(out.doc, timeline) : []
    return {
      doc: { ...out.doc, timelines, clips, leftAside: {} },
      timelineId: timeline.id,
      deliverable,
      range,
      timecode: timecodeAt(timeline, range.from),
      locators,
      sound: deliverable.sound && {
        sampleRate: timeline.sampleRate,
        layout: timeline.soundLayout,
        outLayout: layoutOf(deliverable.sound.channels) ?? timeline.soundLayout,
        gain: 0,
        parts,
      },
    }
  }

  const pause = (wanted: boolean) => {
    isPaused.value = wanted
    void renderService().pause(wanted)
  }
  function end(id: string): void {
    if (isPaused.value) pause(false)
    ends.get(id)?.abort()
  }
  /** Takes a file away that was made before. */
  async function drop(name: string): Promise<void> {
    const id = project.doc?.project.id
    if (id) await keptRenders.drop(id, name)
    await find()
  }
  // What is being made would be lost: the browser asks.
  useEventListener('beforeunload', (event: BeforeUnloadEvent) => {
    if (isBusy.value) event.preventDefault()
  })
  const forget = (id: string) =>
    (queue.value = queue.value.filter((queued) => queued.id !== id || ends.has(id)))

  return {
    folder,
    queue,
    isPaused,
    isBusy,
    removed,
    found,
    find,
    drop,
    add,
    hold,
    proveAll,
    pause,
    end,
    forget,
  }
})

/** The timelines that a render shows, and their clips. */
function needed({ doc, timeline }: Outgoing) {
  const timelines: Record<string, Timeline> = {}
  const clips: Record<string, Clip> = {}
  const open = [timeline.id]
  for (let id = open.pop(); id !== undefined; id = open.pop()) {
    const timeline = doc.timelines[id]
    if (!timeline || timelines[id]) continue
    timelines[id] = timeline
    open.push(...timelinesWithin(timeline))
    for (const { source } of placementsIn(timeline)) {
      const clip = source.kind === 'clip' ? doc.clips[source.clipId] : undefined
      if (clip) clips[clip.id] = clip
    }
  }
  return { timelines, clips }
}
