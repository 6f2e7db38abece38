<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { Button } from 'ant-design-vue'
import { computed, ref, shallowRef, watch } from 'vue'
import { placementAt } from '../../../core/edit/layers'
import { type Placement, type Timeline, lengthOf, placementsIn } from '../../../core/edit/timeline'
import type { Format } from '../../../core/format/format'
import { frameToTimecode, nominalRate } from '../../../core/rate/timecode'
import { useTimelines } from '../../../stores/timelines'
import StripBlock from './StripBlock.vue'
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

/**
 * The cut on a time scale of its own, which zooms and scrolls; each clip with its toll. Only what is in view is drawn. The
 * playhead is moved by mouse and keys.
 */
const props = defineProps<{ timeline: Timeline; format: Format }>()
const playhead = defineModel<number>('playhead', { required: true })
const selected = defineModel<string | null>('selected', { required: true })
const emit = defineEmits<{ remove: []; cut: [] }>()
const timelines = useTimelines()
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
const scale = computed(() => chosen.value ?? fitted(total.value, rate.value, Math.max(1, width.value)))
const at = (frame: number) => pixelOf(scale.value, rate.value, frame)
const framePixels = computed(() => perFrame(scale.value, rate.value))

const tracks = computed(() =>
  props.timeline.tracks
    .filter((track) => track.kind === 'video' || track.placements.length)
    .map((track) => ({
      track,
      shown: inView(track.placements, scale.value, rate.value, Math.max(1, width.value)),
    })),
)
const marks = computed(() => rulerMarks(scale.value, rate.value, Math.max(1, width.value)))
const placed = computed(() => placementsIn(props.timeline))

const pixelIn = (event: { clientX: number }) => event.clientX - (box.value?.getBoundingClientRect().left ?? 0)
function seek(event: PointerEvent) {
  if (event.type === 'pointermove' && event.buttons !== 1) return
  goTo(frameAtPixel(scale.value, rate.value, pixelIn(event)))
}
const goTo = (frame: number) => (playhead.value = Math.max(0, Math.min(total.value - 1, frame)))
// What is looked at stays in sight.
watch(playhead, (frame) => {
  if (!chosen.value || (at(frame) >= 0 && at(frame) <= width.value)) return
  const beyond = at(frame) < 0 ? at(frame) - width.value * 0.2 : at(frame) - width.value * 0.8
  chosen.value = scrolled(scale.value, rate.value, beyond, total.value, width.value)
})

function zoom(by: number, pixel = at(playhead.value)) {
  const within = Math.max(0, Math.min(width.value, pixel))
  const next = zoomed(scale.value, rate.value, by, within)
  const whole = fitted(total.value, rate.value, width.value)
  chosen.value = next.perSecond <= whole.perSecond ? null : next
}
function onWheel(event: WheelEvent) {
  if (event.ctrlKey || event.metaKey) zoom(event.deltaY < 0 ? 1.25 : 0.8, pixelIn(event))
  else if (chosen.value)
    chosen.value = scrolled(scale.value, rate.value, event.deltaX || event.deltaY, total.value, width.value)
  else return
  event.preventDefault()
}

function choose(placement: Placement) {
  selected.value = placement.id
  if (playhead.value < placement.start || playhead.value >= placement.start + placement.length)
    goTo(placement.start)
}
function onKey(event: KeyboardEvent) {
  const cuts = [0, ...placed.value.flatMap((p) => [p.start, p.start + p.length])].sort((a, b) => a - b)
  const second = nominalRate(rate.value)
  const inHand = placed.value.find(({ id }) => id === selected.value)
  const step = (by: 1 | -1) => goTo(playhead.value + by * (event.shiftKey ? second : 1))
  const move = (by: 1 | -1) => inHand && timelines.move(inHand, by)
  const does: Record<string, () => void> = {
    ArrowLeft: () => step(-1),
    ArrowRight: () => step(1),
    ArrowUp: () => goTo(cuts.findLast((c) => c < playhead.value) ?? 0),
    ArrowDown: () => goTo(cuts.find((c) => c > playhead.value) ?? total.value),
    Home: () => goTo(0),
    End: () => goTo(total.value - 1),
    Enter: () => {
      const under = props.timeline.tracks.map((track) => placementAt(track, playhead.value)).find(Boolean)
      if (under) selected.value = under.id
    },
    Escape: () => (selected.value = null),
    Delete: () => emit('remove'),
    '/': () => emit('cut'),
    e: () => move(-1),
    l: () => move(1),
    '+': () => zoom(2),
    '-': () => zoom(0.5),
    '0': () => (chosen.value = null),
  }
  const act = does[event.key]
  if (!act || event.ctrlKey || event.metaKey || event.altKey) return
  act()
  event.preventDefault()
}
</script>

<template>
  <div
    class="strip"
    role="group"
    aria-label="The cut to scale: arrow keys move the playhead, up and down go from cut to cut, Enter selects, Delete takes out, slash cuts, plus and minus zoom"
    tabindex="0"
    @keydown="onKey"
  >
    <div class="scale">
      <span class="quiet figures">{{
        chosen ? `${Math.round(scale.perSecond)} px a second` : 'all of it in view'
      }}</span>
      <Button size="small" aria-label="Zoom out" @click="zoom(0.5)">−</Button>
      <Button size="small" aria-label="Zoom in" @click="zoom(2)">+</Button>
      <Button size="small" :disabled="!chosen" @click="chosen = null">Whole</Button>
    </div>
    <div ref="box" class="box" @pointerdown="seek" @pointermove="seek" @wheel="onWheel">
      <div class="ruler">
        <span v-for="mark in marks" :key="mark" class="figures quiet" :style="{ left: `${at(mark)}px` }">{{
          frameToTimecode(mark, rate)
        }}</span>
      </div>
      <div v-for="{ track, shown } in tracks" :key="track.id" class="track" :class="track.kind">
        <StripBlock
          v-for="placement in shown"
          :key="placement.id"
          :timeline="timeline"
          :placement="placement"
          :format="format"
          :left="at(placement.start)"
          :width="placement.length * framePixels"
          :view="width"
          :chosen="selected === placement.id"
          @choose="choose(placement)"
        />
      </div>
      <div class="playhead" :style="{ left: `${at(playhead + 0.5)}px` }" />
      <p v-if="placed.length === 0" class="quiet hint">Drag a clip here, or double-click it in the list.</p>
    </div>
  </div>
</template>

<style scoped>
.strip {
  border-top: 1px solid var(--ink);
  flex: none;
}
.scale {
  display: flex;
  gap: 6px;
  align-items: center;
  justify-content: flex-end;
  padding: 3px 0;
  font-size: 12px;
}
.box {
  position: relative;
  overflow: hidden;
  min-height: 112px;
}
.ruler {
  position: relative;
  height: 22px;
  border-bottom: 1px solid var(--ink);
}
.ruler span {
  position: absolute;
  font-size: 11px;
  padding: 3px 0 0 4px;
  border-left: 1px solid var(--line);
  height: 100%;
  white-space: nowrap;
}
.track {
  position: relative;
  height: 88px;
  margin-top: 6px;
}
.track.audio {
  height: 34px;
}
.playhead {
  position: absolute;
  top: 0;
  bottom: 0;
  width: 2px;
  margin-left: -1px;
  background: var(--accent);
  pointer-events: none;
}
.hint {
  position: absolute;
  top: 50px;
  left: 8px;
}
</style>
