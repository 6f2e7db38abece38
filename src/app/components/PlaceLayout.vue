<script setup lang="ts">
/** A place: its list on the left where it has one, its own picture in the middle, the docket of what is selected on the right. */
defineProps<{ docketWidth: number; listName?: string }>()
defineSlots<{ list?(): unknown; default(): unknown; docket(): unknown; sheets?(): unknown }>()
</script>

<template>
  <div
    class="layout"
    :style="{
      gridTemplateColumns: `${$slots.list ? 'clamp(196px, 16.4vw, 210px) ' : ''}minmax(0, 1fr) clamp(250px, ${(docketWidth / 12.8).toFixed(2)}vw, ${docketWidth}px)`,
    }"
  >
    <aside v-if="$slots.list" class="list" :aria-label="listName"><slot name="list" /></aside>
    <slot />
    <slot name="docket" />
    <slot name="sheets" />
  </div>
</template>

<style scoped>
.layout {
  height: 100%;
  display: grid;
}
.list {
  border-right: 1px solid var(--line);
  padding: 14px 0 12px 16px;
  display: flex;
  flex-direction: column;
  gap: 10px;
  min-height: 0;
  align-items: flex-start;
}
</style>
