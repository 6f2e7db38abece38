import PQueue from 'p-queue'
import { computed, ref, shallowReactive, shallowRef } from 'vue'
import { reasonOf } from '../core/words/reason'

/** A job whose turn has come, and how far it is, in whatever it counts. */
export interface RunningJob {
  readonly key: string
  readonly done: number
  readonly total: number
}

/** Something to be done in its turn: its key says what it is about, and no two of one key wait or run at a time. */
export interface Job {
  readonly key: string
  /** @param tell says how far it is */
  readonly work: (signal: AbortSignal, tell: (done: number, total: number) => void) => Promise<unknown>
}

export interface JobQueueOptions {
  /** So many run at a time. */
  readonly concurrency?: number
  /** What went wrong, in a sentence. */
  readonly errorOf?: (error: unknown) => string
}

/**
 * Jobs that wait their turn, in the order in which they were added or are fed. One that fails says why under its key and leaves the others;
 * one that is cancelled says nothing, and never begins where it still waits.
 */
export function useJobQueue({ concurrency = 1, errorOf = reasonOf }: JobQueueOptions = {}) {
  const queue = new PQueue({ concurrency })
  const waiting = ref(0)
  const running = shallowRef<readonly RunningJob[]>([])
  /** Why jobs failed, by their key; a job that is added again begins without. */
  const errors = shallowReactive(new Map<string, string>())
  const isPaused = ref(false)
  /** What ends each job that waits or runs. */
  const open = new Map<string, AbortController>()
  const isBusy = computed(() => waiting.value + running.value.length > 0)

  async function run({ key, work }: Job, abort: AbortController): Promise<void> {
    const { signal } = abort
    let entry: RunningJob = { key, done: 0, total: 0 }
    running.value = [...running.value, entry]
    const replace = (by: readonly RunningJob[]) =>
      (running.value = running.value.flatMap((job) => (job === entry ? by : [job])))
    try {
      await work(signal, (done, total) => {
        const next = { key, done, total }
        replace([next])
        entry = next
      })
    } catch (error) {
      if (!signal.aborted) errors.set(key, errorOf(error))
    } finally {
      replace([])
      if (open.get(key) === abort) open.delete(key)
    }
  }

  /** Lets a job wait for its turn. @returns once it is over, whatever came of it; at once where one of its key waits or runs */
  async function add(job: Job): Promise<void> {
    const { key } = job
    if (open.has(key)) return
    const abort = new AbortController()
    open.set(key, abort)
    errors.delete(key)
    waiting.value++
    await queue.add(async () => {
      // Whoever asks may be a figure that is drawn: nothing is done for a job while it is.
      await Promise.resolve()
      waiting.value--
      if (!abort.signal.aborted) await run(job, abort)
    })
  }

  /** So many lanes ask for jobs. */
  let lanes = 0
  async function lane(next: () => Job | undefined): Promise<void> {
    try {
      while (!isPaused.value) {
        const job = next()
        if (!job) return
        await add(job)
      }
    } finally {
      lanes--
    }
  }
  /**
   * Asks for the next job whenever one can begin, until there is none: what comes first is decided when its turn has come. A second call
   * while all ask adds nothing.
   * @param next gives no job that waits or runs
   */
  async function feed(next: () => Job | undefined): Promise<void> {
    const begun: Promise<void>[] = []
    // Counted before: a lane that finds nothing to do is gone at once.
    for (let free = concurrency - lanes; free > 0; free--) {
      lanes++
      begun.push(lane(next))
    }
    await Promise.all(begun)
  }

  /** Ends a job, or all: what waits never begins, what runs hears of it by its signal. */
  function cancel(key?: string): void {
    for (const [name, abort] of open) {
      if (key !== undefined && name !== key) continue
      open.delete(name)
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
  /** Whether a job of a key waits or runs. */
  const has = (key: string): boolean => open.has(key)

  return { waiting, running, errors, isBusy, isPaused, add, feed, cancel, pause, resume, has }
}
