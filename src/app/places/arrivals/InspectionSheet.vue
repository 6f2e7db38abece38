<script setup lang="ts">
import { Button } from 'ant-design-vue'
import { stamp } from '../../dates'
import { computed } from 'vue'
import { differencesFrom, oddities } from '../../../core/inspect/marks'
import { runningTime } from '../../../core/words/figures'
import { formatName } from '../../../core/format/format'
import { useProject } from '../../../stores/document/project'
import PrintedSheet from '../../components/PrintedSheet.vue'
import { columnOf } from '../../../core/inspect/columns'
import { majorities } from '../../../core/inspect/majority'

/** What came in, as a sheet to be printed: facts, and in sentences what differs and what is odd. */
const project = useProject()
const shown = ['name', 'size', 'rate', 'scan', 'time', 'codec', 'profile', 'wrapper', 'start', 'sound'].map(
  columnOf,
)
const video = computed(() => project.clips.filter((clip) => clip.reading?.kind === 'video' && !clip.fault))
const seconds = computed(() => video.value.reduce((sum, clip) => sum + (clip.reading?.durationSec ?? 0), 0))
const print = () => window.print()
</script>

<template>
  <PrintedSheet>
    <template #bar>
      <RouterLink :to="{ name: 'arrivals' }">back to Arrivals</RouterLink>
      <Button type="primary" @click="print">Print</Button>
    </template>
    <h1>{{ project.opened.project.name }}: what came in</h1>
    <p class="quiet">
      {{ video.length }} clips, {{ runningTime(seconds) }}{{ majorities(video) }}.
      {{ project.format ? `Project format ${formatName(project.format)}.` : 'No project format yet.' }}
      {{ stamp() }}
    </p>
    <table>
      <thead class="heading">
        <tr>
          <th v-for="column in shown" :key="column.id">{{ column.title }}</th>
        </tr>
      </thead>
      <tbody v-for="clip in project.clips" :key="clip.id">
        <tr>
          <td v-for="column in shown" :key="column.id" :class="{ figures: column.figures }">
            {{ column.text(clip) }}
          </td>
        </tr>
        <tr class="says">
          <td :colspan="shown.length">
            <template v-if="clip.fault">{{ clip.fault.message }}</template>
            <template v-else-if="clip.reading">
              {{
                [
                  ...(project.format ? differencesFrom(clip.reading, project.format) : []),
                  ...oddities(clip.reading),
                ]
                  .map((mark) => mark.sentence)
                  .join(' ')
              }}
            </template>
          </td>
        </tr>
      </tbody>
    </table>
  </PrintedSheet>
</template>

<style scoped>
table {
  border-collapse: collapse;
  width: 100%;
  margin-top: 12px;
}
th,
td {
  text-align: left;
  padding: 3px 10px 3px 0;
  font-weight: inherit;
}
tbody tr:first-child td {
  border-top: 1px solid var(--line);
}
.says td {
  color: var(--quiet);
  font-size: 12px;
  padding-bottom: 6px;
}
tbody {
  break-inside: avoid;
}
</style>
