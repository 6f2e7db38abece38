<script setup lang="ts">
import { Button } from 'ant-design-vue'
import { ref } from 'vue'
import { useProject } from '../../stores/project'
import NoticeBar from './NoticeBar.vue'

/** Stands under the header where another tab writes the project: here it is read only. */
const project = useProject()
const still = ref(false)

async function tryAgain() {
  await project.open(project.opened.project.id)
  still.value = project.readOnly
}
</script>

<template>
  <NoticeBar v-if="project.readOnly" role="status">
    <b>Open in another tab.</b> “{{ project.opened.project.name }}” is written there; here it is read only, as
    it was when it was opened.{{ project.refused ? ` Not done: ${project.refused}.` : ''
    }}{{ still ? ' The other tab still has it: close it first.' : '' }}
    <template #ways><Button size="small" @click="tryAgain">Write it here</Button></template>
  </NoticeBar>
</template>
