<script setup lang="ts">
import { type Timeline } from '../../core/edit/timeline'
import { useProject } from '../../stores/project'
import { useTimelines } from '../../stores/timelines'

/** The project's timelines, one of them current. What is said of each below its name, and what can be done with it, are slots. */
defineSlots<{
  default(props: { timeline: Timeline }): unknown
  action?(props: { timeline: Timeline }): unknown
}>()
const project = useProject()
const timelines = useTimelines()
</script>

<template>
  <ul>
    <li v-for="timeline in project.timelines" :key="timeline.id">
      <button
        class="entry"
        :aria-current="timelines.current?.id === timeline.id"
        @click="timelines.selectedId = timeline.id"
      >
        <b>{{ timeline.name }}</b>
        <slot :timeline="timeline" />
      </button>
      <span v-if="$slots.action" class="action"><slot name="action" :timeline="timeline" /></span>
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
