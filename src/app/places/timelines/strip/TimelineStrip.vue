<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, ref, shallowRef, watch } from 'vue'
import { type Placement, type Timeline, lengthOf, timecodeAt } from '../../../../core/model/timeline'
import type { Format } from '../../../../core/format/format'
import { useSelection } from '../../../../stores/selection'
import { useProject } from '../../../../stores/document/project'
import { useCut } from '../../../../stores/cut'
import { useTimelines } from '../../../../stores/timelines'
import { droppedClip } from '../left/drag'
import FigureForm from './FigureForm.vue'
import StripBar from './StripBar.vue'
import StripTrack from './StripTrack.vue'
import TrackHead from './TrackHead.vue'
import {
  type TimeScale,
  fitted,
  frameAtPixel,
  inView,
  perFrame,
  pixelOf,
  rulerMarks,
  scrolled,
  zoomed,
} from './time-scale'
import { type Grip, useStripDrag } from './use-strip-drag'
import { type StripAct, stripKeys } from './strip-keys'

/**
 * The cut on a time scale of its own, which zooms and scrolls: tracks of pictures above, of sound below. Only what is in view is
 * drawn. Everything can be done by mouse and by keys.
 */
const props = defineProps<{ timeline: Timeline; format: Format }>()
const emit = defineEmits<{ act: [act: StripAct] }>()
const timelines = useTimelines()
const project = useProject()
const selection = useSelection()
const cut = useCut()
const box = ref<HTMLElement | null>(null)
const { width } = useElementSize(box)

const rate = computed(() => props.timeline.rate ?? props.format.rate)
const total = computed(() => Math.max(1, lengthOf(props.timeline)))
/** Null: the whole timeline fills the width, however long it gets. */
const chosen = shallowRef<TimeScale | null>(null)
watch(
  () => props.timeline.id,
  () => (chosen.value = null),
)
/** While something is dragged the scale stays as it was: else a shorter cut would move away under the hand. */
const held = shallowRef<TimeScale | null>(null)
const scale = computed(
  () => held.value ?? chosen.value ?? fitted(total.value, rate.value, Math.max(1, width.value)),
)
const at = (frame: number) => pixelOf(scale.value, rate.value, frame)
const framePixels = computed(() => perFrame(scale.value, rate.value))
/** Pictures stand as they lie, the uppermost above; sound below them. */
const tracks = computed(() => [
  ...props.timeline.tracks.filter(({ kind }) => kind === 'video').reverse(),
  ...props.timeline.tracks.filter(({ kind }) => kind === 'audio'),
])
const rows = computed(() =>
  tracks.value.map((track) => ({
    track,
    shown: inView(track.placements, scale.value, rate.value, Math.max(1, width.value)),
  })),
)
const findings = computed(
  () => new Map((timelines.check?.findings ?? []).map((finding) => [finding.placement.id, finding])),
)
const marks = computed(() => rulerMarks(scale.value, rate.value, Math.max(1, width.value)))

const pixelIn = (event: { clientX: number }) => event.clientX - (box.value?.getBoundingClientRect().left ?? 0)
const frameUnder = (event: { clientX: number }) => frameAtPixel(scale.value, rate.value, pixelIn(event))
function seek(event: PointerEvent) {
  if (event.type === 'pointermove' && event.buttons !== 1) return
  selection.goTo(frameUnder(event))
}
// What is looked at stays in sight.
watch(
  () => selection.playhead,
  (frame) => {
    if (!chosen.value || (at(frame) >= 0 && at(frame) <= width.value)) return
    const beyond = at(frame) < 0 ? at(frame) - width.value * 0.2 : at(frame) - width.value * 0.8
    chosen.value = scrolled(scale.value, rate.value, beyond, total.value, width.value)
  },
)
function zoom(by: number, pixel = at(selection.playhead)) {
  const within = Math.max(0, Math.min(width.value, pixel))
  const next = zoomed(scale.value, rate.value, by, within)
  const whole = fitted(total.value, rate.value, width.value)
  chosen.value = next.perSecond <= whole.perSecond ? null : next
}
function onWheel(event: WheelEvent) {
  if (event.ctrlKey || event.metaKey) zoom(event.deltaY < 0 ? 1.25 : 0.8, pixelIn(event))
  else if (chosen.value && (event.deltaX || event.shiftKey))
    chosen.value = scrolled(scale.value, rate.value, event.deltaX || event.deltaY, total.value, width.value)
  else return
  event.preventDefault()
}

