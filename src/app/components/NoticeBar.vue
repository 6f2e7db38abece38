<script setup lang="ts">
/** A line under the header that says what stands in the way, with the ways out at its end. */
defineProps<{ severe?: boolean }>()
defineSlots<{ default(): unknown; ways?(): unknown }>()
</script>

<template>
  <p :class="{ severe }">
    <span class="said"><slot /></span>
    <slot name="ways" />
  </p>
</template>

<style scoped>
p {
  display: flex;
  gap: 10px;
  align-items: center;
  padding: 7px 20px;
  background: var(--sheet);
  border-bottom: 1px solid var(--heavy);
}
.said {
  flex: 1;
}
.severe {
  border-color: var(--severe);
}
.severe :deep(b) {
  color: var(--severe);
}
</style>
