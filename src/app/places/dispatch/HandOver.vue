<script setup lang="ts">
import { Button } from 'ant-design-vue'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { toEdl } from '../../../core/exchange/edl'
import { toOtio } from '../../../core/exchange/otio'
import { tallyRows } from '../../../core/exchange/tally-table'
import { useProject } from '../../../stores/project'
import { useTimelines } from '../../../stores/timelines'
import FileButton from '../../components/FileButton.vue'
import { csvOf } from '../../csv'
import { fileNameOf } from '../../../core/words/file-name'
import { download, downloadProject } from '../../download'

/** The cut and the project as files for others. */
const project = useProject()
const timelines = useTimelines()
const router = useRouter()
const trouble = ref<string | null>(null)
const check = computed(() => timelines.check)
const base = computed(() => fileNameOf(project.opened.project.name, timelines.current?.name ?? ''))

function saveOtio() {
  const timeline = timelines.current
  if (!timeline) return
  download(
    `${base.value}.otio`,
    JSON.stringify(toOtio(project.opened, timeline), null, 2),
    'application/json',
  )
}
const edl = computed(() => (timelines.current ? toEdl(project.opened, timelines.current) : null))
function saveEdl() {
  if (edl.value) download(`${base.value}.edl`, edl.value.text, 'text/plain')
}
function saveTally() {
  if (check.value) download(`${base.value}.csv`, csvOf(tallyRows(check.value)), 'text/csv')
}
const saveProject = () => downloadProject(project.opened.project.name, project.exportFile())

/** What of a cut that was taken in was not understood. */
const notes = ref<readonly string[] | null>(null)
async function takeIn(file: File) {
  const text = await file.text().catch(() => '')
  const result = timelines.takeIn(text, file.name.replace(/\.[^.]*$/, ''))
  trouble.value = 'error' in result ? `${file.name}: ${result.error}` : null
  notes.value = 'notes' in result ? result.notes : null
}

async function importProject(file: File) {
  const result = await project.importFile(file)
  trouble.value = 'error' in result ? result.error : null
  if ('id' in result) await router.push({ name: 'dispatch', params: { id: result.id } })
}
</script>

<template>
  <aside class="sheet" aria-label="Hand over">
    <h2>Hand over</h2>
    <div class="way">
      <Button type="primary" :disabled="!check" @click="saveOtio">Cut as OpenTimelineIO</Button>
      <p class="quiet">Every placement with its source, times at the exact rate.</p>
    </div>
    <div class="way">
      <Button :disabled="!check" @click="saveEdl">Edit decision list</Button>
      <p class="quiet">CMX 3600: one track of pictures, with its sound.</p>
      <p v-if="edl?.leavesOut.length">Leaves out {{ edl.leavesOut.join('; ') }}.</p>
    </div>
    <div class="way">
      <FileButton accept=".otio,.edl,application/json" name="Cut of another program" @file="takeIn"
        >Take a cut in…</FileButton
      >
      <p class="quiet">OpenTimelineIO or an edit decision list.</p>
      <p v-if="notes" role="status">
        Taken in as a timeline{{ notes.length ? '. ' + notes.join(' ') : ', all of it.' }}
      </p>
    </div>
    <div class="way">
      <Button :disabled="!check" @click="saveTally">Tally as CSV</Button>
      <p class="quiet">A line for each placed clip: size, rate, toll, charges.</p>
    </div>
    <div class="way">
      <Button @click="saveProject">Project file</Button>
      <FileButton accept=".json,application/json" name="Project file to import" @file="importProject"
        >Import…</FileButton
      >
      <p class="quiet">Readings, decisions and timelines; no pictures. It comes back to the same state.</p>
    </div>
    <p v-if="trouble" role="alert" class="trouble">{{ trouble }}</p>
  </aside>
</template>

<style scoped>
.way {
  padding: 12px 0;
  border-bottom: 1px solid var(--line);
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.way p {
  width: 100%;
}
.trouble {
  color: var(--severe);
}
</style>
