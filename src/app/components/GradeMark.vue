<script setup lang="ts">
import { type Grade } from '../../core/toll/grade'

/** A grade as a shape and a word; the colour only repeats them. Where there is no room for the word, it is only heard. */
defineProps<{ grade: Grade; count?: number; shapeOnly?: boolean }>()
</script>

<template>
  <span class="grade" :class="grade">
    <svg width="11" height="11" viewBox="0 0 12 12" aria-hidden="true">
      <circle cx="6" cy="6" r="5" fill="none" stroke="currentColor" stroke-width="1.5" />
      <path v-if="grade === 'light'" d="M6 6V1a5 5 0 0 1 5 5z" fill="currentColor" />
      <path v-if="grade === 'heavy'" d="M6 1a5 5 0 0 1 0 10z" fill="currentColor" />
      <circle v-if="grade === 'severe'" cx="6" cy="6" r="5" fill="currentColor" />
    </svg>
    <span :class="{ 'visually-hidden': shapeOnly }">{{ grade }}</span><template v-if="count !== undefined"
      >&nbsp;<b class="figures">{{ count }}</b></template
    >
  </span>
</template>

<style scoped>
.grade {
  display: inline-flex;
  align-items: baseline;
  gap: 5px;
  white-space: nowrap;
}
svg {
  align-self: center;
  flex: none;
}
</style>
