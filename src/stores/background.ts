import { defineStore } from 'pinia'
import type { Clip } from '../core/model/clip'
import { hasToBeWalked } from '../core/model/timing'
import { isSlowlyDecoded } from '../core/toll/noted'
import { nextTurn } from '../media/turns'
import { useMeasuring } from './measuring'
import { useMedia } from './media'
import { useProject } from './document/project'
import { learnFrameTimes } from '../core/edit/correction'

/** What is made of clips while the editor does something else: posters, the frame times of those that list none, and then what their pictures say. */
export const useBackground = defineStore('background', () => {
  const project = useProject()
  const media = useMedia()
  const measuring = useMeasuring()
  /** The lines that run, and those that are to look again: clips may have come meanwhile. */
  const running = new Set<boolean>()
  const wanted = new Set<boolean>()
  /** Clips whose frames could not be walked in this session. */
  const unwalkable = new Set<string>()
  /** Clips whose rows are seen now: theirs are made first. */
  let seen: ReadonlySet<string> = new Set()
  const inWork = new Map<string, AbortController>()

  /** Makes what the open project lacks; a second call while it runs looks again when it is through. */
  async function work(): Promise<void> {
    // What is measured afterwards is told now, and can be paused or left before it begins.
    measuring.count()
    // Both engines work at once, each on one clip.
    await Promise.all([lineOf(false), lineOf(true)])
    if (running.size === 0) measuring.work()
  }

  async function lineOf(slowly: boolean): Promise<void> {
    wanted.add(slowly)
    if (running.has(slowly)) return
    running.add(slowly)
    try {
      while (wanted.delete(slowly)) await line(slowly)
    } finally {
      running.delete(slowly)
    }
  }

  /** Works on the clips of one engine until nothing is left to do; clips may come meanwhile. */
  async function line(slowly: boolean): Promise<void> {
    if (!project.doc) return
    const projectId = project.doc.project.id
    const isMine = (clip: Clip | undefined): clip is Clip =>
      clip !== undefined && isSlowlyDecoded(clip.reading) === slowly && isWanting(clip)
    const isOpen = () => project.doc?.project.id === projectId
    /** Those that are seen go before all others, whenever they come into sight. */
    async function makeSeen(): Promise<void> {
      for (let clip = seenFirst(isMine); clip && isOpen(); clip = seenFirst(isMine))
        await make(projectId, clip)
    }
    for (let done = 1; done > 0 && isOpen();) {
      done = 0
      await makeSeen()
      for (const [i, { id }] of project.clips.entries()) {
        // Whoever looks through thousands lets others have their turn.
        if (i % 1000 === 999) await nextTurn()
        const clip = project.doc?.clips[id]
        if (!isMine(clip)) continue
        if (!isOpen()) return
        await make(projectId, clip)
        done++
        await makeSeen()
      }
    }
  }

  /** A clip that is seen and still wants something. */
  function seenFirst(isMine: (clip: Clip | undefined) => boolean): Clip | undefined {
    for (const id of seen) {
      const clip = project.doc?.clips[id]
      if (clip && isMine(clip) && !inWork.has(id)) return clip
    }
    return undefined
  }

  async function make(projectId: string, clip: Clip): Promise<void> {
    const leave = new AbortController()
    inWork.set(clip.id, leave)
    try {
      if (wantsPoster(clip)) await media.makePoster(projectId, clip, !project.readOnly, leave.signal)
      else await walk(projectId, clip, leave.signal)
    } catch (error) {
      if (!leave.signal.aborted) throw error
    } finally {
      inWork.delete(clip.id)
    }
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

  /** Tells which rows are seen. What is being made for others goes on; what was taken out is not finished. */
  function look(ids: Iterable<string>): void {
    seen = new Set(ids)
    for (const [id, leave] of inWork) if (!project.doc?.clips[id]) leave.abort()
  }

  return { work, look }
})
