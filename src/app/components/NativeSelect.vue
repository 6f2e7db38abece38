<script setup lang="ts" generic="T extends string | number">
/**
 * The browser's own select in our dress. The component library's leaves out ARIA states that screen readers need.
 */
defineProps<{ options: readonly { readonly value: T; readonly label: string }[] }>()
const value = defineModel<T>('value', { required: true })
</script>

<template>
  <select v-model="value">
    <option v-for="option in options" :key="option.value" :value="option.value">{{ option.label }}</option>
  </select>
</template>
