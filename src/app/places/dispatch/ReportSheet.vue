<script setup lang="ts">
import { Button } from 'ant-design-vue'
import { computed } from 'vue'
import { reportHtml, reportOf } from '../../../core/exchange/report'
import { fileNameOf } from '../../../core/words/file-name'
import { useProject } from '../../../stores/document/project'
import PrintedSheet from '../../components/PrintedSheet.vue'
import { download } from '../../download'

/** The project on paper: its format and why, footage, tolls, findings, deliverables and their proofs. */
const project = useProject()
const report = computed(() => reportOf(project.opened))
const print = () => window.print()
const save = () =>
  download(`${fileNameOf(project.opened.project.name, 'report')}.html`, reportHtml(report.value), 'text/html')
</script>

<template>
  <PrintedSheet>
    <template #bar>
      <RouterLink :to="{ name: 'dispatch' }">back to Dispatch</RouterLink>
      <span class="ways">
        <Button @click="save">Save as HTML</Button>
        <Button type="primary" @click="print">Print</Button>
      </span>
    </template>
    <h1>{{ report.title }}</h1>
    <section v-for="{ heading, says, rows } in report.parts" :key="heading">
      <h2>{{ heading }}</h2>
      <p v-for="text in says" :key="text">{{ text }}</p>
      <table v-if="rows" class="lines">
        <thead class="heading">
          <tr>
            <th v-for="(cell, i) in rows[0]" :key="i">{{ cell }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(row, i) in rows.slice(1)" :key="i">
            <td v-for="(cell, k) in row" :key="k" class="figures">{{ cell }}</td>
          </tr>
        </tbody>
      </table>
    </section>
  </PrintedSheet>
</template>

<style scoped>
.ways {
  display: flex;
  gap: 10px;
}
section {
  padding-top: 16px;
}
h2 {
  break-after: avoid;
}
tr {
  break-inside: avoid;
}
td {
  vertical-align: top;
}
</style>
