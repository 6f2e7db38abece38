import { defineStore } from 'pinia'
import type { Clip } from '../core/model/clip'
import { hasToBeWalked } from '../core/model/timing'
import { isSlowlyDecoded } from '../core/toll/noted'
import { learnFrameTimes } from '../core/edit/correction'
import { nextTurn } from '../media/turns'
import { useProject } from './document/project'
import { type Job, useJobQueue } from './job-queue'
import { useMeasuring } from './measuring'
import { useMedia } from './media'

/** So many clips are looked through before others have their turn. */
const clipsAtOnce = 1000

/** What is made of clips while the editor does something else: posters, the frame times of those that list none, and then what their pictures say. */
export const useBackground = defineStore('background', () => {
  const project = useProject()
  const media = useMedia()
  const measuring = useMeasuring()
  /** Clips whose frames could not be walked in this session. */
  const unwalkable = new Set<string>()
  /** Clips whose rows are seen now: theirs are made first. */
  let seen: ReadonlySet<string> = new Set()
  // Both engines work at once, each on one clip.
  const engines = [engine(false), engine(true)]

  /** Makes what the open project lacks; a second call while it runs looks again when it is through. */
  async function work(): Promise<void> {
    // What is measured afterwards is told now, and can be paused or left before it begins.
    measuring.count()
    await Promise.all(engines.map((each) => each.work()))
    if (!engines.some((each) => each.isAtWork())) measuring.work()
  }

  /** What one engine makes, one clip after the other. */
  function engine(slowly: boolean) {
    const jobs = useJobQueue()
    let [isAtWork, looksAgain] = [false, false]
    const isMine = (clip: Clip | undefined): clip is Clip =>
      clip !== undefined &&
      isSlowlyDecoded(clip.reading) === slowly &&
      !jobs.errors.has(clip.id) &&
      isWanting(clip)
    const clipOf = (id: string) => project.doc?.clips[id]

    async function work(): Promise<void> {
      looksAgain = true
      if (isAtWork) return
      isAtWork = true
      try {
        while (looksAgain) {
          looksAgain = false
          const wanting = await listed()
          await jobs.feed(() => next(wanting))
        }
      } finally {
        isAtWork = false
      }
    }
    /** The clips that lack something, the first last. */
    async function listed(): Promise<string[]> {
      const wanting: string[] = []
      for (const [i, clip] of project.clips.entries()) {
        if (i % clipsAtOnce === clipsAtOnce - 1) await nextTurn()
        if (isMine(clip)) wanting.push(clip.id)
      }
      return wanting.reverse()
    }
    function next(wanting: string[]): Job | undefined {
      // Those that are seen go before all others, whenever they come into sight.
      let clip = [...seen].map(clipOf).find(isMine)
      while (!clip && wanting.length > 0) {
        const listed = clipOf(wanting.pop() ?? '')
        if (isMine(listed)) clip = listed
      }
      const projectId = project.doc?.project.id
      if (!clip || !projectId) return undefined
      // What is made of one may be wanting more: after its picture its frame times.
      looksAgain = true
      return { key: clip.id, work: (signal) => make(projectId, clip, signal) }
    }
    /** What was taken out is not finished. */
    function leaveGone(): void {
      for (const { key } of jobs.running.value) if (!clipOf(key)) jobs.cancel(key)
    }
    return { work, leaveGone, isAtWork: () => isAtWork }
  }

  async function make(projectId: string, clip: Clip, signal: AbortSignal): Promise<void> {
    if (wantsPoster(clip)) await media.makePoster(projectId, clip, !project.readOnly, signal)
    else await walk(projectId, clip, signal)
  }

  const isWanting = (clip: Clip) => wantsPoster(clip) || wantsWalk(clip)
  const wantsPoster = (clip: Clip) =>
    Boolean(clip.reading?.video) &&
    !media.posterOf(clip) &&
    !media.troubles.has(clip.id) &&
    !media.missing.has(clip.id)
  const wantsWalk = (clip: Clip) =>
    hasToBeWalked(clip) && !unwalkable.has(clip.id) && !media.missing.has(clip.id)

  /** Walks a clip and keeps what was found. It is no step of the editor's, and is not undone alone. */
  async function walk(projectId: string, clip: Clip, signal: AbortSignal): Promise<void> {
    const frameTimes = await media.walk(clip, signal)
    if (!frameTimes) unwalkable.add(clip.id)
    if (!frameTimes || project.readOnly || project.doc?.project.id !== projectId) return
    project.learn((doc) => learnFrameTimes(doc, clip.id, frameTimes))
  }

  /** Tells which rows are seen. What is being made for others goes on. */
  function look(ids: Iterable<string>): void {
    seen = new Set(ids)
    for (const each of engines) each.leaveGone()
  }

  return { work, look }
})
