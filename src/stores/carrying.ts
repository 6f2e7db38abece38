import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { type CarryPrice, carryPrice } from '../core/check/carried'
import { type WrongStart, wrongStart } from '../core/check/wrong-start'
import {
  type CarriedCut,
  type CarryWay,
  type CarryWish,
  carryWays,
  nested,
  recut,
  slowed,
  takeCarried,
} from '../core/edit/carrying'
import { putAtEnd } from '../core/edit/arranging'
import type { FramingPlan, LookAt, Reframing } from '../core/edit/reframe'
import { sameShape } from '../core/edit/reframe'
import { canHold, placedTimeline, unnest as putOut } from '../core/edit/nesting'
import { setProjectFormat } from '../core/edit/operations'
import { formatOf } from '../core/model/project'
import { proposeName } from '../core/edit/reformat'
import { shapeOf } from '../core/model/shape'
import type { SetBy, Timeline } from '../core/model/timeline'
import { type Format, formatKey, formatName, sameFormat } from '../core/format/format'
import { sameSize } from '../core/picture/size'
import { canDropFrame } from '../core/rate/timecode'
import { equal } from '../core/rational/rational'
import { nextTurn } from '../media/turns'
import { newId, timeNow, useProject } from './document/project'
import { useTimelines } from './timelines'
import { changeProject } from '../core/edit/settings'

