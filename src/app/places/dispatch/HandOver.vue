<script setup lang="ts">
import { Button } from 'ant-design-vue'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { toEdl } from '../../../core/exchange/edl'
import { toOtio } from '../../../core/exchange/otio'
import { tableRows } from '../../../core/exchange/tables'
import { useProject } from '../../../stores/document/project'
import { useTimelines } from '../../../stores/timelines'
import FileButton from '../../components/FileButton.vue'
import NativeSelect from '../../components/NativeSelect.vue'
import { csvOf } from '../../../core/inspect/csv'
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
const tableSays = {
  placements: 'A line for each placed clip: size, rate, toll, charges.',
  clips: 'A line for each clip: what it is, and what is odd.',
  findings: 'A line for each kind of finding, and what helps.',
  charges: 'A line for each charge of each placement.',
} as const
const tables = Object.keys(tableSays).map((value) => ({ value, label: value }))
const table = ref<keyof typeof tableSays>('placements')
function saveTable() {
  const [timeline, found] = [timelines.current, check.value]
  if (!timeline || !found) return
  const rows = tableRows(table.value, project.opened, timeline, found)
  download(`${base.value}_${table.value}.csv`, csvOf(rows), 'text/csv')
}
const saveProject = () => downloadProject(project.opened.project.name, project.exportFile())

/** What of a cut that was taken in was not understood. */
const notes = ref<readonly string[] | null>(null)
async function takeIn(file: File) {
  const text = await file.text().catch(() => '')
  const result = timelines.takeIn(text, file.name.replace(/\.[^.]*$/, ''))
  trouble.value = result.ok ? null : `${file.name}: ${result.error}`
  notes.value = result.ok ? result.notes : null
}

async function importProject(file: File) {
  const result = await project.importFile(file)
  trouble.value = result.ok ? null : result.error
  if (result.ok) await router.push({ name: 'dispatch', params: { id: result.id } })
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
      <RouterLink :to="{ name: 'report' }">Report on paper…</RouterLink>
      <p class="quiet">Format and why, footage, tolls, findings, deliverables, proofs.</p>
    </div>
    <div class="way">
      <span class="pair"
        ><Button :disabled="!check" @click="saveTable">CSV of</Button
        ><NativeSelect v-model:value="table" aria-label="What the CSV lists" :options="tables"
      /></span>
      <p class="quiet">{{ tableSays[table] }}</p>
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
.pair {
  display: flex;
  gap: 8px;
}
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
