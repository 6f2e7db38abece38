<script setup lang="ts">
import { computed } from 'vue'
import type { Clip } from '../../../../core/model/clip'
import type { PictureArea } from '../../../../core/evidence/view'
import { decodedSizeOf } from '../../../../core/model/clip'
import { present } from '../../../../core/assert'

/** What is marked on a frame: blocks that comb, or the edges of baked bars. Drawn over it, turned as it is. */
const props = defineProps<{ clip: Clip; blocks: readonly PictureArea[]; edges: boolean }>()

const video = computed(() => present(props.clip.reading?.video, 'only what has a picture is marked'))
const stored = computed(() => decodedSizeOf(props.clip) ?? video.value)
const crop = computed(() => props.clip.corrections.crop)
/** The stored pixels that are shown: all, or what a correction leaves of them. */
const origin = computed(() => ({ x: crop.value?.left ?? 0, y: crop.value?.top ?? 0 }))
const turn = computed(() => {
  const { width, height, rotation } = video.value
  return {
    0: '',
    90: `translate(${height} 0) rotate(90)`,
    180: `translate(${width} ${height}) rotate(180)`,
    270: `translate(0 ${width}) rotate(270)`,
  }[rotation]
})
const box = computed(() => {
  const { width, height, rotation } = video.value
  return rotation % 180 === 0 ? `0 0 ${width} ${height}` : `0 0 ${height} ${width}`
})
/** Bars as rectangles of the stored picture. */
const bars = computed<PictureArea[]>(() => {
  const found = props.clip.evidence?.bars
  if (!props.edges || !found) return []
  const { width, height } = stored.value
  const { top, bottom, left, right } = found
  return [
    { x: 0, y: 0, width, height: top },
    { x: 0, y: height - bottom, width, height: bottom },
    { x: 0, y: top, width: left, height: height - top - bottom },
    { x: width - right, y: top, width: right, height: height - top - bottom },
  ].filter((bar) => bar.width > 0 && bar.height > 0)
})
</script>

<template>
  <svg :viewBox="box" preserveAspectRatio="none" aria-hidden="true">
    <g :transform="turn">
      <g :transform="`translate(${-origin.x} ${-origin.y})`">
        <rect v-for="(block, i) in blocks" :key="i" v-bind="block" class="block" />
        <rect v-for="(bar, i) in bars" :key="`bar ${i}`" v-bind="bar" class="bar" />
      </g>
    </g>
  </svg>
</template>

<style scoped>
svg {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
}
.block {
  fill: color-mix(in srgb, var(--severe) 28%, transparent);
  stroke: var(--severe);
  stroke-width: 1;
}
.bar {
  fill: none;
  stroke: #e2a23b;
  stroke-width: 3;
  stroke-dasharray: 10 7;
}
</style>
