<script setup lang="ts">
import { computed, ref } from 'vue'
import { type Layer, layersAt } from '../../../../core/plan/layers'
import type { Timeline } from '../../../../core/model/timeline'
import type { Format } from '../../../../core/format/format'
import { shownWords } from '../../../../core/motion/words'
import { useSelection } from '../../../../stores/selection'
import { useProject } from '../../../../stores/document/project'
import type { Region } from '../../../../media/play/paint'
import { usePainter } from '../../../picture/use-painter'

/** A part of a timeline's frame as the plan says it: quickly while it moves, by the exact kernels once it rests. */
const props = defineProps<{
  timeline: Timeline
  format: Format
  frame: number
  region: Region
  /** On screen, in CSS pixels. */
  width: number
  height: number
  /** Whether pixels are seen as blocks. */
  magnified: boolean
  /** Layers that are shown instead of the timeline's: a clip that is not placed yet. */
  instead?: readonly Layer[] | null
}>()
const project = useProject()
const selection = useSelection()
const canvas = ref<HTMLCanvasElement | null>(null)

const layers = computed(() => props.instead ?? layersAt(project.opened, props.timeline, props.frame))
/** What is told in words: what is in hand where it is seen, else what lies on top. */
const top = computed(
  () =>
    layers.value.find(({ placementId }) => selection.selectedIds.has(placementId)) ??
    layers.value.at(-1) ??
    null,
)
const name = computed(() => {
  const source = top.value?.source
  if (!source) return null
  if (source.kind === 'clip') return project.opened.clips[source.clipId]?.name ?? 'a clip'
  return source.kind === 'timeline'
    ? (project.opened.timelines[source.timelineId]?.name ?? null)
    : 'test figure'
})
const says = computed(() => (top.value ? shownWords(top.value.shown) : ''))
/** Tells one picture from another: what is shown, how it lies, and which part is looked at. */
const key = computed(() =>
  JSON.stringify([
    layers.value,
    props.region,
    props.width,
    props.height,
    props.magnified,
    props.format,
    selection.field,
  ]),
)
const { trouble, painted, exact } = usePainter(canvas, () => {
  if (props.width <= 1) return null
  const ratio = window.devicePixelRatio || 1
  const [width, height] = [props.width, props.height].map((side) => Math.max(1, Math.round(side * ratio)))
  return {
    key: key.value,
    // A field alone is told apart quickly; the whole frame is made exactly.
    exactIn: selection.field === 'both' ? props.format : undefined,
    widest: props.magnified ? 8192 : 1920,
    painting: {
      layers: layers.value,
      region: props.region,
      width: width ?? 1,
      height: height ?? 1,
      scaling: props.magnified ? 'pixels' : 'smooth',
      throughRaster: props.magnified,
      ...(selection.field === 'both' ? {} : { field: selection.field }),
      background: getComputedStyle(document.documentElement).getPropertyValue('--ground'),
    },
  }
})
const pending = computed(() => !trouble.value && painted.value !== key.value)
/** The number of the source frame on screen, where it is one whole frame. */
const sourceFrame = computed(() =>
  !pending.value && top.value?.shown.kind === 'frame' ? top.value.shown.index : '',
)
defineExpose({ name, says, pending, exact, trouble, top })
</script>

<template>
  <canvas
    ref="canvas"
    :style="{ width: `${width}px`, height: `${height}px` }"
    role="img"
    :aria-label="top ? `${name}, ${says}` : 'Nothing is placed here'"
    :data-source-frame="sourceFrame"
    :data-shown="pending ? '' : says"
    :data-exact="!pending && exact"
  />
</template>

<style scoped>
canvas {
  display: block;
}
</style>
