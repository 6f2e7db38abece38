<script setup lang="ts">
import { computed, ref, shallowRef, watch } from 'vue'
import type { Finding } from '../../../../core/check/check'
import type { Placement, Track } from '../../../../core/model/timeline'
import { type Grade, grades } from '../../../../core/toll/grade'
import { counted } from '../../../../core/words/figures'
import { drawNarrow } from './narrow'
import StripBlock from './StripBlock.vue'
import type { TimeScale } from './time-scale'
import type { Grip } from './use-strip-drag'

/** A track with what of it is in view: blocks that can be read are drawn as such, narrower ones as lines in one picture. */
const props = defineProps<{
  track: Track
  /** How many tracks there are. */
  trackCount: number
  shown: readonly Placement[]
  findings: ReadonlyMap<string, Finding>
  scale: TimeScale
  framePixels: number
  view: number
  selected: ReadonlySet<string>
}>()
const emit = defineEmits<{
  grip: [placement: Placement, grip: Grip, event: PointerEvent]
  choose: [placement: Placement, event: MouseEvent]
}>()
/** So many blocks are drawn as such on all tracks together; where more are in view, only those that can be read well. */
const mostBlocks = 112
/** A block that is no wider than this, in pixels, can neither be read nor taken hold of. */
const [narrowAmongFew, narrowAmongMany] = [10, 56]
const narrowest = computed(() =>
  props.shown.length * props.trackCount > mostBlocks ? narrowAmongMany : narrowAmongFew,
)
const canvas = ref<HTMLCanvasElement | null>(null)
const at = (frame: number) => (frame - props.scale.from) * props.framePixels
/**
 * Blocks stand in pixels from a frame that stays for long, and the whole of them is shifted: whoever scrolls moves one thing. What is
 * out of view is told in steps, so that blocks in view do not change at every pixel.
 */
const origin = computed(() => {
  const step = Math.max(1, Math.floor(8000 / props.framePixels))
  return Math.floor(props.scale.from / step) * step
})
const shift = computed(() => (origin.value - props.scale.from) * props.framePixels)
const blocks = computed(() =>
  wide.value.map((placement) => {
    const { start, length } = placement
    const [left, width] = [(start - origin.value) * props.framePixels, length * props.framePixels]
    const [from, to] = [-shift.value - 2, -shift.value + props.view + 2]
    return {
      placement,
      left,
      width,
      before: Math.max(0, Math.min(width - 1, from - left)),
      after: Math.max(0, Math.min(width - 1, left + width - to)),
    }
  }),
)
const readable = computed(() =>
  props.shown.filter(
    ({ id, length }) => length * props.framePixels > narrowest.value || props.selected.has(id),
  ),
)
/** So many blocks are made in one frame: the others are drawn narrow until the next, so that no zoom waits for all of them. */
const madeAtOnce = 3
const drawnIds = shallowRef<ReadonlySet<string>>(new Set())
function makeMore() {
  const next = new Set<string>()
  let left = madeAtOnce
  for (const { id } of readable.value) if (drawnIds.value.has(id) || left-- > 0) next.add(id)
  if (next.size !== drawnIds.value.size || [...next].some((id) => !drawnIds.value.has(id)))
    drawnIds.value = next
  if (left < 0) requestAnimationFrame(makeMore)
}
watch(readable, makeMore, { immediate: true, flush: 'sync' })
const wide = computed(() =>
  readable.value.filter(({ id }) => drawnIds.value.has(id) || props.selected.has(id)),
)
const narrow = computed(() => {
  const drawn = new Set(wide.value.map(({ id }) => id))
  return props.shown.filter(({ id }) => !drawn.has(id))
})
watch(
  [canvas, narrow, () => props.scale, () => props.view, () => props.selected],
  () => {
    if (!canvas.value) return
    drawNarrow(
      canvas.value,
      narrow.value.map(({ id, start, length }) => ({
        left: at(start),
        width: length * props.framePixels,
        grade: props.findings.get(id)?.toll.grade ?? null,
        chosen: props.selected.has(id),
      })),
      props.view,
    )
  },
  { flush: 'post', immediate: true },
)
/** The same in words, for who does not see it. */
const says = computed(() => {
  const counts: Record<Grade, number> = { free: 0, light: 0, heavy: 0, severe: 0 }
  for (const { id } of narrow.value) {
    const grade = props.findings.get(id)?.toll.grade
    if (grade) counts[grade]++
  }
  const paid = grades.flatMap((grade) => (counts[grade] ? `${counts[grade]} ${grade}` : [])).join(', ')
  return `${counted(narrow.value.length, 'placement')} too narrow to be read${paid ? `: ${paid}` : ''}`
})
/** What of the narrow ones stands under a pointer. */
function under(event: MouseEvent): Placement | undefined {
  const box = canvas.value?.getBoundingClientRect()
  const frame = props.scale.from + (event.clientX - (box?.left ?? 0)) / props.framePixels
  return narrow.value.find(({ start, length }) => frame >= start && frame < start + length)
}
function click(event: MouseEvent) {
  const hit = under(event)
  if (!hit) return
  emit('choose', hit, event)
  event.stopPropagation()
}
function press(event: PointerEvent) {
  const hit = under(event)
  if (hit) emit('grip', hit, 'body', event)
}
</script>

<template>
  <div class="track" :class="[track.kind, { dim: track.hidden || track.muted, locked: track.locked }]">
    <canvas
      v-if="narrow.length"
      ref="canvas"
      class="narrow"
      role="img"
      :aria-label="says"
      @click="click"
      @pointerdown="press"
    />
    <div class="blocks" :style="{ transform: `translateX(${shift}px)` }">
      <StripBlock
        v-for="{ placement, left, width, before, after } in blocks"
        :key="placement.id"
        :placement="placement"
        :finding="findings.get(placement.id) ?? null"
        :kind="track.kind"
        :left="left"
        :width="width"
        :before="before"
        :after="after"
        :chosen="selected.has(placement.id)"
        :locked="track.locked"
        @grip="(grip, event) => emit('grip', placement, grip, event)"
        @choose="emit('choose', placement, $event)"
      />
    </div>
  </div>
</template>

<style scoped>
.track {
  position: relative;
  height: 100%;
  border-bottom: 1px solid var(--line);
  box-sizing: border-box;
}
.narrow {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
}
/* What is drawn narrow lies beneath, and is pressed between the blocks. */
.blocks {
  position: absolute;
  inset: 0;
  pointer-events: none;
}
.blocks > * {
  pointer-events: auto;
}
.dim {
  opacity: 0.45;
}
.locked {
  background: repeating-linear-gradient(135deg, transparent 0 7px, var(--line) 7px 8px);
}
</style>
