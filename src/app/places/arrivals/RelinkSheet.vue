<script setup lang="ts">
import { Button, Modal, Progress } from 'ant-design-vue'
import { computed, ref } from 'vue'
import { counted, exactSeconds, fileSize } from '../../../core/words/figures'
import { useProject } from '../../../stores/document/project'
import { useRelinking } from '../../../stores/relinking'
import { filesFromPicker } from './intake'

/** Files that are not at hand, looked for in a folder: found by what they hold, wherever they lie; changed ones told by name. */
const emit = defineEmits<{ close: [] }>()
const relinking = useRelinking()
const project = useProject()
const folder = ref<HTMLInputElement>()

async function pick(event: Event) {
  const input = event.target as HTMLInputElement
  const picked = input.files ? filesFromPicker(input.files) : []
  input.value = ''
  await relinking.look(picked)
}
const share = computed(() =>
  relinking.progress.worth ? Math.round((100 * relinking.progress.hashed) / relinking.progress.worth) : 100,
)
const says = computed(() => {
  const { result, progress } = relinking
  if (!result) return ''
  const renamed = result.renamed ? `, ${result.renamed} under another name` : ''
  return `${counted(result.found, 'file')} found again${renamed}; ${result.changed.length} changed; ${result.notThere.length} not there. Of ${counted(progress.offered, 'file')} ${counted(progress.worth, 'was', 'were')} read at both ends, in ${exactSeconds(progress.seconds, 1)}.`
})
function replaceBy(fileId: string) {
  const changed = relinking.result?.changed.find(({ sought }) => sought.fileId === fileId)
  const clip = changed && project.opened.clips[changed.sought.clipId]
  if (clip && changed) void relinking.priceFile(clip, changed.incoming)
}
</script>

<template>
  <Modal open :footer="null" :width="640" title="Files that are not at hand" @cancel="emit('close')">
    <p>
      <b class="figures">{{ relinking.sought.length }}</b>
      {{ relinking.sought.length === 1 ? 'file is' : 'files are' }} sought. Point to the folder that they are
      in, or to one above it: they are known by what they hold, not by where they lie.
    </p>
    <div class="row">
      <Button type="primary" :disabled="relinking.progress.running" @click="folder?.click()"
        >Look in a folder…</Button
      >
      <Button v-if="relinking.progress.running" @click="relinking.cancel">Stop looking</Button>
      <input
        ref="folder"
        class="visually-hidden"
        type="file"
        multiple
        webkitdirectory
        aria-label="Folder to look in"
        tabindex="-1"
        @change="pick"
      />
      <Progress
        v-if="relinking.progress.running"
        :percent="share"
        size="small"
        :aria-label="`${relinking.progress.hashed} of ${relinking.progress.worth} read at both ends`"
      />
    </div>
    <template v-if="relinking.result && !relinking.progress.running">
      <p role="status">{{ says }}</p>
      <ul v-if="relinking.result.changed.length" aria-label="Changed files">
        <li v-for="{ sought, incoming } in relinking.result.changed" :key="sought.fileId">
          <b>{{ sought.name }}</b>
          <span class="quiet"
            >holds something else now: {{ fileSize(sought.sizeBytes) }} →
            {{ fileSize(incoming.file.size) }}</span
          >
          <Button size="small" @click="replaceBy(sought.fileId)">Put it in the place…</Button>
        </li>
      </ul>
      <details v-if="relinking.result.notThere.length">
        <summary>{{ relinking.result.notThere.length }} not there</summary>
        <ul>
          <li v-for="file in relinking.result.notThere.slice(0, 200)" :key="file.fileId">
            {{ file.name }} <span class="quiet">{{ fileSize(file.sizeBytes) }}</span>
          </li>
        </ul>
      </details>
    </template>
  </Modal>
</template>

<style scoped>
.row {
  display: flex;
  gap: 10px;
  align-items: center;
  padding: 12px 0;
}
ul {
  list-style: none;
  max-height: 260px;
  overflow: auto;
  border-top: 1px solid var(--line);
  margin-top: 8px;
}
li {
  display: flex;
  gap: 8px;
  align-items: center;
  padding: 4px 0;
  border-bottom: 1px solid var(--line);
}
li .ant-btn {
  margin-left: auto;
}
</style>
