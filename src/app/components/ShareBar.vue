<script setup lang="ts">
import { type Grade, grades } from '../../core/toll/grade'
import { percent } from '../../core/words/figures'

/** Shares of running time by grade, as one ruled strip. */
const props = defineProps<{ shares: Readonly<Record<Grade, number>> }>()
const says = () =>
  grades
    .filter((g) => props.shares[g] > 0)
    .map((g) => `${g} ${percent(props.shares[g])}`)
    .join(', ')
</script>

<template>
  <div class="bar" role="img" :aria-label="says()">
    <span v-for="grade in grades" :key="grade" :class="grade" :style="{ width: `${shares[grade] * 100}%` }" />
  </div>
</template>

<style scoped>
.bar {
  display: flex;
  height: 7px;
  background: var(--line);
}
.free {
  background: color-mix(in srgb, var(--free) 35%, transparent);
}
.light {
  background: repeating-linear-gradient(90deg, var(--light) 0 2px, transparent 2px 5px);
}
.heavy {
  background: repeating-linear-gradient(90deg, var(--heavy) 0 3px, transparent 3px 5px);
}
.severe {
  background: var(--severe);
}
</style>
