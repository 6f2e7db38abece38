<script setup lang="ts">
import { computed } from 'vue'

/** Four strokes and a slash for each five; a figure where marks would no longer be read at a glance. */
const props = withDefaults(defineProps<{ count: number; height?: number; most?: number }>(), {
  height: 14,
  most: 15,
})

const strokes = computed(() => {
  const gap = props.height * 0.32
  const lines: { x1: number; y1: number; x2: number; y2: number }[] = []
  let x = 1
  for (let left = props.count; left > 0; left -= 5) {
    const upright = Math.min(4, left)
    for (let i = 0; i < upright; i++)
      lines.push({ x1: x + i * gap, y1: 1, x2: x + i * gap, y2: props.height - 1 })
    if (left >= 5) lines.push({ x1: x - gap * 0.6, y1: props.height - 3, x2: x + gap * 3.6, y2: 3 })
    x += gap * (upright + 1.2)
  }
  return { lines, width: x }
})
</script>

<template>
  <svg v-if="count <= most" :width="strokes.width" :height="height" role="img" :aria-label="String(count)">
    <line
      v-for="(line, i) in strokes.lines"
      :key="i"
      v-bind="line"
      stroke="currentColor"
      stroke-width="1.5"
    />
  </svg>
  <span v-else class="figures">{{ count }}</span>
</template>
