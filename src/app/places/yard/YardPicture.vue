<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, ref, shallowRef, watch } from 'vue'
import { type Format, makeFormat, formatName, sameSize } from '../../../core/format/format'
import { equal } from '../../../core/rational/rational'
import { useProject } from '../../../stores/project'
import { useYard } from '../../../stores/yard'
import TallyMarks from '../../components/TallyMarks.vue'
import { layOut } from './map'

/** The yard: footage in its cells, the candidate as a frame that is moved by mouse and arrow keys. */
const project = useProject()
const yard = useYard()
const box = ref<HTMLElement | null>(null)
const { width, height } = useElementSize(box)

/** The candidate's row and column stay while it moves, so that the yard does not shift under the hand. */
const seen = shallowRef<readonly Format[]>([])
watch(
  () => yard.candidate,
  (format) => {
    if (format && !seen.value.some((f) => sameSize(f, format) && equal(f.rate, format.rate)))
      seen.value = [...seen.value, format]
  },
  { immediate: true },
)
const map = computed(() =>
  layOut(
    yard.ballot.blocs,
    yard.candidate,
    seen.value,
    project.doc!.project.policy,
    Math.max(300, width.value),
    Math.max(200, height.value),
  ),
)

function look(column: number, row: number) {
  const { columns, rows } = map.value
  const c = columns[Math.max(0, Math.min(columns.length - 1, column))]
  const r = rows[Math.max(0, Math.min(rows.length - 1, row))]
  if (c && r) yard.look(makeFormat(r.size, c.rate, 'progressive', yard.candidate?.colour))
}
function here(): [number, number] {
  const format = yard.candidate
  if (!format) return [0, 0]
  return [
    map.value.columns.findIndex((c) => equal(c.rate, format.rate)),
    map.value.rows.findIndex((r) => sameSize(r.size, format)),
  ]
}
function onKey(event: KeyboardEvent) {
  const [column, row] = here()
  const steps: Record<string, [number, number]> = {
    ArrowLeft: [-1, 0],
    ArrowRight: [1, 0],
    ArrowUp: [0, -1],
    ArrowDown: [0, 1],
  }
  const step = steps[event.key]
  if (step) look(column + step[0], row + step[1])
  else if (event.key === 'Escape') yard.look(null)
  else return
  event.preventDefault()
}
let dragging = false
function nearest(list: readonly number[], value: number) {
  return list.reduce((best, at, i) => (Math.abs(at - value) < Math.abs(list[best] - value) ? i : best), 0)
}
function onPointer(event: PointerEvent) {
  if (event.type === 'pointerdown') {
    dragging = true
    ;(event.currentTarget as Element).setPointerCapture(event.pointerId)
  } else if (event.type === 'pointerup' || event.type === 'pointercancel') dragging = false
  if (!dragging) return
  const bounds = box.value!.getBoundingClientRect()
  look(
    nearest(
      map.value.columns.map((c) => c.x),
      event.clientX - bounds.left,
    ),
    nearest(
      map.value.rows.map((r) => r.y),
      event.clientY - bounds.top,
    ),
  )
}
const says = computed(() => {
  const candidate = yard.candidate ? `The candidate is ${formatName(yard.candidate)}.` : ''
  return `${candidate} ${map.value.blocks.map((b) => `${b.says}: ${b.label || 'untouched'}`).join('; ')}. Arrow keys move the candidate.`
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
  >
    <svg :width="map.width" :height="map.height" aria-hidden="true">
      <defs>
        <pattern id="hatch" width="4" height="4" patternUnits="userSpaceOnUse">
          <path d="M0 2H4" stroke="var(--quiet)" stroke-width="0.8" />
        </pattern>
      </defs>
      <g v-for="column in map.columns" :key="column.name">
        <text :x="column.x" y="16" class="axis" text-anchor="middle">{{ column.name }}</text>
        <line :x1="column.x" :x2="column.x" y1="24" :y2="map.height - 6" class="dotted" />
      </g>
      <g v-for="row in map.rows" :key="row.name">
        <text x="108" :y="row.y + 4" class="axis" text-anchor="end" :class="{ small: row.name.length > 10 }">
          {{ row.name }}
        </text>
        <line x1="114" :x2="map.width - 8" :y1="row.y + 26" :y2="row.y + 26" class="rule" />
      </g>
      <g v-for="block in map.blocks" :key="`way ${block.key}`">
        <path
          v-if="block.path"
          :d="block.path"
          class="way"
          :class="block.grade"
          :stroke-width="block.stroke"
        />
      </g>
      <rect v-if="map.frame" v-bind="map.frame" class="candidate" />
      <g v-if="map.frame" class="corners">
        <rect
          v-for="corner in 4"
          :key="corner"
          width="7"
          height="7"
          :x="map.frame.x + (corner % 2 ? -3.5 : map.frame.width - 3.5)"
          :y="map.frame.y + (corner < 3 ? -3.5 : map.frame.height - 3.5)"
        />
      </g>
      <g v-for="block in map.blocks" :key="block.key">
        <rect :x="block.x" :y="block.y" :width="block.width" :height="block.height" class="block" />
        <rect
          v-if="block.interlaced"
          :x="block.x"
          :y="block.y"
          :width="block.width"
          :height="block.height"
          fill="url(#hatch)"
        />
        <svg :x="block.x" :y="block.y" :width="block.width" :height="block.height" overflow="visible">
          <g
            :transform="`translate(${block.width / 2 - Math.min(15, block.bloc.ids.length) * 2}, ${block.height / 2 - 5})`"
          >
            <TallyMarks :count="block.bloc.ids.length" :height="10" />
          </g>
        </svg>
        <text
          v-if="block.path && block.label"
          v-bind="block.labelAt"
          text-anchor="middle"
          class="label"
          :class="block.grade"
        >
          {{ block.label }}
        </text>
      </g>
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
.axis {
  font-family: var(--mono);
  font-size: 12.5px;
  fill: var(--ink);
}
.axis.small {
  font-size: 11px;
}
.dotted {
  stroke: var(--line);
  stroke-dasharray: 1 3;
}
.rule {
  stroke: var(--line);
}
.candidate {
  fill: none;
  stroke: var(--accent);
  stroke-width: 2.5;
}
.corners rect {
  fill: var(--accent);
}
.block {
  fill: var(--sheet);
  stroke: var(--ink);
  stroke-width: 1.2;
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
</style>
