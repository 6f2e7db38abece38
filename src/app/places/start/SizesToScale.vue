<script setup lang="ts">
import { type FrameSize, displaySize, sizeKey } from '../../../core/picture/size'
import { computed } from 'vue'
import { pixelSizeName, tradeName } from '../../../core/format/format'

/** Frame sizes drawn into each other to one scale, from a common corner; the chosen one stands out. */
const props = defineProps<{ sizes: readonly FrameSize[]; chosen: FrameSize | null }>()

const width = 336
const height = 214
/** Room for a line of text above a frame. */
const line = 13

const isChosen = (size: FrameSize) => props.chosen !== null && sizeKey(size) === sizeKey(props.chosen)
const frames = computed(() => {
  const shown = [...props.sizes]
  if (props.chosen && !shown.some(isChosen)) shown.push(props.chosen)
  const drawn = shown.map((size) => ({ size, ...displaySize(size) }))
  const widest = Math.max(1, ...drawn.map((frame) => frame.width))
  const tallest = Math.max(1, ...drawn.map((frame) => frame.height))
  const scale = Math.min((width - 2) / widest, (height - line - 2) / tallest)
  const placed = drawn
    .map(({ size, ...frame }) => ({ size, width: frame.width * scale, height: frame.height * scale }))
    .sort((a, b) => b.width * b.height - a.width * a.height)
  // A name that would stand on another is left out; the chosen one always has its own.
  const named: number[] = placed.filter(({ size }) => isChosen(size)).map((frame) => frame.height)
  return placed.map((frame) => {
    const chosen = isChosen(frame.size)
    const free = chosen || named.every((other) => Math.abs(other - frame.height) >= line)
    if (free && !chosen) named.push(frame.height)
    return { ...frame, chosen, name: free ? (tradeName(frame.size) ?? pixelSizeName(frame.size)) : '' }
  })
})
const says = computed(() =>
  frames.value.map(({ size, chosen }) => `${pixelSizeName(size)}${chosen ? ', chosen' : ''}`).join('; '),
)
</script>

<template>
  <svg :viewBox="`0 0 ${width} ${height}`" role="img" :aria-label="`To scale: ${says}`">
    <g v-for="frame in frames" :key="sizeKey(frame.size)" :class="{ chosen: frame.chosen }">
      <rect x="1" :y="height - 1 - frame.height" :width="frame.width" :height="frame.height" />
      <text x="5" :y="height - 1 - frame.height + 11">{{ frame.name }}</text>
    </g>
  </svg>
</template>

<style scoped>
svg {
  width: 100%;
  max-width: 336px;
  display: block;
}
rect {
  fill: none;
  stroke: var(--quiet);
  stroke-width: 1;
}
text {
  font: 10px var(--mono);
  fill: var(--quiet);
}
.chosen rect {
  stroke: var(--accent);
  stroke-width: 2.5;
}
.chosen text {
  fill: var(--ink);
  font-weight: 600;
}
</style>
