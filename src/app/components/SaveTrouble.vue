<script setup lang="ts">
import { Button } from 'ant-design-vue'
import NoticeBar from './NoticeBar.vue'
import { useProject } from '../../stores/project'
import { downloadProject } from '../download'

/** Stands under the header while something could not be written: what, why, and the two ways out. */
const project = useProject()
</script>

<template>
  <NoticeBar v-if="project.trouble" urgent role="alert">
    <b>The last changes are not saved.</b> The browser could not write them: {{ project.trouble }} They are
    kept here while this page is open.
    <template #ways>
      <Button size="small" @click="project.retry">Try again</Button>
      <Button size="small" @click="downloadProject(project.doc!.project.name, project.exportFile())"
        >Save the project file</Button
      >
    </template>
  </NoticeBar>
</template>
