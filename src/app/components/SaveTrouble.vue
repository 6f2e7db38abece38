<script setup lang="ts">
import { Button } from 'ant-design-vue'
import { useProject } from '../../stores/project'
import { downloadProject } from '../download'

/** Stands under the header while something could not be written: what, why, and the two ways out. */
const project = useProject()
</script>

<template>
  <p v-if="project.trouble" role="alert">
    <span
      ><b>The last changes are not saved.</b> The browser could not write them: {{ project.trouble }} They are
      kept here while this page is open.</span
    >
    <Button size="small" @click="project.retry">Try again</Button>
    <Button size="small" @click="downloadProject(project.doc!.project.name, project.exportFile())"
      >Save the project file</Button
    >
  </p>
</template>

<style scoped>
p {
  display: flex;
  gap: 10px;
  align-items: center;
  padding: 7px 20px;
  background: var(--sheet);
  border-bottom: 1px solid var(--severe);
}
span {
  flex: 1;
}
b {
  color: var(--severe);
}
</style>
