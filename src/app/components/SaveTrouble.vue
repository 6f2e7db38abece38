<script setup lang="ts">
import { Button } from 'ant-design-vue'
import type { Doc } from '../../core/model/project'
import { useProject } from '../../stores/document/project'
import { downloadProject } from '../download'
import NoticeBar from './NoticeBar.vue'

/** Stands under the header while something could not be written, here or in a project that was left: what, why, and the two ways out. */
const project = useProject()
const save = (doc: Doc) => downloadProject(doc.project.name, project.exportFile(doc))
</script>

<template>
  <NoticeBar v-if="project.trouble && project.doc" urgent role="alert">
    <b>The last changes are not saved.</b> The browser could not write them: {{ project.trouble }} They are
    kept here while this page is open.
    <template #ways>
      <Button size="small" @click="project.retry">Try again</Button>
      <Button size="small" @click="save(project.doc)">Save the project file</Button>
    </template>
  </NoticeBar>
  <NoticeBar v-for="left in project.unsaved" :key="left.doc.project.id" urgent role="alert">
    <b>Changes of “{{ left.doc.project.name }}” are not saved.</b> The browser could not write them:
    {{ left.trouble }} They are kept while this page is open.
    <template #ways>
      <Button size="small" @click="project.retry">Try again</Button>
      <Button size="small" @click="save(left.doc)">Save its project file</Button>
    </template>
  </NoticeBar>
</template>
