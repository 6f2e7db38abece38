<script setup lang="ts">
import { Button } from 'ant-design-vue'
import { useBrowserStorage } from '../../stores/browser-storage'
import { useProject } from '../../stores/document/project'
import { downloadProject } from '../download'
import NoticeBar from './NoticeBar.vue'

/** What stands between the page and its storage, in a sentence with what to do; the work goes on in memory. */
const browserStorage = useBrowserStorage()
const project = useProject()
const save = () => project.doc && downloadProject(project.doc.project.name, project.exportFile(project.doc))
const reload = () => location.reload()
</script>

<template>
  <NoticeBar v-if="browserStorage.state === 'blocked'" urgent role="alert">
    <b>An older Yard Tally is open in another tab</b> and keeps the storage to itself. Close that tab: this
    one goes on by itself then.
  </NoticeBar>
  <NoticeBar v-if="browserStorage.state === 'outdated'" urgent role="alert">
    <b>A newer Yard Tally was opened in another tab.</b> This one can keep nothing more; what is done here
    stays in memory.
    <template #ways>
      <Button v-if="project.doc" size="small" @click="save">Save the project file</Button>
      <Button size="small" @click="reload">Load the newer one</Button>
    </template>
  </NoticeBar>
  <NoticeBar v-if="project.wasCleared" role="status">
    <b>The browser had cleared what it kept of this project.</b> All of it was written anew from here; its
    pictures are drawn again.
    <template #ways>
      <Button size="small" @click="save">Save the project file</Button>
      <Button size="small" @click="project.wasCleared = false">Good</Button>
    </template>
  </NoticeBar>
</template>
