<script setup lang="ts">
import { type Grade, grades } from '../../../../core/toll/grade'
import { computed } from 'vue'
import { priceOf } from '../../../../core/choice/rank'
import { formatName, formatKey } from '../../../../core/format/format'
import { type ChargeKind } from '../../../../core/toll/charge'
import { figure, percent } from '../../../../core/words/figures'
import { useProject } from '../../../../stores/document/project'
import { useYard } from '../../../../stores/yard'
import GradeMark from '../../../components/GradeMark.vue'
import NativeSelect from '../../../components/NativeSelect.vue'
import { type TollRow, kindsOf } from './toll-rows'

/** The head of the table of tolls: what stands beside the candidate, which rows are shown, and how both formats fare. */
const props = defineProps<{ rows: readonly TollRow[] }>()
const only = defineModel<Grade | null>('only', { required: true })
const kind = defineModel<ChargeKind | ''>('kind', { required: true })
const differing = defineModel<boolean>('differing', { required: true })
const project = useProject()
const yard = useYard()

const counts = computed(() => {
  const counted: Record<Grade, number> = { free: 0, light: 0, heavy: 0, severe: 0 }
  for (const { toll, ids } of yard.payments) counted[toll.grade] += ids.length
  return counted
})
const kinds = computed(() => kindsOf(yard.payments))
/** Formats to set beside the candidate: the one that is there, the project's, and the best. */
const choices = computed(() => {
  const known = [yard.beside, project.format, ...yard.ranking.slice(0, 10).map((c) => c.format)]
  const byText = new Map(known.flatMap((format) => (format ? [[formatKey(format), format]] : [])))
  if (yard.candidate && !yard.beside) byText.delete(formatKey(yard.candidate))
  return [...byText.values()]
})
const besideText = computed({
  get: () => (yard.beside ? formatKey(yard.beside) : ''),
  set: (text) => (yard.beside = choices.value.find((f) => formatKey(f) === text) ?? null),
})
/** Both formats in a line: loss, and how many clips fare better at each. */
const verdict = computed(() => {
  if (!yard.beside || !yard.price) return ''
  const other = priceOf(yard.beside, yard.ballot.blocs, yard.pricing)
  const loss = (row: TollRow) => row.toll.loss - (row.beside?.toll.loss ?? row.toll.loss)
  const less = props.rows.filter((row) => loss(row) < -1e-9).length
  const more = props.rows.filter((row) => loss(row) > 1e-9).length
  return (
    `${formatName(yard.price.format)} loses ${figure(yard.price.loss, 2)}, untouched ${percent(yard.price.untouchedShare)}; ` +
    `${formatName(yard.beside)} ${figure(other.loss, 2)}, ${percent(other.untouchedShare)}. ` +
    `${less} pay less at the first, ${more} at the second, ${props.rows.length - less - more} the same.`
  )
})
</script>

<template>
  <div class="title">
    <h2 id="tolls">
      Paid at <span class="figures">{{ yard.candidate ? formatName(yard.candidate) : '' }}</span>
    </h2>
    <span class="grades">
      <NativeSelect
        v-model:value="besideText"
        class="small"
        aria-label="A second format beside it"
        :options="[
          { value: '', label: 'none beside' },
          ...choices.map((f) => ({ value: formatKey(f), label: formatName(f) })),
        ]"
      />
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
  <p v-if="yard.beside" class="beside">
    <button class="word" :aria-pressed="differing" @click="differing = !differing">
      only where they differ
    </button>
    <span class="quiet verdict">{{ verdict }}</span>
  </p>
</template>

<style scoped>
.title,
.beside {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
  padding-bottom: 3px;
}
.beside {
  justify-content: flex-start;
  gap: 8px;
  font-size: 12px;
}
.beside .word {
  white-space: nowrap;
  padding-left: 0;
}
.verdict {
  line-height: 1.3;
}
h2 {
  white-space: nowrap;
  flex: none;
}
.grades {
  flex-wrap: wrap;
  justify-content: flex-end;
  min-width: 0;
  display: flex;
  align-items: baseline;
  gap: 4px;
}
.grades .word {
  padding: 0 4px;
  flex: none;
}
.title {
  gap: 10px;
}
.small {
  min-width: 84px;
  max-width: 152px;
  flex: 0 1 auto;
  height: 24px;
  font-size: 12px;
  border-color: var(--line);
}
</style>
