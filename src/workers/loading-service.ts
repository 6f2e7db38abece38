import { type Result, failure } from '../core/result'
import type { Clip } from '../core/model/clip'
import type { Doc } from '../core/model/project'
import type { Timeline } from '../core/model/timeline'
import { readProjectFile } from '../core/stored/project-file'
import { type LoadedProject, freeId, loadProject, takeInProject, withId } from '../storage/projects'
import { recoverAhead } from '../storage/recovery'
import { job } from './job'

/** So many clips are handed over at once: more would hold the page up while they are unpacked. */
const clipsAtOnce = 250

/** A part of a project as JSON text, which a page unpacks in half the time that a copied value takes it. */
export type Handful = { readonly clips: string } | { readonly timelineId: string; readonly tracks: string }

/** Takes a handful of a project. */
type TakeHandful = (handful: Handful) => Promise<void>

/** Hands a project over, a handful at a time: all are packed while the first are unpacked, each in a turn of the page's own. */
function handingOver(tell: TakeHandful) {
  const taken: Promise<void>[] = []
  return {
    clips(clips: readonly Clip[]): void {
      for (let i = 0; i < clips.length; i += clipsAtOnce)
        taken.push(tell({ clips: JSON.stringify(clips.slice(i, i + clipsAtOnce)) }))
    },
    timelines(timelines: readonly Timeline[]): void {
      for (const { id: timelineId, tracks } of timelines)
        taken.push(tell({ timelineId, tracks: JSON.stringify(tracks) }))
    },
    /** Once the page has everything. */
    end: () => Promise.all(taken),
  }
}

/** A project without its clips and the tracks of its timelines, which are handed over before it. */
export type LoadedFrame = Omit<LoadedProject, 'doc'> & {
  readonly doc: Omit<Doc, 'clips' | 'timelines'> & { readonly timelines: readonly BareTimeline[] }
}
export type BareTimeline = Omit<Timeline, 'tracks'>

const frameOf = ({ clips: _, timelines, ...rest }: Doc): LoadedFrame['doc'] => ({
  ...rest,
  timelines: Object.values(timelines).map(({ tracks: _, ...bare }) => bare),
})

/** A project that was read from a file, and whether it is on disk: where nothing can be kept it is only here. */
export type TakenIn = Result<{ frame: LoadedFrame; isKept: boolean }>

/** Under what a project is taken in. */
export interface TakeInOptions {
  /** Its id, where its own is taken. */
  readonly freshId: string
  readonly at: string
  /** The tab that takes it in. */
  readonly writer: string
}

/** Reading of whole projects, off the page. */
export const loading = {
  /** Brings into the database what was written ahead of it. */
  recover: (projectId: string, at: string, until?: AbortSignal): Promise<void> =>
    job(until, () => recoverAhead(projectId, at)),
  /**
   * Reads a project from storage and sees that it makes sense.
   * @param tell takes the clips and what is placed; the rest comes without them
   */
  load: (
    projectId: string,
    at: string,
    mayWrite: boolean,
    tell: TakeHandful,
    until?: AbortSignal,
  ): Promise<LoadedFrame | null> =>
    job(until, async () => {
      const over = handingOver(tell)
      const loaded = await loadProject(projectId, at, mayWrite, over.clips)
      if (loaded) over.timelines(Object.values(loaded.doc.timelines))
      await over.end()
      return loaded && { ...loaded, doc: frameOf(loaded.doc) }
    }),
  /**
   * Reads a project file and keeps what it holds as a project of its own: one that is here already is not overwritten.
   * @param tell takes the clips and what is placed, while they are written; the rest comes without them
   */
  takeIn: (
    file: Blob,
    { freshId, at, writer }: TakeInOptions,
    tell: TakeHandful,
    until?: AbortSignal,
  ): Promise<TakenIn> =>
    job(until, async (): Promise<TakenIn> => {
      const text = await file.text().catch(() => null)
      if (text === null) return failure('it could not be read. Nothing was changed.')
      const result = readProjectFile(text)
      if (!result.ok) return result
      const named = await freeId(result.doc.project.id, freshId).catch(() => null)
      const doc = named ? withId(result.doc, named) : result.doc
      const keeping = takeInProject({ doc, putAside: result.putAside }, at, writer).catch(() => null)
      const over = handingOver(tell)
      over.clips(Object.values(doc.clips))
      over.timelines(Object.values(doc.timelines))
      await over.end()
      const written = await keeping
      const putAside = result.putAside.map((row) => ({ ...row, projectId: doc.project.id, at }))
      return {
        ok: true,
        isKept: written !== null,
        frame: { doc: frameOf(doc), putAside, past: null, revision: written?.revision ?? 0 },
      }
    }),
}
export type LoadingService = typeof loading