/** The paired ones of placements come along, but for Alt. */
function withPairs(ids: Iterable<string>): string[] {
  const wanted = new Set(ids)
  const pairs = new Set(selection.all.flatMap(({ id, pairId }) => (wanted.has(id) && pairId ? [pairId] : [])))
  return selection.all
    .filter(({ id, pairId }) => wanted.has(id) || (pairId && pairs.has(pairId)))
    .map(({ id }) => id)
}
function choose(placement: Placement, event: MouseEvent) {
  const ids = event.altKey ? [placement.id] : withPairs([placement.id])
  if (event.shiftKey || event.ctrlKey || event.metaKey) {
    const isIn = selection.selectedIds.has(placement.id)
    selection.select(
      isIn
        ? [...selection.selectedIds].filter((id) => !ids.includes(id))
        : [...selection.selectedIds, ...ids],
    )
    return
  }
  selection.select(ids)
  cut.viewed = null
  if (selection.playhead < placement.start || selection.playhead >= placement.start + placement.length)
    selection.goTo(placement.start)
}

const heights = { video: 48, audio: 34 }
const { drag, begin, move, end } = useStripDrag(
  () => framePixels.value,
  (placement, y) => {
    const kind = props.timeline.tracks.find(({ placements }) =>
      placements.some(({ id }) => id === placement.id),
    )?.kind
    return kind === 'video' ? -Math.round(y / heights.video) : 0
  },
)
function press(placement: Placement, which: Grip, event: PointerEvent) {
  if (which === 'body' && !selection.selectedIds.has(placement.id) && !event.shiftKey && !event.ctrlKey)
    selection.select(event.altKey ? [placement.id] : withPairs([placement.id]))
  held.value = scale.value
  begin(placement, which, event)
}
/** The box that is drawn to select, in pixels of the tracks. */
const lasso = ref<{ x: number; y: number; toX: number; toY: number } | null>(null)
function pressEmpty(event: PointerEvent) {
  if (event.button !== 0 || drag.value) return
  const { left = 0, top = 0 } = box.value?.getBoundingClientRect() ?? {}
  const [x, y] = [event.clientX - left, event.clientY - top]
  lasso.value = { x, y, toX: x, toY: y }
  box.value?.setPointerCapture(event.pointerId)
}
function onMove(event: PointerEvent) {
  if (drag.value) {
    // Only what has become a drag is held on to: else a click would not reach the block.
    if (move(event)) box.value?.setPointerCapture(event.pointerId)
    return
  }
  if (!lasso.value) return
  const { left = 0, top = 0 } = box.value?.getBoundingClientRect() ?? {}
  lasso.value = { ...lasso.value, toX: event.clientX - left, toY: event.clientY - top }
}
function onUp(event: PointerEvent) {
  held.value = null
  if (drag.value) return end()
  const area = lasso.value
  lasso.value = null
  if (!area) return
  if (Math.hypot(area.toX - area.x, area.toY - area.y) < 5) {
    selection.select([])
    selection.goTo(frameUnder(event))
    return
  }
  selectIn(area, event.shiftKey)
}
function letGo() {
  held.value = null
  end()
}
/** Takes what a box touches into hand, beside what is there already where it is wished. */
function selectIn(area: { x: number; y: number; toX: number; toY: number }, also: boolean) {
  const [from, to] = [Math.min(area.x, area.toX), Math.max(area.x, area.toX)].map((x) =>
    frameAtPixel(scale.value, rate.value, x),
  ) as [number, number]
  const [top, bottom] = [Math.min(area.y, area.toY), Math.max(area.y, area.toY)]
  let y = 22
  const hit: string[] = []
  for (const track of tracks.value) {
    const next = y + heights[track.kind]
    if (next > top && y < bottom)
      for (const { id, start, length } of track.placements)
        if (start < to + 1 && start + length > from) hit.push(id)
    y = next
  }
  selection.select(also ? [...selection.selectedIds, ...withPairs(hit)] : withPairs(hit))
}

/** Where a clip that is dragged over would come, and how. */
const dropping = ref<{ frame: number; how: 'end' | 'insert' | 'over' | 'above' } | null>(null)
const dropWords = { end: 'at the end', insert: 'inserted', over: 'over what is there', above: 'above' }
function dragOver(event: DragEvent) {
  const frame = Math.max(0, frameUnder(event))
  const how =
    frame >= lengthOf(props.timeline) ? 'end' : event.shiftKey ? 'over' : event.altKey ? 'above' : 'insert'
  dropping.value = { frame, how }
}
function drop(event: DragEvent) {
  const clip = project.doc?.clips[droppedClip(event) ?? '']
  const there = dropping.value
  dropping.value = null
  if (clip && there)
    timelines.place([clip], there.how === 'end' ? { how: 'end' } : { how: there.how, frame: there.frame })
}

