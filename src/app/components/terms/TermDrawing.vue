<script setup lang="ts">
import { usePreferredReducedMotion, useRafFn } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { type Drawing, type DrawnShape, boxHeight, boxWidth } from '../../../core/terms/drawing'

/** A drawing of the core, on paper: it moves unless less motion is asked for, then it is stepped through by hand. */
const props = defineProps<{ drawing: Drawing }>()
const motion = usePreferredReducedMotion()
const seconds = ref(0)
const { pause, resume } = useRafFn(
  ({ timestamp }) => (seconds.value = (timestamp / 1000) % props.drawing.lasts),
  { immediate: false },
)
const moves = computed(() => props.drawing.lasts > 0 && motion.value !== 'reduce')
watch(
  [moves, () => props.drawing],
  () => {
    seconds.value = 0
    if (moves.value) resume()
    else pause()
  },
  { immediate: true },
)
const step = () => (seconds.value = (seconds.value + props.drawing.lasts / 8) % props.drawing.lasts)
const shapes = computed(() => props.drawing.at(seconds.value))

const tone = (name: string | undefined) => (name ? `var(--${name})` : 'none')
const painted = (shape: { fill?: string; stroke?: string; share?: number }) => ({
  fill: tone(shape.fill),
  stroke: tone(shape.stroke),
  ...(shape.share === undefined ? {} : { 'fill-opacity': shape.share }),
})
const path = (points: readonly (readonly [number, number])[]) =>
  points.map(([x, y], i) => `${i ? 'L' : 'M'}${x.toFixed(2)} ${y.toFixed(2)}`).join('')

/** Samples as a picture that the browser enlarges; made once for each set of values. */
const labels = new WeakMap<object, string>()
function pictureOf({ columns, rows, values, inColour }: DrawnShape & { kind: 'samples' }): string {
  const known = labels.get(values)
  if (known) return known
  const canvas = document.createElement('canvas')
  canvas.width = columns
  canvas.height = rows
  const context = canvas.getContext('2d')
  const image = new ImageData(columns, rows)
  const each = inColour ? 3 : 1
  for (let i = 0; i < columns * rows; i++) {
    for (let k = 0; k < 3; k++) image.data[4 * i + k] = values[each * i + (inColour ? k : 0)] ?? 0
    image.data[4 * i + 3] = 255
  }
  context?.putImageData(image, 0, 0)
  const url = canvas.toDataURL()
  labels.set(values, url)
  return url
}
</script>

<template>
  <figure>
    <svg :viewBox="`-1 -1 ${boxWidth + 2} ${boxHeight + 2}`" role="img" :aria-label="drawing.says">
      <template v-for="(shape, i) in shapes" :key="i">
        <rect
          v-if="shape.kind === 'rect'"
          :x="shape.x"
          :y="shape.y"
          :width="shape.width"
          :height="shape.height"
          v-bind="painted(shape)"
        />
        <ellipse
          v-else-if="shape.kind === 'ellipse'"
          :cx="shape.x"
          :cy="shape.y"
          :rx="shape.rx"
          :ry="shape.ry"
          v-bind="painted(shape)"
        />
        <path v-else-if="shape.kind === 'path'" :d="path(shape.points)" v-bind="painted(shape)" />
        <image
          v-else-if="shape.kind === 'samples'"
          :x="shape.x"
          :y="shape.y"
          :width="shape.width"
          :height="shape.height"
          :href="pictureOf(shape)"
          preserveAspectRatio="none"
        />
        <text
          v-else
          :x="shape.x"
          :y="shape.y"
          :text-anchor="shape.anchor ?? 'start'"
          :fill="tone(shape.tone ?? 'ink')"
        >
          {{ shape.text }}
        </text>
      </template>
    </svg>
    <button v-if="drawing.lasts > 0 && !moves" class="word" @click="step">a step on</button>
  </figure>
</template>

<style scoped>
svg {
  display: block;
  width: 100%;
  overflow: hidden;
}
text {
  font: 10.5px var(--sans);
}
image {
  image-rendering: pixelated;
}
</style>
