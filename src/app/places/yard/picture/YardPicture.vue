<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, ref, shallowRef, watch } from 'vue'
import { type Format, formatName, makeFormat } from '../../../../core/format/format'
import { hasInterlacedStandard } from '../../../../core/format/standard'
import { useYard } from '../../../../stores/yard'
import YardGrid from './YardGrid.vue'
import { cellOf, layOutGrid } from './grid'
import { waysTo } from './grid-paths'

/** The yard: footage in its cells, the candidate as a frame that is moved by mouse and arrow keys. */
const yard = useYard()
const box = ref<HTMLElement | null>(null)
const { width, height } = useElementSize(box)

/** Rows and columns of what was tried stay, so that the yard does not shift under the hand. */
const tried = shallowRef<readonly Format[]>([])
const grid = computed(() =>
  layOutGrid(yard.ballot.blocs, tried.value, Math.max(300, width.value), Math.max(200, height.value)),
)
watch(
  () => yard.candidate,
  (format) => {
    if (!format) return
    const { column, row } = cellOf(grid.value, format)
    if (column < 0 || row < 0) tried.value = [...tried.value, format]
  },
  { immediate: true },
)
/** The frame and the ways change with every step, the grid does not. */
const moving = computed(() =>
  yard.candidate ? waysTo(grid.value, yard.candidate, yard.table) : { frame: null, ways: [] },
)

function look(column: number, row: number) {
  const { columns, rows } = grid.value
  const c = columns[Math.max(0, Math.min(columns.length - 1, column))]
  const r = rows[Math.max(0, Math.min(rows.length - 1, row))]
  if (!c || !r) return
  // Fields are kept where a standard carries them.
  const from = yard.aimed ?? yard.candidate
  const fields = from?.scan === 'interlaced' && hasInterlacedStandard(r.size, c.rate)
  yard.aim(makeFormat(r.size, c.rate, fields ? 'interlaced' : 'progressive', from?.colour))
}
function onKey(event: KeyboardEvent) {
  const steps: Record<string, [number, number]> = {
    ArrowLeft: [-1, 0],
    ArrowRight: [1, 0],
    ArrowUp: [0, -1],
    ArrowDown: [0, 1],
  }
  const step = steps[event.key]
  if (step) {
    // Before the first ranking is there, nothing stands anywhere that could be moved.
    const from = yard.aimed ?? yard.candidate
    const at = from && cellOf(grid.value, from)
    if (at) look(at.column + step[0], at.row + step[1])
  } else if (event.key === 'Escape') yard.look(null)
  else return
  event.preventDefault()
}
let dragging = false
function nearest(list: readonly number[], value: number) {
  return list.reduce(
    (best, at, i) => (Math.abs(at - value) < Math.abs((list[best] ?? Infinity) - value) ? i : best),
    0,
  )
}
function onPointer(event: PointerEvent) {
  if (event.type === 'pointerdown') {
    dragging = true
    ;(event.currentTarget as Element).setPointerCapture(event.pointerId)
  } else if (event.type === 'pointerup' || event.type === 'pointercancel') dragging = false
  const bounds = box.value?.getBoundingClientRect()
  if (!bounds) return
  if (!dragging) {
    pointedAt.value = { x: event.clientX - bounds.left, y: event.clientY - bounds.top }
    return
  }
  pointedAt.value = null
  look(
    nearest(
      grid.value.columns.map((c) => c.x),
      event.clientX - bounds.left,
    ),
    nearest(
      grid.value.rows.map((r) => r.y),
      event.clientY - bounds.top,
    ),
  )
}
/** What the block under the pointer pays, in full: its label may have found no room. */
const pointedAt = shallowRef<{ x: number; y: number } | null>(null)
const pointed = computed(() => {
  const at = pointedAt.value
  const way =
    at &&
    moving.value.ways.find(
      ({ block }) =>
        Math.abs(block.x - at.x) <= block.width / 2 && Math.abs(block.y - at.y) <= block.height / 2,
    )
  if (!way) return null
  const text = `${way.block.says}: ${way.label || 'untouched'}`
  const half = text.length * 2.9
  const x = Math.min(grid.value.width - half, Math.max(half, way.block.x))
  return { text, grade: way.grade, at: { x, y: way.block.y - way.block.height / 2 - 6 } }
})
const says = computed(() => {
  const candidate = yard.candidate ? `The candidate is ${formatName(yard.candidate)}.` : ''
  return `${candidate} ${moving.value.ways.map((w) => `${w.block.says}: ${w.label || 'untouched'}`).join('; ')}. Arrow keys move the candidate.`
})
</script>

<template>
  <div
    ref="box"
    class="yard"
    role="application"
    aria-roledescription="yard of frame sizes and rates"
    :aria-label="says"
    tabindex="0"
    @keydown="onKey"
    @pointerdown="onPointer"
    @pointermove="onPointer"
    @pointerup="onPointer"
    @pointercancel="onPointer"
    @pointerleave="pointedAt = null"
  >
    <svg :width="grid.width" :height="grid.height" aria-hidden="true">
      <YardGrid :grid="grid">
        <template v-for="{ block, grade, path } in moving.ways" :key="block.key">
          <path v-if="path" :d="path" class="way" :class="grade" :stroke-width="1 + 2.5 * block.share" />
        </template>
        <rect v-if="moving.frame" v-bind="moving.frame" class="candidate" />
        <g v-if="moving.frame" class="corners">
          <rect
            v-for="corner in 4"
            :key="corner"
            width="7"
            height="7"
            :x="moving.frame.x + (corner % 2 ? -3.5 : moving.frame.width - 3.5)"
            :y="moving.frame.y + (corner < 3 ? -3.5 : moving.frame.height - 3.5)"
          />
        </g>
      </YardGrid>
      <template v-for="{ block, grade, label, labelAt } in moving.ways" :key="block.key">
        <text v-if="label && labelAt" v-bind="labelAt" text-anchor="middle" class="label" :class="grade">
          {{ label }}
        </text>
      </template>
      <text
        v-if="pointed"
        v-bind="pointed.at"
        text-anchor="middle"
        class="label pointed"
        :class="pointed.grade"
      >
        {{ pointed.text }}
      </text>
    </svg>
  </div>
</template>

<style scoped>
.yard {
  contain: strict;
  height: 100%;
  min-height: 0;
  touch-action: none;
  cursor: crosshair;
  overflow: hidden;
  user-select: none;
}
svg {
  display: block;
}
.candidate {
  fill: none;
  stroke: var(--accent);
  stroke-width: 2.5;
}
.corners rect {
  fill: var(--accent);
}
.way {
  fill: none;
  stroke: currentColor;
  opacity: 0.45;
}
.label {
  font-size: 10.5px;
  font-weight: 600;
  fill: currentColor;
  paint-order: stroke;
  stroke: var(--paper);
  stroke-width: 3px;
}
.pointed {
  font-size: 12px;
  stroke-width: 8px;
}
</style>