const onKey = stripKeys({
  timeline: () => props.timeline,
  rate: () => rate.value,
  zoom,
  whole: () => (chosen.value = null),
  withPairs,
  act: (act) => emit('act', act),
})
/** Whether a test figure is about to be placed. */
const figuring = ref(false)
defineExpose({ focus: () => box.value?.parentElement?.focus() })
</script>

<template>
  <div
    class="strip"
    role="group"
    aria-label="The cut to scale: arrow keys move the playhead, up and down go from cut to cut, Enter selects, Delete takes out, slash cuts, plus and minus zoom"
    tabindex="0"
    @keydown="onKey"
  >
    <StripBar
      :scale="chosen ? `${Math.round(scale.perSecond)} px a second` : 'all of it in view'"
      :is-whole="chosen === null"
      @zoom="zoom"
      @whole="chosen = null"
      @figure="figuring = true"
    />
    <FigureForm v-if="figuring" :format="format" @close="figuring = false" />
    <div class="tracks">
      <div class="heads">
        <TrackHead
          v-for="{ track } in rows"
          :key="track.id"
          :track="track"
          :style="{ height: `${heights[track.kind]}px` }"
        />
      </div>
      <div
        ref="box"
        class="box"
        @wheel="onWheel"
        @dragstart.prevent
        @pointermove="onMove"
        @pointerup="onUp"
        @pointercancel="letGo"
        @dragover.prevent.stop="dragOver"
        @dragleave.self="dropping = null"
        @drop.prevent.stop="drop"
      >
        <div class="ruler" @pointerdown="seek" @pointermove="seek">
          <span v-for="mark in marks" :key="mark" class="figures quiet" :style="{ left: `${at(mark)}px` }">{{
            timecodeAt(timeline, mark)
          }}</span>
        </div>
        <div @pointerdown.self="pressEmpty">
          <div
            v-for="{ track, shown } in rows"
            :key="track.id"
            :style="{ height: `${heights[track.kind]}px` }"
            @pointerdown="
              ($event.target as HTMLElement).closest('.block, .edge, canvas') || pressEmpty($event)
            "
          >
            <StripTrack
              :track="track"
              :track-count="rows.length"
              :shown="shown"
              :findings="findings"
              :scale="scale"
              :frame-pixels="framePixels"
              :view="width"
              :selected="selection.selectedIds"
              @grip="press"
              @choose="choose"
            />
          </div>
        </div>
        <div class="playhead" :style="{ left: `${at(selection.playhead + 0.5)}px` }" />
        <div v-if="dropping" class="drop" :style="{ left: `${at(dropping.frame)}px` }">
          <span>{{ dropWords[dropping.how] }}</span>
        </div>
        <div
          v-if="lasso && Math.hypot(lasso.toX - lasso.x, lasso.toY - lasso.y) > 5"
          class="lasso"
          :style="{
            left: `${Math.min(lasso.x, lasso.toX)}px`,
            top: `${Math.min(lasso.y, lasso.toY)}px`,
            width: `${Math.abs(lasso.toX - lasso.x)}px`,
            height: `${Math.abs(lasso.toY - lasso.y)}px`,
          }"
        />
        <p v-if="selection.all.length === 0" class="quiet hint">
          Drag a clip here, or double-click it in the list.
        </p>
      </div>
    </div>
  </div>
</template>

<style scoped>
.strip {
  border-top: 1px solid var(--ink);
  flex: none;
  max-height: 320px;
  display: flex;
  flex-direction: column;
}
.tracks {
  display: grid;
  grid-template-columns: 96px minmax(0, 1fr);
  overflow: hidden auto;
  min-height: 0;
}
.heads {
  padding-top: 22px;
}
.box {
  position: relative;
  overflow: hidden;
  min-height: 112px;
  touch-action: none;
  /* Text that is selected would be dragged by the browser instead of what is taken hold of. */
  user-select: none;
}
.ruler {
  position: relative;
  height: 22px;
  box-sizing: border-box;
  border-bottom: 1px solid var(--ink);
  cursor: col-resize;
}
.ruler span {
  position: absolute;
  font-size: 11px;
  padding: 3px 0 0 4px;
  border-left: 1px solid var(--line);
  height: 18px;
  white-space: nowrap;
}
.playhead {
  position: absolute;
  top: 0;
  bottom: 0;
  border-left: 1.5px solid var(--accent);
  pointer-events: none;
}
.drop {
  position: absolute;
  top: 22px;
  bottom: 0;
  border-left: 2px solid var(--accent);
  pointer-events: none;
}
.drop span {
  background: var(--accent);
  color: var(--onAccent);
  padding: 1px 6px;
  font-size: 12px;
  white-space: nowrap;
}
.lasso {
  position: absolute;
  border: 1px dashed var(--accent);
  pointer-events: none;
}
.hint {
  position: absolute;
  top: 48px;
  left: 12px;
}
</style>
