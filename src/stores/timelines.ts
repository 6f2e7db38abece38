import type { Result } from '../core/result'
import { type Clip } from '../core/model/clip'
import { timelinesWithin } from '../core/model/integrity'
import { type FormatOrigin, type Placement, type Timeline } from '../core/model/timeline'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { type Check, checkTimeline, severeBitByBit } from '../core/check/check'
import { type Mismatch, mismatchOf } from '../core/check/mismatch'
import {
  addTimeline,
  removePlacements,
  removeTimeline,
  renameTimeline,
  setTimelineFormat,
} from '../core/edit/operations'
import { type Putting, putAbove, putAt, putAtEnd } from '../core/edit/arranging'
import { type Marks, cutAt, movePlacement, newTimeline, placedClip } from '../core/edit/placing'
import { proposeName } from '../core/edit/reformat'
import { type Doc, formatOf, sourceName } from '../core/model/project'
import { type EdlRead, fromEdl } from '../core/exchange/edl-read'
import { fromOtio } from '../core/exchange/otio-read'
import { addedTimelines } from '../core/exchange/take-in'
import { type Format, formatName } from '../core/format/format'
import { nextTurn } from '../media/turns'
import { newId, timeNow, useProject } from './document/project'
import { changeProject } from '../core/edit/settings'

/** Where a clip is placed: at the end, or at a frame, what stands there moving on, covered, or left below. */
export type PlacePosition =
  { readonly how: 'end' } | { readonly how: Putting | 'above'; readonly frame: number }

/** A clip that waits to be placed. */
interface Waiting {
  readonly clip: Clip
  readonly where: PlacePosition
  readonly marks: Marks | null
}

