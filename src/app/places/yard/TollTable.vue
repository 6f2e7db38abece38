<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Clip } from '../../../core/edit/project'
import { formatName } from '../../../core/format/format'
import { type ChargeKind, type Grade, type Toll, grades } from '../../../core/toll/charge'
import { pictureKey, pictureOf } from '../../../core/toll/picture'
import { leaning } from '../../../core/toll/policy'
import { tollSentence } from '../../../core/toll/sentence'
import { tollOf } from '../../../core/toll/toll'
import { useProject } from '../../../stores/project'
import { useYard } from '../../../stores/yard'
import GradeMark from '../../components/GradeMark.vue'
import NativeSelect from '../../components/NativeSelect.vue'
import { clockTime, rateLabel, uprightSizeName } from '../../figures'

/** Every clip priced at the candidate, the dearest first. */
const project = useProject()
const yard = useYard()
const only = ref<Grade | null>(null)
const kind = ref<ChargeKind | ''>('')

const rows = computed(() => {
  const format = yard.candidate
  if (!format) return []
  const policy = leaning(project.doc!.project.policy, yard.lean)
  // Clips with the same reading are priced once.
  const known = new Map<string, { toll: Toll; text: string }>()
  return project.clips
    .filter((clip) => clip.reading?.kind === 'video' && clip.reading.video && !clip.fault)
    .map((clip): { clip: Clip; toll: Toll; text: string } => {
      const picture = pictureOf(clip.reading!.video!)
      const key = pictureKey(picture)
      let priced = known.get(key)
      if (!priced) {
        const toll = tollOf(picture, format, undefined, policy)
        priced = { toll, text: tollSentence(toll) }
        known.set(key, priced)
      }
      return { clip, ...priced }
    })
    .sort((a, b) => grades.indexOf(b.toll.grade) - grades.indexOf(a.toll.grade) || b.toll.loss - a.toll.loss)
})
const counts = computed(
  () =>
    Object.fromEntries(grades.map((g) => [g, rows.value.filter((r) => r.toll.grade === g).length])) as Record<
      Grade,
      number
    >,
)
const kinds = computed(() =>
  [...new Set(rows.value.flatMap((row) => row.toll.charges.map((charge) => charge.kind)))].sort(),
)
const shown = computed(() =>
  rows.value
    .filter((row) => !only.value || row.toll.grade === only.value)
    .filter((row) => !kind.value || row.toll.charges.some((charge) => charge.kind === kind.value))
    .slice(0, 300),
)
const priorities = [
  { value: 'normal', label: 'normal' },
  { value: 'key', label: 'key ×3' },
  { value: 'left-out', label: 'left out' },
] as const
</script>

<template>
  <section v-if="yard.candidate" class="tolls" aria-labelledby="tolls">
    <div class="title">
      <h2 id="tolls">
        What each clip pays at <span class="figures">{{ formatName(yard.candidate) }}</span>
      </h2>
      <span class="grades">
        <NativeSelect
          v-model:value="kind"
          class="small"
          aria-label="Show only this charge"
          :options="[
            { value: '', label: 'all charges' },
            ...kinds.map((k) => ({ value: k, label: k.replace('-', ' ') })),
          ]"
        />
        <button
          v-for="grade in grades"
          :key="grade"
          class="word"
          :aria-pressed="only === grade"
          @click="only = only === grade ? null : grade"
        >
          <GradeMark :grade="grade" :count="counts[grade]" />
        </button>
      </span>
    </div>
    <div class="scroll" tabindex="0" role="region" aria-label="Tolls of the clips">
      <table>
        <thead class="heading">
          <tr>
            <th>clip</th>
            <th class="right">size</th>
            <th class="right">rate</th>
            <th class="right">time</th>
            <th>counts</th>
            <th>toll</th>
            <th>charges</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="{ clip, toll, text } in shown" :key="clip.id">
            <td>{{ clip.name }}</td>
            <td class="figures right">{{ uprightSizeName(clip) }}</td>
            <td class="figures right">{{ rateLabel(clip) }}</td>
            <td class="figures right">{{ clockTime(clip.reading?.durationSec) }}</td>
            <td>
              <NativeSelect
                class="small"
                :value="clip.priority"
                :aria-label="`How much ${clip.name} counts`"
                :options="priorities"
                @update:value="yard.setPriority(clip.id, $event)"
              />
            </td>
            <td><GradeMark :grade="toll.grade" /></td>
            <td>{{ text }}</td>
          </tr>
        </tbody>
      </table>
    </div>
  </section>
</template>

<style scoped>
.tolls {
  display: flex;
  flex-direction: column;
  border-top: 1px solid var(--ink);
  padding-top: 8px;
  min-height: 0;
}
.title {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
  padding-bottom: 4px;
}
.scroll {
  overflow: auto;
  min-height: 0;
}
table {
  border-collapse: collapse;
  width: 100%;
}
th {
  font-weight: 500;
  text-align: left;
  position: sticky;
  top: 0;
  background: var(--paper);
}
th,
td {
  padding: 4px 10px 4px 0;
  border-bottom: 1px solid var(--line);
  vertical-align: top;
}
td {
  line-height: 1.3;
}
.right {
  text-align: right;
}
.small {
  height: 24px !important;
  font-size: 12px !important;
  border-color: var(--line) !important;
}
</style>
