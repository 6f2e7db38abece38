import { until } from '@vueuse/core'
import { proxy } from 'comlink'
import { defineStore } from 'pinia'
import { type Ref, computed, onScopeDispose, reactive, ref, shallowReactive, toRaw, watch } from 'vue'
import type { Clip } from '../core/model/clip'
import { learnEvidence } from '../core/edit/correction'
import { reasonOf } from '../core/words/reason'
import { evidenceServices } from '../workers/services'
import { useMedia } from './media'
import { useProject } from './document/project'

type Service = ReturnType<typeof evidenceServices>[number]

/** A clip that is being measured, and how far that is. */
interface Current {
  readonly id: string
  readonly name: string
  frames: number
  wanted: number
}

/** The queue of clips whose pictures are measured in the background, one after the other, each once. */
export const useMeasuring = defineStore('measuring', () => {
  const project = useProject()
  const media = useMedia()
  /** Clips that the editor wants first. */
  const first = ref<readonly string[]>([])
  /** Clips that are not measured by themselves any more in this session: cancelled ones, and those that failed. */
  const left = new Set<string>()
  /** Why clips could not be measured. */
  const troubles = reactive(new Map<string, string>())
  const current = ref<readonly Current[]>([])
  const paused = ref(false)
  /** What is playing: measuring holds still meanwhile, and goes on where it was. */
  const players = shallowReactive(new Set<Ref<boolean>>())
  const isHeld = computed(() => players.size > 0)
  /** Clips measured since the queue began, and how long these took together, in milliseconds. */
  const done = ref(0)
  const took = ref(0)
  let stop = new AbortController()
  /** The services that have something to measure. */
  const busy = new Set<Service>()

  /** Clips that wait, those asked for first. Looked up, not watched: of ten thousand clips each would be. */
  function queue(): Clip[] {
    const [missing, failed] = [toRaw(media.missing), toRaw(media.troubles)]
    const inWork = new Set(current.value.map(({ id }) => id))
    const canBe = (clip: Clip): boolean =>
      clip.evidence === null &&
      clip.reading?.kind === 'video' &&
      clip.reading.video !== null &&
      // What is shown of it is a preview, which says nothing of its samples.
      clip.reading.video.colour.transfer !== 'raw' &&
      !missing.has(clip.id) &&
      !failed.has(clip.id) &&
      !inWork.has(clip.id)
    const asked = first.value.flatMap((id) => project.doc?.clips[id] ?? [])
    const before = new Set(first.value)
    const others = project.clips.filter(({ id }) => !before.has(id) && !left.has(id))
    return [...asked, ...others].filter(canBe)
  }
  /** How many clips wait. */
  const waiting = ref(0)
  /** Counts them anew: none of them is watched. */
  const count = () => void (waiting.value = project.readOnly ? 0 : queue().length)
  /** Seconds that the queue still takes, by what it took so far; null before the first is done. */
  const secondsLeft = computed(() => {
    if (done.value === 0) return null
    const each = took.value / done.value / 1000
    const under = current.value.reduce((sum, { frames, wanted }) => sum + 1 - frames / Math.max(1, wanted), 0)
    return (each * (waiting.value + under)) / Math.max(1, evidenceServices().length)
  })

  /** Measures what of the open project is not measured yet; a second call while it runs adds nothing. */
  function work(): void {
    if (project.readOnly) return
    for (const service of evidenceServices()) if (!busy.has(service)) void line(service)
  }

  async function line(service: Service): Promise<void> {
    busy.add(service)
    for (let [clip] = queue(); clip && !paused.value; [clip] = queue()) {
      await until(isHeld).toBe(false)
      await measure(clip, service())
    }
    busy.delete(service)
  }

  async function measure(clip: Clip, service: ReturnType<Service>): Promise<void> {
    const { signal } = stop
    const began = performance.now()
    current.value = [...current.value, { id: clip.id, name: clip.name, frames: 0, wanted: 0 }]
    count()
    const seen = proxy(async (frames: number, wanted: number) => {
      current.value = current.value.map((entry) =>
        entry.id === clip.id ? { ...entry, frames, wanted } : entry,
      )
      await until(isHeld).toBe(false)
    })
    try {
      const files = await media.decodable(clip)
      if (!files) return void left.add(clip.id)
      const rate = clip.reading?.video?.rate ?? null
      const answer = await service.measure(files, rate, seen, signal)
      if (!answer.ok) {
        troubles.set(clip.id, answer.error)
        left.add(clip.id)
        return
      }
      troubles.delete(clip.id)
      done.value++
      took.value += performance.now() - began
      project.learn((doc) => learnEvidence(doc, clip.id, answer.evidence))
    } catch (error) {
      // What was interrupted is taken up again, unless it was left; what a worker died of is not.
      if (signal.aborted) return
      left.add(clip.id)
      troubles.set(clip.id, `It could not be measured: ${reasonOf(error)}.`)
    } finally {
      current.value = current.value.filter(({ id }) => id !== clip.id)
      first.value = first.value.filter((id) => id !== clip.id)
      count()
    }
  }

  function interrupt() {
    stop.abort()
    stop = new AbortController()
  }
  // Another project begins its own queue: what is measured for the one before would be lost on it.
  watch(
    () => project.doc?.project.id,
    () => {
      done.value = took.value = 0
      first.value = []
      interrupt()
    },
  )
  function pause(): void {
    paused.value = true
    interrupt()
  }
  function goOn(): void {
    paused.value = false
    work()
  }
  /** Leaves all that is not measured yet. */
  function cancel(): void {
    for (const { id } of [...queue(), ...current.value]) left.add(id)
    first.value = []
    count()
    interrupt()
  }
  /** Measures clips before all others, also those that were left. */
  function measureNow(ids: readonly string[]): void {
    for (const id of ids) {
      left.delete(id)
      troubles.delete(id)
    }
    first.value = [...new Set([...ids, ...first.value])]
    goOn()
  }

  /** Holds measuring still while something plays, as long as the caller's scope lasts. */
  function holdWhile(playing: Ref<boolean>): void {
    watch(playing, (isPlaying) => (isPlaying ? players.add(playing) : players.delete(playing)), {
      immediate: true,
    })
    onScopeDispose(() => players.delete(playing))
  }

  return {
    current,
    waiting,
    paused,
    isHeld,
    done,
    secondsLeft,
    troubles,
    count,
    work,
    pause,
    goOn,
    cancel,
    measureNow,
    holdWhile,
  }
})
