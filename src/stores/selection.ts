import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { treatedAs } from '../core/edit/treating'
import { type Placement, type Timeline, lengthOf, placementsIn } from '../core/model/timeline'
import type { Override } from '../core/treatment/treatment'
import { overrideWords } from '../core/treatment/words'
import { type Field, stepField } from '../media/play/field'
import { useTimelines } from './timelines'

/** A treatment that is looked at and not taken. */
export interface Tried {
  readonly set: Override
  readonly name: string
}

/** What is in hand on the current timeline: placements, the moment, and the treatment that is tried on them. */
export const useSelection = defineStore('selection', () => {
  const timelines = useTimelines()
  const selectedIds = shallowRef<ReadonlySet<string>>(new Set())
  const playhead = ref(0)
  /** Which field of the frame is looked at alone; both as they stand where none is. */
  const field = ref<Field>('both')
  /** What is pointed at. */
  const pointedAt = shallowRef<Tried | null>(null)
  /** What was pointed at last: who goes to hold it has to leave it. */
  let lastPointedAt: Tried | null = null
  /** What is held beside what is in force, to be compared. */
  const heldBeside = shallowRef<Tried | null>(null)

  const all = computed(() => (timelines.current ? placementsIn(timelines.current) : []))
  const placements = computed(() => all.value.filter(({ id }) => selectedIds.value.has(id)))
  /** The only one in hand, of a picture with its sound the picture; null where none or several are. */
  const only = computed<Placement | null>(() => {
    const [first, ...rest] = placements.value
    return first && rest.every(({ pairId }) => pairId !== null && pairId === first.pairId) ? first : null
  })
  const length = computed(() => (timelines.current ? lengthOf(timelines.current) : 0))

  /** The timeline with what is tried, as the viewer shows it; in force where nothing is. */
  const tried = computed(() => pointedAt.value ?? heldBeside.value)
  const shown = computed<Timeline | null>(() => {
    const [timeline, treatment] = [timelines.current, tried.value]
    if (!timeline || !treatment || placements.value.length === 0) return timeline
    return treatedAs(
      timeline,
      new Map(placements.value.map(({ id }) => [id, treatment.set])),
      timelines.format,
    )
  })
  /** From the first to the last frame of what is in hand; null where nothing is. */
  const stretch = computed(() => {
    const starts = placements.value.map(({ start }) => start)
    const ends = placements.value.map(({ start, length }) => start + length)
    return starts.length ? { from: Math.min(...starts), to: Math.max(...ends) } : null
  })

  const select = (ids: Iterable<string>) => (selectedIds.value = new Set(ids))
  /** Takes a placement into hand, or lets it go, beside those that are. */
  function toggle(id: string): void {
    const next = new Set(selectedIds.value)
    if (!next.delete(id)) next.add(id)
    selectedIds.value = next
  }
  function goTo(frame: number): void {
    field.value = 'both'
    playhead.value = Math.max(0, Math.min(length.value - 1, Math.round(frame)))
  }
  /** A field on or back, in their order. */
  function goByField(by: 1 | -1): void {
    const next = stepField(playhead.value, field.value, timelines.format?.fieldOrder !== 'bottom-first', by)
    goTo(next.frame)
    field.value = next.field
  }

  /** Points at a treatment; null at none. */
  function pointAt(set: Override | null, name?: string): void {
    pointedAt.value = set && { set, name: name ?? overrideWords(set) }
    if (pointedAt.value) lastPointedAt = pointedAt.value
  }
  /** Holds what is pointed at, or was last, beside what is in force; or lets go of it. */
  function holdBeside(): void {
    heldBeside.value = heldBeside.value ? null : (pointedAt.value ?? lastPointedAt)
  }

  watch([() => timelines.current?.id], () => {
    select([])
    playhead.value = 0
  })
  watch(length, () => goTo(playhead.value))
  watch(all, (present) => {
    const there = new Set(present.map(({ id }) => id))
    if ([...selectedIds.value].some((id) => !there.has(id)))
      select([...selectedIds.value].filter((id) => there.has(id)))
  })
  watch(placements, (present, before) => {
    if (present.map(({ id }) => id).join() === before.map(({ id }) => id).join()) return
    pointedAt.value = null
    lastPointedAt = null
    heldBeside.value = null
  })

  return {
    selectedIds,
    playhead,
    pointedAt,
    heldBeside,
    tried,
    all,
    placements,
    only,
    length,
    stretch,
    shown,
    select,
    toggle,
    goTo,
    field,
    goByField,
    pointAt,
    holdBeside,
  }
})
