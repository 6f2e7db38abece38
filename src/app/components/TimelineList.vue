<script setup lang="ts">
import { type Timeline } from '../../core/model/timeline'
import { useProject } from '../../stores/document/project'
import { useTimelines } from '../../stores/timelines'
import EntryList from './EntryList.vue'

/** The project's timelines, one of them current. What is said of each below its name, and what can be done with it, are slots. */
defineSlots<{
  default(props: { timeline: Timeline }): unknown
  action?(props: { timeline: Timeline }): unknown
}>()
const project = useProject()
const timelines = useTimelines()
</script>

<template>
  <EntryList
    :entries="project.timelines"
    :current-id="timelines.current?.id"
    @choose="(id) => (timelines.selectedId = id)"
  >
    <template #default="{ entry }">
      <b>{{ entry.name }}</b>
      <slot :timeline="entry" />
    </template>
    <template v-if="$slots.action" #action="{ entry }"><slot name="action" :timeline="entry" /></template>
  </EntryList>
</template>
