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
import { keepProof } from '../core/edit/delivering'
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
import { useJobQueue } from './job-queue'
import { useMedia } from './media'
import { newId, timeNow, useProject } from './document/project'
import { useSounds } from './sounds'

/** A whole file; what there is to say of its making is null where it was made elsewhere. */
export interface RenderedFile {
  readonly file: File
  readonly rendered: RenderResult | null
}

/** How a render stands: what there is of it goes with that. */
export type RenderState =
  /** A file that was made elsewhere is there already, and waits to be read back. */
  | { readonly kind: 'waits'; readonly file: RenderedFile | null }
  | { readonly kind: 'renders'; readonly progress: RenderProgress | null }
  /** The file is read back. Its proof of before, of fewer frames, stands meanwhile. */
  | {
      readonly kind: 'proves'
      readonly progress: RenderProgress | null
      readonly file: RenderedFile
      readonly proof: Proof | null
    }
  /** The file is there; it has no proof where it was not read back to its end, and `error` says why. */
  | {
      readonly kind: 'whole'
      readonly file: RenderedFile
      readonly proof: Proof | null
      readonly error: string | null
    }
  | { readonly kind: 'failed'; readonly error: string }
  | { readonly kind: 'ended' }

/** A deliverable that is to be made, is made, or is over. */
export interface QueuedRender {
  readonly id: string
  readonly projectId: string
  readonly deliverable: Deliverable
  readonly fileName: string
  readonly state: RenderState
}

/** Whether nothing more is done for a render. */
export const isOver = ({ state: { kind } }: QueuedRender): boolean =>
  kind === 'whole' || kind === 'failed' || kind === 'ended'
export const fileOf = ({ state }: QueuedRender): RenderedFile | null => ('file' in state ? state.file : null)
export const proofOf = ({ state }: QueuedRender): Proof | null => ('proof' in state ? state.proof : null)

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
  const isBusy = computed(() => queue.value.some((queued) => !isOver(queued)))
  const jobs = useJobQueue()

  const stateOf = (id: string): RenderState | undefined =>
    queue.value.find((queued) => queued.id === id)?.state
  function put(id: string, state: RenderState): void {
    queue.value = queue.value.map((queued) => (queued.id === id ? { ...queued, state } : queued))
  }
  /** Takes over how far a render is, as long as that is what it does. */
  const tellOf = (id: string) =>
    proxy((progress: RenderProgress) => {
      const state = stateOf(id)
      if (state && 'progress' in state) put(id, { ...state, progress })
    })

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

  /** Puts a deliverable into the queue. */
  function add(wanted: Deliverable): void {
    const set = queued(wanted, null)
    if (set) void jobs.add({ key: set.entry.id, work: (signal) => make(set.entry, set.out, signal) })
  }

  /** Holds a file that was made elsewhere against a deliverable, in its turn. */
  function hold(wanted: Deliverable, file: File): void {
    const rendered: RenderedFile = { file, rendered: null }
    const set = queued(wanted, rendered)
    if (!set) return
    const { entry, out } = set
    void jobs.add({
      key: entry.id,
      async work(signal) {
        try {
          plans.set(entry.id, await planOf(out, entry.deliverable))
          await verify(entry, rendered, false, signal)
        } catch (error) {
          put(entry.id, { kind: 'whole', file: rendered, proof: null, error: errorOf(error, signal) })
        }
      },
    })
  }

  /** Puts a deliverable into the queue, in the place of what is over of it. */
  function queued(wanted: Deliverable, file: RenderedFile | null) {
    const deliverable = wrapped(wanted)
    const { doc } = project
    const out = doc && outgoing(doc, deliverable)
    if (!doc || !out) return null
    const entry: QueuedRender = {
      id: newId(),
      projectId: doc.project.id,
      deliverable,
      fileName: file?.file.name ?? fileFor(deliverable),
      state: { kind: 'waits', file },
    }
    queue.value = [
      ...queue.value.filter(
        (queued) => queued.deliverable.id !== wanted.id || queued.state.kind === 'renders',
      ),
      entry,
    ]
    return { entry, out }
  }

  async function make(entry: QueuedRender, out: Outgoing, signal: AbortSignal): Promise<void> {
    const { id, projectId, deliverable, fileName } = entry
    put(id, { kind: 'renders', progress: null })
    /** What is whole stays, also where it was not read back to the end. */
    let whole: RenderedFile | null = null
    try {
      const file = await keptRenders.begin(projectId, fileName)
      const plan = await planOf(out, deliverable)
      const rendered = await renderService().render({ ...plan, file }, tellOf(id), signal)
      const kept = await keptRenders.finish(projectId, fileName)
      const written = folder.value ? await putInto(folder.value, projectId, fileName, kept, signal) : kept
      whole = { file: written, rendered }
      plans.set(id, plan)
      await verify(entry, whole, false, signal)
    } catch (error) {
      if (whole) return put(id, { kind: 'whole', file: whole, proof: null, error: errorOf(error, signal) })
      await keptRenders.dropUnfinished(projectId, fileName)
      const reason = errorOf(error, signal)
      put(id, reason === null ? { kind: 'ended' } : { kind: 'failed', error: reason })
    }
  }
  /** What each whole file was made from. */
  const plans = new Map<string, RenderPlan>()
  /** Reads a whole file back. @param all compares every frame of it */
  async function verify(
    entry: QueuedRender,
    file: RenderedFile,
    all: boolean,
    signal: AbortSignal,
  ): Promise<void> {
    const { id } = entry
    const plan = plans.get(id)
    if (!plan) return
    put(id, { kind: 'proves', progress: null, file, proof: proofOf(entry) })
    const options = { file: file.file, all, at: timeNow() }
    const proof = await renderService().verify(plan, options, tellOf(id), signal)
    put(id, { kind: 'whole', file, proof, error: null })
    keep(entry, proof)
  }
  /** Keeps a proof with its deliverable, as long as that is what was made. */
  function keep({ projectId, deliverable }: QueuedRender, proof: Proof): void {
    const stored = project.doc?.project
    if (stored?.id !== projectId || !stored.deliverables.some(({ id }) => id === deliverable.id)) return
    project.edit(`proof of ${deliverable.name}: ${verdictWords(proof)}`, (doc) =>
      keepProof(doc, deliverable.id, proof),
    )
  }
  /** Compares every frame of a whole file, in its turn. */
  function proveAll(id: string): void {
    const entry = queue.value.find((queued) => queued.id === id)
    const file = entry && fileOf(entry)
    if (!entry || !file) return
    void jobs.add({
      key: id,
      work: (signal) =>
        verify(entry, file, true, signal).catch((error: unknown) =>
          put(id, { kind: 'whole', file, proof: proofOf(entry), error: errorOf(error, signal) }),
        ),
    })
  }
  /** Why something failed; null where it was ended. */
  function errorOf(error: unknown, { aborted }: AbortSignal): string | null {
    if (aborted) return null
    return error instanceof DOMException ? storageError(error) : reasonOf(error)
  }

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
    jobs.cancel(id)
    const state = stateOf(id)
    if (state?.kind !== 'waits') return
    put(id, state.file ? { kind: 'whole', file: state.file, proof: null, error: null } : { kind: 'ended' })
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
    (queue.value = queue.value.filter((queued) => queued.id !== id || !isOver(queued)))

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
