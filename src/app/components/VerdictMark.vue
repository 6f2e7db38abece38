<script setup lang="ts">
import type { Measured } from '../../core/inspect/measured'

/** What was measured as a small shape: lines that do not meet, two alike, a small one in a large one, a picture between bars. */
defineProps<{ kind: Measured['kind'] }>()
</script>

<template>
  <svg viewBox="0 0 12 12" width="12" height="12" aria-hidden="true" :class="kind">
    <g v-if="kind === 'combed'">
      <path d="M1 2h7M4 4.7h7M1 7.3h7M4 10h7" />
    </g>
    <g v-else-if="kind === 'repeats' || kind === 'pulldown'">
      <rect x="1" y="1" width="7" height="7" />
      <path d="M10.5 4v6.5H4" />
    </g>
    <g v-else-if="kind === 'enlarged'">
      <rect x="1" y="1" width="10" height="10" />
      <rect x="1" y="6" width="5" height="5" class="filled" />
    </g>
    <g v-else-if="kind === 'bars'">
      <path d="M1 1.5h10M1 10.5h10" class="thick" />
      <rect x="1" y="3.5" width="10" height="5" />
    </g>
    <g v-else-if="kind === 'mixed'">
      <path d="M1 11 11 1M1 1h4M7 11h4" />
    </g>
    <circle v-else cx="6" cy="6" r="1.6" class="filled" />
  </svg>
</template>

<style scoped>
svg {
  vertical-align: -1px;
  fill: none;
  stroke: currentColor;
  stroke-width: 1.3;
}
.filled {
  fill: currentColor;
}
.thick {
  stroke-width: 2.4;
}
.combed,
.mixed {
  color: var(--severe);
}
.repeats,
.pulldown,
.bars,
.enlarged {
  color: var(--heavy);
}
</style>
