import { until } from '@vueuse/core'
import { proxy } from 'comlink'
import { defineStore } from 'pinia'
import { type Ref, computed, onScopeDispose, ref, shallowReactive, toRaw, watch } from 'vue'
import { present } from '../core/assert'
import type { Clip } from '../core/model/clip'
import { learnEvidence } from '../core/edit/correction'
import { reasonOf } from '../core/words/reason'
import { evidenceServices } from '../workers/services'
import { useProject } from './document/project'
import { type Job, useJobQueue } from './job-queue'
import { useMedia } from './media'

/** The clips whose pictures are measured in the background, one after the other, each once. */
export const useMeasuring = defineStore('measuring', () => {
  const project = useProject()
  const media = useMedia()
  /** Services that have nothing to measure. */
  const free = [...evidenceServices()]
  const lanes = Math.max(1, free.length)
  const jobs = useJobQueue({
    concurrency: lanes,
    errorOf: (error) => `It could not be measured: ${reasonOf(error)}.`,
  })
  /** Clips that the editor wants first. */
  const first = ref<readonly string[]>([])
  /** Clips that are not measured by themselves any more in this session: cancelled ones, and those that failed. */
  const left = new Set<string>()
  /** The clips that are being measured, and how far each is. */
  const current = computed(() =>
    jobs.running.value.map(({ key, done, total }) => ({
      id: key,
      name: project.doc?.clips[key]?.name ?? '',
      frames: done,
      wanted: total,
    })),
  )
  /** What is playing: measuring holds still meanwhile, and goes on where it was. */
  const players = shallowReactive(new Set<Ref<boolean>>())
  const isHeld = computed(() => players.size > 0)
  /** Clips measured since the queue began, and how long these took together, in milliseconds. */
  const done = ref(0)
  const took = ref(0)

  /** Clips that wait, those asked for first. Looked up, not watched: of ten thousand clips each would be. */
  function queue(): Clip[] {
    const [missing, failed] = [toRaw(media.missing), toRaw(media.troubles)]
    const canBe = (clip: Clip): boolean =>
      clip.evidence === null &&
      clip.reading?.kind === 'video' &&
      clip.reading.video !== null &&
      // What is shown of it is a preview, which says nothing of its samples.
      clip.reading.video.colour.transfer !== 'raw' &&
      !missing.has(clip.id) &&
      !failed.has(clip.id) &&
      !jobs.has(clip.id)
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
    return (each * (waiting.value + under)) / lanes
  })

  /** Measures what of the open project is not measured yet; a second call while it runs adds nothing. */
  function work(): void {
    if (!project.readOnly) void jobs.feed(next)
  }
  function next(): Job | undefined {
    const [clip] = project.readOnly ? [] : queue()
    return clip && { key: clip.id, work: (signal, tell) => measure(clip, signal, tell) }
  }

  async function measure(
    clip: Clip,
    signal: AbortSignal,
    tell: (frames: number, wanted: number) => void,
  ): Promise<void> {
    await until(isHeld).toBe(false)
    const began = performance.now()
    const service = present(free.pop(), 'as many clips are measured at a time as there are services')
    count()
    const seen = proxy(async (frames: number, wanted: number) => {
      tell(frames, wanted)
      await until(isHeld).toBe(false)
    })
    try {
      const files = await media.decodable(clip)
      if (!files) return void left.add(clip.id)
      const rate = clip.reading?.video?.rate ?? null
      const answer = await service().measure(files, rate, seen, signal)
      if (!answer.ok) {
        jobs.errors.set(clip.id, answer.error)
        left.add(clip.id)
        return
      }
      done.value++
      took.value += performance.now() - began
      project.learn((doc) => learnEvidence(doc, clip.id, answer.evidence))
    } catch (error) {
      // What was interrupted is taken up again, unless it was left; what a worker died of is not.
      if (!signal.aborted) left.add(clip.id)
      throw error
    } finally {
      free.push(service)
      first.value = first.value.filter((id) => id !== clip.id)
      count()
    }
  }

  // Another project begins its own queue: what is measured for the one before would be lost on it.
  watch(
    () => project.doc?.project.id,
    () => {
      done.value = took.value = 0
      first.value = []
      jobs.cancel()
    },
  )
  function pause(): void {
    jobs.pause()
    jobs.cancel()
  }
  function goOn(): void {
    jobs.resume()
    work()
  }
  /** Leaves all that is not measured yet. */
  function cancel(): void {
    for (const { id } of [...queue(), ...current.value]) left.add(id)
    first.value = []
    count()
    jobs.cancel()
  }
  /** Measures clips before all others, also those that were left. */
  function measureNow(ids: readonly string[]): void {
    for (const id of ids) {
      left.delete(id)
      jobs.errors.delete(id)
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
    paused: jobs.isPaused,
    isHeld,
    done,
    secondsLeft,
    errors: jobs.errors,
    count,
    work,
    pause,
    goOn,
    cancel,
    measureNow,
    holdWhile,
  }
})