/** The timelines of the open project: which one is looked at, and the placing of clips. */
export const useTimelines = defineStore('timelines', () => {
  const project = useProject()
  const selectedId = ref<string | null>(null)
  /** The question that waits for an answer, and the clips that wait behind it. */
  const question = shallowRef<Mismatch | null>(null)
  let queue: readonly Waiting[] = []

  const current = computed<Timeline | null>(
    () => (project.doc && (project.doc.timelines[selectedId.value ?? ''] ?? project.timelines[0])) ?? null,
  )
  const format = computed(() => (project.doc && current.value ? formatOf(project.doc, current.value) : null))
  /** Checks that were made, by timeline: an edit of one leaves the others checked. */
  const checkCache = new WeakMap<Timeline, { of: readonly unknown[]; check: Check | null }>()
  /** As `checkTimeline`, but made once for each state of what it depends on. */
  function checkOnce(doc: Doc, timeline: Timeline): Check | null {
    const { policy, lean } = doc.project
    const within = timelinesWithin(timeline).size > 0 ? doc.timelines : null
    const dependsOn = [doc.clips, policy, lean, formatOf(doc, timeline), within]
    const known = checkCache.get(timeline)
    if (known?.of.every((part, i) => part === dependsOn[i])) return known.check
    const check = checkTimeline(doc, timeline)
    checkCache.set(timeline, { of: dependsOn, check })
    return check
  }
  const check = computed<Check | null>(() =>
    project.doc && current.value ? checkOnce(project.doc, current.value) : null,
  )
  const checks = computed(() =>
    project.timelines.map((timeline) => ({
      timeline,
      check: project.doc ? checkOnce(project.doc, timeline) : null,
    })),
  )

  /** No more placements than these are counted in one turn, of one timeline or of many, so that nothing is held up by it. */
  const mostAtOnce = 4000
  /** How many placed pictures pay a severe toll, over all timelines; of very large ones counted a little later. */
  const severe = ref(0)
  let countings = 0
  watch(
    () => [project.doc, project.timelines] as const,
    async ([doc]) => {
      const counting = ++countings
      let [count, inThisTurn] = [0, 0]
      for (const timeline of project.timelines) {
        if (!doc) return
        const placed = timeline.tracks.reduce((sum, { placements }) => sum + placements.length, 0)
        if (placed <= mostAtOnce) {
          inThisTurn += placed
          if (inThisTurn > mostAtOnce) {
            await nextTurn()
            if (counting !== countings) return
            inThisTurn = placed
          }
          count += checkOnce(doc, timeline)?.countByGrade.severe ?? 0
        } else {
          for (const severe of severeBitByBit(doc, timeline)) {
            await nextTurn()
            if (counting !== countings) return
            count += severe
          }
        }
      }
      severe.value = count
    },
    { immediate: true },
  )

  /** Makes a timeline: following the project, or with its own format from somewhere; its name proposes itself. */
  function create(ownFormat: Format | null = null, origin: FormatOrigin | null = null, name = ''): void {
    if (!project.doc) return
    const proposed = name || proposeName(project.doc, ownFormat ?? project.format)
    const timeline = newTimeline(newId(), proposed, timeNow(), ownFormat, origin)
    project.edit(`make “${timeline.name}”`, (doc) => addTimeline(doc, timeline))
    selectedId.value = timeline.id
  }

  /** Places clips on the current timeline, one after the other; stops to ask where one does not match. */
  function place(
    clips: readonly Clip[],
    where: PlacePosition = { how: 'end' },
    marks: Marks | null = null,
  ): void {
    const able = clips.filter((clip) => clip.reading && !clip.fault)
    queue = [...queue, ...able.map((clip) => ({ clip, where, marks }))]
    next()
  }

  function next(): void {
    while (!question.value && queue.length && project.doc && current.value) {
      const [waiting] = queue
      if (!waiting) return
      const mismatch =
        project.doc.project.onMismatch === 'ask' ? mismatchOf(project.doc, current.value, waiting.clip) : null
      if (mismatch) question.value = mismatch
      else placeNow()
    }
  }

  /** Places what waits first. @param joins the step that it belongs to, so that both are undone together */
  function placeNow(joins?: string): void {
    const [waiting, ...rest] = queue
    queue = rest
    const timeline = current.value
    const runsIn = format.value
    if (!waiting || !timeline || !runsIn) return
    const { clip, where, marks } = waiting
    const wanted = placedClip(clip, runsIn, marks, [newId(), newId(), newId()])
    const length = wanted[0]?.placement.length ?? 0
    project.edit(
      `place ${clip.name}`,
      (doc) => {
        if (where.how === 'end') putAtEnd(doc, timeline.id, wanted, newId)
        else if (where.how === 'above') putAbove(doc, timeline.id, wanted, where.frame, newId)
        else putAt(doc, timeline.id, wanted, { frame: where.frame, putting: where.how }, newId)
      },
      joins,
    )
    // What was dropped together stands one behind the other.
    if (where.how !== 'end')
      queue = queue.map((waiting) =>
        waiting.where === where ? { ...waiting, where: { ...where, frame: where.frame + length } } : waiting,
      )
  }

  /** Answers the question: keep the timeline's format, take the clip's, or do not place the clip at all. */
  function answer(choice: 'keep' | 'take' | 'leave', remember = false): void {
    const asked = question.value
    const timeline = current.value
    question.value = null
    if (!asked || !timeline) return
    if (choice === 'leave') queue = []
    else {
      const step = newId()
      if (choice === 'take') {
        project.edit(
          `give “${timeline.name}” the format of ${asked.clip.name}`,
          (doc) =>
            setTimelineFormat(doc, timeline.id, asked.clipFormat, { setBy: 'clip', clip: asked.clip.name }),
          step,
        )
      } else if (remember) setAsking(false)
      placeNow(step)
    }
    next()
  }

  const setAsking = (ask: boolean) =>
    project.edit(ask ? 'ask again about mismatches' : 'keep the timeline’s format without asking', (doc) =>
      changeProject(doc, { onMismatch: ask ? 'ask' : 'keep' }),
    )

  /** Gives a timeline another name, its own format, or lets it follow the project (null), as one step. */
  function change(
    timeline: Timeline,
    { name, format, origin }: { name?: string; format?: Format | null; origin?: FormatOrigin | null },
  ): void {
    const what = [
      name !== undefined && `call it ${name}`,
      format && `give it ${formatName(format)}`,
      format === null && 'let it follow the project',
    ]
    project.edit(`“${timeline.name}”: ${what.filter(Boolean).join(', ')}`, (doc) => {
      if (format !== undefined) setTimelineFormat(doc, timeline.id, format, origin)
      if (name !== undefined) renameTimeline(doc, timeline.id, name)
    })
  }

  /** Whether gaps that are left are closed up; told beside the button that takes out. */
  const closesUp = ref(true)
  function remove(ids: readonly string[]): void {
    const timeline = current.value
    if (timeline)
      project.edit(`take out ${ids.length} of “${timeline.name}”`, (doc) =>
        removePlacements(doc, timeline.id, ids, closesUp.value),
      )
  }

  /** Takes a timeline out of the project, and what other timelines show of it. */
  function removeTimelineNow(timeline: Timeline): void {
    project.edit(`take “${timeline.name}” out`, (doc) => removeTimeline(doc, timeline.id, closesUp.value))
  }

  /** Moves a placement by places in the order of its track. */
  function move(placement: Placement, by: 1 | -1): void {
    const timeline = current.value
    const track = timeline?.tracks.find(({ placements }) => placements.some(({ id }) => id === placement.id))
    if (!timeline || !track) return
    const to = track.placements.findIndex(({ id }) => id === placement.id) + by
    if (to < 0 || to >= track.placements.length) return
    project.edit(`move ${nameOf(placement)} ${by < 0 ? 'earlier' : 'later'}`, (doc) =>
      movePlacement(doc, timeline.id, placement.id, to),
    )
  }
  const nameOf = ({ source }: Placement): string => sourceName(project.opened, source)

  /**
   * Takes a cut of another program in, with what it shows.
   * @returns what of it was not understood; or why nothing was taken in
   */
  function takeIn(text: string, name: string): Result<{ notes: readonly string[] }> {
    const making = { name, at: timeNow(), newId }
    const read = text.trimStart().startsWith('{')
      ? fromOtio(text, project.opened, making)
      : listed(fromEdl(text, project.opened, making))
    if (!read.ok) return read
    const added = addedTimelines(project.opened, read.timelines, making)
    const main = added.at(-1)
    if (!main) return { ok: true, notes: read.notes }
    project.edit(`take in ${name}`, (doc) => {
      for (const timeline of added) addTimeline(doc, timeline)
    })
    selectedId.value = main.id
    return { ok: true, notes: read.notes }
  }

  /** Cuts placements in two at a frame; both halves show what they showed. */
  function cut(ids: readonly string[], frame: number): void {
    const timeline = current.value
    if (!timeline) return
    project.edit(`cut “${timeline.name}” at frame ${frame}`, (doc) => {
      cutAt(doc, timeline.id, ids, frame, newId)
    })
  }

  return {
    closesUp,
    removeTimeline: removeTimelineNow,
    move,
    nameOf,
    takeIn,
    cut,
    selectedId,
    current,
    format,
    check,
    checks,
    checkOnce,
    severe,
    question,
    create,
    place,
    answer,
    setAsking,
    change,
    remove,
  }
})

/** A decision list holds one timeline. */
const listed = (read: EdlRead) => (read.ok ? { ...read, timelines: [read.timeline] } : read)
