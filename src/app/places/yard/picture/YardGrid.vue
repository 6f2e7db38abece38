<script setup lang="ts">
import { computed } from 'vue'
import TallyMarks from '../../../components/TallyMarks.vue'
import type { Grid } from './grid'

/** The yard at rest: its rates and sizes, and the footage with its tally marks. What moves lies between the two. */
const props = defineProps<{ grid: Grid }>()
/** More are not read at a glance. */
const mostMarks = 15
/** Rows are ruled below the words of their blocks, however many rows there are. */
const below = computed(() => Math.max(26, props.grid.step.y / 2))
</script>

<template>
  <defs>
    <pattern id="hatch" width="4" height="4" patternUnits="userSpaceOnUse">
      <path d="M0 2H4" stroke="var(--quiet)" stroke-width="0.8" />
    </pattern>
  </defs>
  <g v-memo="[grid]">
    <g v-for="column in grid.columns" :key="column.name">
      <text :x="column.x" y="16" class="axis" text-anchor="middle">{{ column.name }}</text>
      <line :x1="column.x" :x2="column.x" y1="24" :y2="grid.height - 6" class="dotted" />
    </g>
    <g v-for="row in grid.rows" :key="row.name">
      <text x="108" :y="row.y + 4" class="axis" text-anchor="end" :class="{ small: row.name.length > 10 }">
        {{ row.name }}
      </text>
      <line x1="114" :x2="grid.width - 8" :y1="row.y + below" :y2="row.y + below" class="rule" />
    </g>
  </g>
  <slot />
  <g v-memo="[grid]">
    <g
      v-for="{ key, bloc, x, y, width, height } in grid.blocks"
      :key="key"
      :transform="`translate(${x}, ${y})`"
    >
      <rect :x="-width / 2" :y="-height / 2" :width="width" :height="height" class="block" />
      <rect
        v-if="bloc.picture.scan === 'interlaced'"
        :x="-width / 2"
        :y="-height / 2"
        :width="width"
        :height="height"
        fill="url(#hatch)"
      />
      <g v-if="bloc.ids.length <= mostMarks" :transform="`translate(${-bloc.ids.length * 2}, -5)`">
        <TallyMarks :count="bloc.ids.length" :height="10" />
      </g>
      <text v-else class="count" text-anchor="middle" y="4">{{ bloc.ids.length }}</text>
    </g>
  </g>
</template>

<style scoped>
.axis {
  font-family: var(--mono);
  font-size: 12.5px;
  fill: var(--ink);
}
.count {
  font-family: var(--mono);
  font-size: 11px;
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
.block {
  fill: var(--sheet);
  stroke: var(--ink);
  stroke-width: 1.2;
}
</style>
