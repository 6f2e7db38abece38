<script setup lang="ts">
import { Button } from 'ant-design-vue'
import { useProject } from '../../stores/document/project'
import { fileNameOf } from '../../core/words/file-name'
import { download } from '../download'
import { counted } from '../../core/words/figures'

/** What of the project could not be read any more: what, why, and the parts as they were. */
const project = useProject()

const save = () =>
  download(
    `${fileNameOf(project.opened.project.name)}_put-aside.json`,
    JSON.stringify(
      project.putAside.map(({ what, name, why, at, row }) => ({ what, name, why, at, row })),
      null,
      1,
    ),
    'application/json',
  )
</script>

<template>
  <details v-if="project.putAside.length">
    <summary>
      <b>{{ counted(project.putAside.length, 'part') }} of this project could not be read</b> and
      {{ project.putAside.length === 1 ? 'is' : 'are' }} put aside as
      {{ project.putAside.length === 1 ? 'it was' : 'they were' }}; the rest is open.
      <Button size="small" @click.stop.prevent="save">Save what was put aside</Button>
    </summary>
    <ul>
      <li v-for="(part, i) in project.putAside" :key="i">
        {{ part.what === 'left-aside' ? 'a file left aside' : `the ${part.what}` }}
        <b>{{ part.name }}</b><span class="quiet">: {{ part.why }}</span>
      </li>
    </ul>
  </details>
</template>

<style scoped>
details {
  padding: 6px 20px;
  background: var(--sheet);
  border-bottom: 1px solid var(--heavy);
}
summary {
  cursor: pointer;
}
ul {
  list-style: none;
  max-height: 160px;
  overflow: auto;
}
</style>
