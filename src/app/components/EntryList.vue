<script setup lang="ts" generic="Entry extends { readonly id: string }">
/** Things of which one is in hand. What is said of each, and what can be done with it, are slots. */
defineProps<{ entries: readonly Entry[]; currentId: string | undefined }>()
const emit = defineEmits<{ choose: [id: string] }>()
const slots = defineSlots<{
  default(props: { entry: Entry }): unknown
  action?(props: { entry: Entry }): unknown
}>()
</script>

<template>
  <ul>
    <li v-for="entry in entries" :key="entry.id">
      <button class="entry" :aria-current="currentId === entry.id" @click="emit('choose', entry.id)">
        <slot :entry="entry" />
      </button>
      <span v-if="slots.action" class="action"><slot name="action" :entry="entry" /></span>
    </li>
  </ul>
</template>

<style scoped>
ul {
  list-style: none;
  width: 100%;
  border-top: 1px solid var(--line);
  overflow: auto;
}
li {
  border-bottom: 1px solid var(--line);
}
.entry {
  all: unset;
  display: flex;
  flex-direction: column;
  width: 100%;
  box-sizing: border-box;
  padding: 8px 8px 8px 10px;
  cursor: pointer;
}
.entry[aria-current='true'] {
  background: var(--sheet);
  box-shadow: inset 3px 0 var(--accent);
}
.entry:focus-visible {
  outline: 2px solid var(--accent);
  outline-offset: -2px;
}
.action {
  display: flex;
  padding: 0 4px 4px;
  white-space: nowrap;
  font-size: 12.5px;
}
li:has([aria-current='true']) .action {
  background: var(--sheet);
  box-shadow: inset 3px 0 var(--accent);
}
</style>
