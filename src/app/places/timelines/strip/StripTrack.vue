<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import type { Finding } from '../../../../core/check/check'
import type { Placement, Track } from '../../../../core/edit/timeline'
import { drawNarrow } from './narrow'
import StripBlock from './StripBlock.vue'
import type { TimeScale } from './time-scale'
import type { Grip } from './use-strip-drag'

/** A track with what of it is in view: blocks that can be read are drawn as such, narrower ones as lines in one picture. */
const props = defineProps<{
  track: Track
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
/** A block that is no wider than this, in pixels, can neither be read nor taken hold of. */
const narrowest = 14
const canvas = ref<HTMLCanvasElement | null>(null)
const at = (frame: number) => (frame - props.scale.from) * props.framePixels
const wide = computed(() =>
  props.shown.filter(({ id, length }) => length * props.framePixels > narrowest || props.selected.has(id)),
)
const narrow = computed(() => props.shown.filter(({ length }) => length * props.framePixels <= narrowest))
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
    <canvas v-if="narrow.length" ref="canvas" class="narrow" @click="click" @pointerdown="press" />
    <StripBlock
      v-for="placement in wide"
      :key="placement.id"
      :placement="placement"
      :finding="findings.get(placement.id) ?? null"
      :kind="track.kind"
      :left="at(placement.start)"
      :width="placement.length * framePixels"
      :view="view"
      :chosen="selected.has(placement.id)"
      :locked="track.locked"
      @grip="(grip, event) => emit('grip', placement, grip, event)"
      @choose="emit('choose', placement, $event)"
    />
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
.dim {
  opacity: 0.45;
}
.locked {
  background: repeating-linear-gradient(135deg, transparent 0 7px, var(--line) 7px 8px);
}
</style>