/** Carrying a cut to another format: what is wished, what each way costs, and the taking of one of them. */
export const useCarrying = defineStore('carrying', () => {
  const project = useProject()
  const timelines = useTimelines()
  /** The timeline that is carried; null where none is. */
  const timelineId = ref<string | null>(null)
  const wanted = shallowRef<{ readonly format: Format; readonly setBy: SetBy } | null>(null)
  const keepPitch = ref(true)
  const dropFrame = ref(false)
  const all = ref<Reframing | null>(null)
  const by = shallowRef<Readonly<Record<string, Reframing>>>({})
  const lookAt = shallowRef<Readonly<Record<string, LookAt>>>({})

  const timeline = computed<Timeline | null>(() => project.doc?.timelines[timelineId.value ?? ''] ?? null)
  const was = computed(() => (project.doc && timeline.value ? formatOf(project.doc, timeline.value) : null))
  const format = computed(() => wanted.value?.format ?? was.value)
  const changesRate = computed(
    () => !!was.value && !!format.value && !equal(was.value.rate, format.value.rate),
  )
  const changesShape = computed(() => !!was.value && !!format.value && !sameShape(was.value, format.value))
  const changesSize = computed(() => !!was.value && !!format.value && !sameSize(was.value, format.value))
  const changes = computed(() => !!was.value && !!format.value && !sameFormat(was.value, format.value))

  /** What is proposed for where pictures lie: a look is kept where the shape stays, else the new shape is filled. */
  const usual = computed<Reframing>(() => {
    if (!changesShape.value) return 'keep'
    const { value } = timeline
    return value && format.value && value.rasters[shapeOf(format.value)] ? 'as-before' : 'fill-shape'
  })
  const plan = computed<FramingPlan>(() => ({
    all: all.value ?? usual.value,
    by: by.value,
    lookAt: lookAt.value,
  }))
  const wish = computed<CarryWish | null>(
    () =>
      format.value && {
        format: format.value,
        origin: { setBy: wanted.value?.setBy ?? 'tried', clip: null },
        plan: plan.value,
        ...(canDropFrame(format.value.rate) ? { dropFrame: dropFrame.value } : {}),
        keepPitch: keepPitch.value,
      },
  )
  const making = (name: string) => ({ name, at: timeNow(), newId })
  const nameFor = (way: CarryWay): string =>
    way === 'new-project'
      ? `${project.opened.project.name}, ${format.value ? formatName(format.value) : ''}`
      : proposeName(project.opened, format.value)
  const reason = computed(() =>
    timeline.value && format.value
      ? `“${timeline.value.name}” of “${project.opened.project.name}” taken over from ${was.value ? formatName(was.value) : 'no format'}.`
      : '',
  )

  /** Every way that there is for what is wished, priced; another rate has four of them, another size three. */
  const prices = computed<readonly CarryPrice[]>(() => {
    const [cut, wished] = [timeline.value, wish.value]
    if (!cut || !wished || !changes.value) return []
    return carryWays
      .filter((way) => way !== 'slowed' || changesRate.value)
      .map((way) =>
        carryPrice(project.opened, cut, { way, wish: wished, reason: reason.value }, making(nameFor(way))),
      )
  })

  function begin(timeline: Timeline, to: Format | null = null, setBy: SetBy = 'tried'): void {
    timelineId.value = timeline.id
    timelines.selectedId = timeline.id
    wanted.value = to && { format: to, setBy }
    dropFrame.value = timeline.dropFrame
    askAnew()
  }
  /** What was chosen for one shape is no choice for the next. */
  function askAnew(): void {
    all.value = null
    by.value = {}
    lookAt.value = {}
  }
  function aim(to: Format, setBy: SetBy): void {
    if (format.value && !sameShape(format.value, to)) askAnew()
    wanted.value = { format: to, setBy }
  }
  const leave = () => (timelineId.value = null)

  /** Takes a way. @param asCopy whether the old timeline stays beside it */
  async function take(way: CarryWay, asCopy: boolean): Promise<string | null> {
    const [cut, wished] = [timeline.value, wish.value]
    if (!cut || !wished) return null
    const to = formatName(wished.format)
    const copy = asCopy ? making(proposeName(project.opened, wished.format)) : null
    const price = prices.value.find((price) => price.way === way)
    leave()
    if (way === 'new-project') return price ? project.takeOver(price.cut.doc) : null
    const [carried, label]: [CarriedCut, string] =
      way === 'nested'
        ? [nested(project.opened, cut, wished, making(nameFor(way))), `nest “${cut.name}” in ${to}`]
        : way === 'recut'
          ? [recut(project.opened, cut, wished, copy), `re-cut “${cut.name}” to ${to}`]
          : [slowed(project.opened, cut, wished, copy), `run “${cut.name}” at ${to}, each frame once`]
    project.edit(asCopy ? `${label}, as a copy` : label, (doc) => takeCarried(doc, carried))
    timelines.selectedId = carried.timeline.id
    return null
  }

  /** Puts what a placed timeline holds in its place. */
  function unnest(outer: Timeline, placementId: string): void {
    project.edit(`un-nest in “${outer.name}”`, (doc) => putOut(doc, outer.id, placementId, newId))
  }
  /** Whether a timeline can be placed in the current one. */
  const canPlace = (inner: Timeline): boolean =>
    !!timelines.current?.rate && !!inner.rate && canHold(project.opened, timelines.current.id, inner.id)
  /** Places a timeline at the end of the current one. */
  function placeTimeline(inner: Timeline): void {
    const outer = timelines.current
    if (!outer?.rate || !canPlace(inner)) return
    const wantedThere = placedTimeline(inner, outer.rate, [newId(), newId(), newId()])
    project.edit(`place “${inner.name}” in “${outer.name}”`, (doc) =>
      putAtEnd(doc, outer.id, wantedThere, newId),
    )
  }

  /** What speaks against the project's format; null where nothing does. */
  const wrong = shallowRef<WrongStart | null>(null)
  watch(
    [() => project.doc?.project, () => project.doc?.clips],
    async () => {
      // What is asked for is shown first.
      await nextTurn()
      wrong.value = project.doc && wrongStart(project.doc)
    },
    { immediate: true },
  )
  /** Sets what the footage is, and carries every cut that follows the project. */
  function setRight(): void {
    if (!wrong.value) return
    const { format: right, says } = wrong.value
    project.edit(`set the format right: ${formatName(right)}`, (doc) =>
      setProjectFormat(doc, { at: timeNow(), setBy: 'recommended', format: right, reason: says }),
    )
  }
  const meanIt = () =>
    project.edit('mean the format as it is', (doc) =>
      changeProject(doc, { meant: doc.project.format && formatKey(doc.project.format) }),
    )

  return {
    timeline,
    was,
    format,
    changes,
    changesRate,
    changesShape,
    changesSize,
    keepPitch,
    dropFrame,
    all,
    by,
    lookAt,
    usual,
    plan,
    prices,
    begin,
    aim,
    leave,
    take,
    unnest,
    canPlace,
    placeTimeline,
    wrong,
    setRight,
    meanIt,
  }
})
