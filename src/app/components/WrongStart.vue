<script setup lang="ts">
import { Button } from 'ant-design-vue'
import { computed } from 'vue'
import { consequenceSentence, consequencesOf } from '../../core/check/consequence'
import { formatName } from '../../core/format/format'
import { useCarrying } from '../../stores/carrying'
import { useProject } from '../../stores/document/project'
import { useTimelines } from '../../stores/timelines'
import NoticeBar from './NoticeBar.vue'

/** Stands under the header while the footage speaks against the project's format: where that came from, and what setting it right does. */
const carrying = useCarrying()
const project = useProject()
const timelines = useTimelines()
const consequences = computed(() =>
  carrying.wrong ? consequencesOf(project.opened, carrying.wrong.format, timelines.checkOnce) : [],
)
const says = computed(() => {
  const changing = consequences.value.filter(({ changes, placed }) => changes && placed > 0)
  if (changing.length === 0) return 'No cut changes by setting it.'
  return (
    changing.slice(0, 2).map(consequenceSentence).join(' ') +
    (changing.length > 2 ? ` ${changing.length - 2} more follow.` : '')
  )
})
</script>

<template>
  <NoticeBar v-if="carrying.wrong && !project.readOnly" role="status">
    <b>{{ carrying.wrong.says }}</b> {{ says }}
    <template #ways>
      <Button size="small" type="primary" @click="carrying.setRight"
        >Set {{ formatName(carrying.wrong.format) }}</Button
      >
      <Button size="small" @click="carrying.meanIt">It is meant</Button>
    </template>
  </NoticeBar>
</template>
