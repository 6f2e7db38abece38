<script setup lang="ts">
import { Button } from 'ant-design-vue'
import { ref } from 'vue'
import { useProject } from '../../stores/document/project'
import NoticeBar from './NoticeBar.vue'

/** Stands under the header where another tab writes the project: here it is followed, and can be taken over; where that tab is of another
 * version, both have to be loaded anew. */
const project = useProject()
const asking = ref(false)
async function take(force: boolean) {
  asking.value = true
  await project.takeOverWriting(force)
  asking.value = false
}
async function reload() {
  await project.settled()
  location.reload()
}
</script>

<template>
  <NoticeBar v-if="project.otherVersion" role="alert">
    <b>Another version of Yard Tally has this project open in another tab.</b> Nothing of what it tells was
    taken over. Reload both pages to go on with one version.
    <template #ways><Button size="small" @click="reload">Reload</Button></template>
  </NoticeBar>
  <NoticeBar v-if="project.readOnly" role="status">
    <b>Open in another tab.</b> “{{ project.opened.project.name }}” is written there; here it is read only and
    follows.{{ project.refused ? ` Not done: ${project.refused}.` : '' }}
    {{ asking ? 'The other tab is asked.' : project.answer }}
    <template #ways>
      <Button v-if="project.answer" size="small" :disabled="asking" @click="take(true)"
        >Take it all the same</Button
      >
      <Button size="small" :disabled="asking" @click="take(false)">Write it here</Button>
    </template>
  </NoticeBar>
</template>
