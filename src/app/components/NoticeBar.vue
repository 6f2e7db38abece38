<script setup lang="ts">
/** A line under the header that says what stands in the way, with the ways out at its end. */
defineProps<{ urgent?: boolean }>()
defineSlots<{ default(): unknown; ways?(): unknown }>()
</script>

<template>
  <p :class="{ urgent }">
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
.urgent {
  border-color: var(--severe);
}
.urgent :deep(b) {
  color: var(--severe);
}
</style>
