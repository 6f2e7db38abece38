<script setup lang="ts">
import { Button, Modal } from 'ant-design-vue'
import { computed } from 'vue'
import { grades } from '../../../core/toll/grade'
import { counted, percent } from '../../../core/words/figures'
import { useRelinking } from '../../../stores/relinking'
import { rateLabel, uprightSizeName } from '../../../core/inspect/labels'
import GradeMark from '../../components/GradeMark.vue'
import ChooseAnother from './ChooseAnother.vue'

/** Another clip in the place of one: what both are, what becomes of the placements, and what each timeline pays then. */
const relinking = useRelinking()
const shown = computed(() => relinking.replacing)
const shortened = computed(() => shown.value?.placements.filter(({ shortenedBy }) => shortenedBy > 0) ?? [])
const sides = computed(() => (shown.value ? [shown.value.clip, shown.value.by] : []))
const stands = computed(() => {
  if (!shown.value) return ''
  const { placements } = shown.value
  if (placements.length === 0) return 'It is not placed: no timeline changes.'
  const kept = `${counted(placements.length, 'placement')} keep their place, length and treatment`
  const lost = shortened.value.reduce((sum, retimed) => sum + retimed.shortenedBy, 0)
  return shortened.value.length
    ? `${kept}, but for ${shortened.value.length} that the new one is too short for: ${counted(lost, 'frame')} less.`
    : `${kept}.`
})
</script>

<template>
  <ChooseAnother v-if="relinking.choosing" :clip="relinking.choosing" @close="relinking.choosing = null" />
  <Modal
    v-else-if="shown"
    open
    :footer="null"
    :width="600"
    :title="`${shown.by.name} in the place of ${shown.clip.name}`"
    @cancel="relinking.replacing = null"
  >
    <div class="sides">
      <div v-for="(clip, i) in sides" :key="i">
        <span class="quiet">{{ i === 0 ? 'now' : 'then' }}</span>
        <b class="figures">{{ uprightSizeName(clip) }} · {{ rateLabel(clip) }}</b>
        <span class="quiet">{{ clip.reading?.video?.codec }}</span>
      </div>
    </div>
    <p role="status">{{ stands }}</p>
    <p v-if="shown.by.fault" class="severe" role="alert">{{ shown.by.fault.message }}</p>
    <table v-if="shown.timelines.length">
      <thead>
        <tr>
          <th>timeline</th>
          <th v-for="grade in [...grades].reverse()" :key="grade"><GradeMark :grade="grade" /></th>
          <th>untouched</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="{ timeline, before, after } in shown.timelines" :key="timeline.id">
          <td>{{ timeline.name }}</td>
          <td v-for="grade in [...grades].reverse()" :key="grade" class="figures">
            {{ before?.countByGrade[grade] }} → {{ after?.countByGrade[grade] }}
          </td>
          <td class="figures">
            {{ percent(before?.untouchedShare ?? 0) }} → {{ percent(after?.untouchedShare ?? 0) }}
          </td>
        </tr>
      </tbody>
    </table>
    <div class="foot">
      <Button type="primary" :disabled="!shown.by.reading || !!shown.by.fault" @click="relinking.replace"
        >Put it there</Button
      >
      <Button @click="relinking.replacing = null">Leave it</Button>
    </div>
  </Modal>
</template>

<style scoped>
.sides {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 16px;
  padding-bottom: 10px;
}
.sides div {
  display: flex;
  flex-direction: column;
  border-top: 1px solid var(--line);
  padding-top: 6px;
}
table {
  width: 100%;
  margin-top: 10px;
  border-collapse: collapse;
}
th,
td {
  text-align: left;
  font-weight: 400;
  padding: 4px 8px 4px 0;
  border-bottom: 1px solid var(--line);
}
.foot {
  display: flex;
  gap: 8px;
  padding-top: 14px;
}
</style>
