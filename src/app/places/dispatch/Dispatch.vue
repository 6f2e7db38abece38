<script setup lang="ts">
import { percent } from '../../../core/words/figures'
import { Button } from 'ant-design-vue'

import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { worstFirst } from '../../../core/check/check'
import { leadsIn } from '../../../core/edit/timeline'
import { formatName } from '../../../core/format/format'
import { toOtio } from '../../../core/exchange/otio'
import { tallyRows } from '../../../core/exchange/tally-table'
import { frameToTimecode } from '../../../core/rate/timecode'
import { grades } from '../../../core/toll/grade'
import { tollSentence } from '../../../core/toll/sentence'
import { useProject } from '../../../stores/project'
import { useTimelines } from '../../../stores/timelines'
import FileButton from '../../components/FileButton.vue'
import GradeMark from '../../components/GradeMark.vue'
import ShareBar from '../../components/ShareBar.vue'
import PlaceLayout from '../../components/PlaceLayout.vue'
import TimelineList from '../../components/TimelineList.vue'
import { csvOf } from '../../csv'
import { download, downloadProject, fileNameOf } from '../../download'

const project = useProject()
const timelines = useTimelines()
const router = useRouter()
const trouble = ref<string | null>(null)

const check = computed(() => timelines.check)
const rows = computed(() => (check.value ? worstFirst(check.value.findings) : []))
const shares = computed(() => {
  const frames = Math.max(1, check.value?.frames ?? 1)
  const of = (grade: string) =>
    (check.value?.findings ?? [])
      .filter((f) => f.toll.grade === grade)
      .reduce((n, f) => n + f.placement.length, 0) / frames
  return { free: of('free'), light: of('light'), heavy: of('heavy'), severe: of('severe') }
})
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
function saveTally() {
  if (check.value) download(`${base.value}.csv`, csvOf(tallyRows(check.value)), 'text/csv')
}
const saveProject = () => downloadProject(project.opened.project.name, project.exportFile())

async function importProject(file: File) {
  const result = await project.importFile(file)
  trouble.value = 'error' in result ? result.error : null
  if ('id' in result) await router.push({ name: 'dispatch', params: { id: result.id } })
}
</script>

<template>
  <PlaceLayout :docket-width="300" list-name="Timelines">
    <template #list>
      <h1>To be handed over</h1>
      <TimelineList>
        <template #default="{ timeline }">
          <span class="quiet">{{ leadsIn(timeline).length }} placed</span>
        </template>
      </TimelineList>
      <p v-if="project.timelines.length === 0" class="quiet">
        No timeline yet. <RouterLink :to="{ name: 'timelines' }">To Timelines</RouterLink>
      </p>
    </template>
    <section class="main" aria-label="Check">
      <template v-if="check && timelines.current">
        <div class="title">
          <h1>Will “{{ timelines.current.name }}” run as it is?</h1>
          <span class="quiet figures"
            >{{ formatName(check.format) }} · {{ frameToTimecode(check.frames, check.format.rate) }}</span
          >
        </div>
        <div class="glance">
          <span
            >untouched <b class="figures">{{ percent(check.untouchedShare) }}</b></span
          >
          <GradeMark v-for="grade in grades" :key="grade" :grade="grade" :count="check.countByGrade[grade]" />
        </div>
        <ShareBar :shares="shares" />
        <div class="scroll" tabindex="0" role="region" aria-label="Check of the timeline">
          <table>
            <thead class="heading">
              <tr>
                <th>toll</th>
                <th>clip</th>
                <th class="right">starts at</th>
                <th class="right">frames</th>
                <th>what happens to it</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="{ placement, name, toll } in rows" :key="placement.id">
                <td><GradeMark :grade="toll.grade" /></td>
                <td>{{ name }}</td>
                <td class="figures right">{{ frameToTimecode(placement.start, check.format.rate) }}</td>
                <td class="figures right">{{ placement.length }}</td>
                <td>{{ tollSentence(toll) }}</td>
              </tr>
            </tbody>
          </table>
          <p v-if="rows.length === 0" class="quiet">Nothing is placed yet.</p>
        </div>
      </template>
      <p v-else class="quiet">The check of a timeline stands here once there is one.</p>
    </section>
    <template #docket>
      <aside class="sheet" aria-label="Hand over">
        <h2>Hand over</h2>
        <div class="way">
          <Button type="primary" :disabled="!check" @click="saveOtio">Cut as OpenTimelineIO</Button>
          <p class="quiet">Every placement with its source, times at the exact rate.</p>
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
          <p class="quiet">
            Readings, decisions and timelines; no pictures. It comes back to the same state.
          </p>
        </div>
        <p v-if="trouble" role="alert" class="trouble">{{ trouble }}</p>
      </aside>
    </template>
  </PlaceLayout>
</template>

<style scoped>
.main {
  padding: 14px 20px;
  display: flex;
  flex-direction: column;
  gap: 10px;
  min-height: 0;
}
.title,
.glance {
  display: flex;
  gap: 16px;
  align-items: baseline;
}
.scroll {
  overflow: auto;
  flex: 1;
  border-top: 1px solid var(--ink);
}
table {
  border-collapse: collapse;
  width: 100%;
}
th,
td {
  text-align: left;
  font-weight: inherit;
  padding: 6px 12px 6px 0;
  border-bottom: 1px solid var(--line);
  vertical-align: top;
}
.right {
  text-align: right;
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
