<script setup lang="ts">
/** A picture of a proof as wide as there is room, and what it shows. */
defineSlots<{ default(): unknown; caption(): unknown }>()
</script>

<template>
  <figure>
    <slot />
    <figcaption><slot name="caption" /></figcaption>
  </figure>
</template>

<style scoped>
figure {
  margin: 0;
  min-width: 0;
  display: flex;
  flex-direction: column;
  gap: 4px;
}
:slotted(canvas) {
  width: 100%;
  max-height: 52vh;
  object-fit: contain;
  object-position: top left;
}
figcaption {
  font-size: 12px;
  color: #f4f1e8;
}
</style>
