<script setup lang="ts">
import { Button } from 'ant-design-vue'
import { useProject } from '../../stores/document/project'
import NoticeBar from './NoticeBar.vue'

/** Stands under the header where an edit was refused: what was to be done, and why it was not. */
const project = useProject()
</script>

<template>
  <NoticeBar v-if="project.notDone" role="status">
    <b>Not done: {{ project.notDone.label }}.</b> {{ project.notDone.error }}
    <template #ways>
      <Button size="small" @click="project.notDone = null">Dismiss</Button>
    </template>
  </NoticeBar>
</template>
