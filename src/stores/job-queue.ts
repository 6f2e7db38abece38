import PQueue from 'p-queue'
import { computed, ref, shallowReactive, shallowRef } from 'vue'
import { reasonOf } from '../core/words/reason'

/** How far a job is, in whatever it counts. */
export interface Progress {
  readonly done: number
  readonly total: number
}

/** A job whose turn has come. */
export interface RunningJob extends Progress {
  readonly key: string
}

/** What is to be done once a job's turn has come. @param tell says how far it is */
export type Work = (signal: AbortSignal, tell: (done: number, total: number) => void) => Promise<unknown>

/** A job: its key says what it is about, and no two of one key wait or run at a time. */
export interface Job {
  readonly key: string
  readonly work: Work
}

export interface JobQueueOptions {
  /** So many run at a time. */
  readonly concurrency?: number
  /** What went wrong, in a sentence. */
  readonly errorOf?: (error: unknown) => string
}

/**
 * Jobs that wait their turn, begun in the order in which they were added, or as they are fed. One that fails says why under its key and
 * leaves the others; one that is cancelled says nothing, and never begins where it still waits.
 */
export function useJobQueue({ concurrency = 1, errorOf = reasonOf }: JobQueueOptions = {}) {
  const queue = new PQueue({ concurrency })
  const waiting = ref(0)
  const running = shallowRef<readonly RunningJob[]>([])
  /** Why jobs failed, by their key; a job that is added again begins without. */
  const errors = shallowReactive(new Map<string, string>())
  const isPaused = ref(false)
  const aborts = new Map<string, AbortController>()
  const isBusy = computed(() => waiting.value + running.value.length > 0)

  /** Lets a job wait for its turn. @returns once it is over, whatever came of it; at once where one of its key waits or runs */
  async function add({ key, work }: Job): Promise<void> {
    if (aborts.has(key)) return
    const abort = new AbortController()
    aborts.set(key, abort)
    errors.delete(key)
    waiting.value++
    await queue.add(async () => {
      waiting.value--
      const { signal } = abort
      try {
        if (signal.aborted) return
        running.value = [...running.value, { key, done: 0, total: 0 }]
        await work(signal, (done, total) => {
          running.value = running.value.map((job) => (job.key === key ? { key, done, total } : job))
        })
      } catch (error) {
        if (!signal.aborted) errors.set(key, errorOf(error))
      } finally {
        running.value = running.value.filter((job) => job.key !== key)
        if (aborts.get(key) === abort) aborts.delete(key)
      }
    })
  }

  /** Asks for the next job whenever one can begin, until there is none: what comes first is decided when its turn has come. */
  function feed(next: () => Job | undefined): void {
    while (!isPaused.value && queue.pending + queue.size < concurrency) {
      const job = next()
      if (!job) return
      void add(job).then(() => feed(next))
    }
  }

  /** Ends a job, or all: what waits never begins, what runs hears of it by its signal. */
  function cancel(key?: string): void {
    for (const [name, abort] of aborts) {
      if (key !== undefined && name !== key) continue
      aborts.delete(name)
      abort.abort()
    }
  }

  /** Begins no other job until it is resumed; what runs goes on. */
  function pause(): void {
    isPaused.value = true
    queue.pause()
  }
  function resume(): void {
    isPaused.value = false
    queue.start()
  }
  /** Once nothing waits or runs any more. */
  const idle = (): Promise<void> => queue.onIdle()
  const has = (key: string): boolean => aborts.has(key)

  return { waiting, running, errors, isBusy, isPaused, add, feed, cancel, pause, resume, idle, has }
}

export type JobQueue = ReturnType<typeof useJobQueue>
