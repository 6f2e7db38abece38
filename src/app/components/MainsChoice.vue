<script setup lang="ts">
import type { Mains } from '../../core/toll/policy'

/** The mains region: 50 Hz, 60 Hz, or openly not known. */
defineProps<{ value: Mains | null; name: string }>()
defineEmits<{ set: [Mains | null] }>()
</script>

<template>
  <label v-for="hertz in [50, 60, null] as const" :key="String(hertz)"
    ><input type="radio" :name="name" :checked="value === hertz" @change="$emit('set', hertz)" />
    {{ hertz ? `${hertz} Hz` : 'not known' }}</label
  >
</template>
