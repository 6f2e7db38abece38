<script setup lang="ts">
import { Button, Modal } from 'ant-design-vue'
import { computed } from 'vue'
import { grades } from '../../../core/toll/grade'
import { counted, percent } from '../../../core/words/figures'
import type { Clip } from '../../../core/edit/clip'
import { useProject } from '../../../stores/project'
import { useRelinking } from '../../../stores/relinking'
import { rateLabel, uprightSizeName } from '../../figures'
import FileButton from '../../components/FileButton.vue'
import GradeMark from '../../components/GradeMark.vue'

/** Another clip in the place of one: what both are, what becomes of the placements, and what each timeline pays then. */
const relinking = useRelinking()
const project = useProject()
/** Clips that could stand in the place of the one: of its kind, those of the likest names first. */
const mostOffered = 100
const others = computed(() => {
  const clip = relinking.choosing
  if (!clip) return []
  const alike = ({ name }: Clip) => {
    let i = 0
    while (i < name.length && name[i] === clip.name[i]) i++
    return i
  }
  return project.clips
    .filter(
      ({ id, reading, parts }) =>
        id !== clip.id && parts.length === 0 && reading?.kind === clip.reading?.kind,
    )
    .map((other) => ({ other, alike: alike(other) }))
    .sort((a, b) => b.alike - a.alike)
    .slice(0, mostOffered)
    .map(({ other }) => other)
})
const shown = computed(() => relinking.replacing)
const shortened = computed(() => shown.value?.placements.filter(({ shortenedBy }) => shortenedBy > 0) ?? [])
const sides = computed(() => (shown.value ? [shown.value.clip, shown.value.by] : []))
const stands = computed(() => {
  if (!shown.value) return ''
  const { placements } = shown.value
  if (placements.length === 0) return 'It is not placed: no timeline changes.'
  const kept = `${counted(placements.length, 'placement')} keep their place, length and treatment`
  const lost = shortened.value.reduce((sum, one) => sum + one.shortenedBy, 0)
  return shortened.value.length
    ? `${kept}, but for ${shortened.value.length} that the new one is too short for: ${counted(lost, 'frame')} less.`
    : `${kept}.`
})
</script>

<template>
  <Modal
    v-if="relinking.choosing"
    open
    :footer="null"
    :width="520"
    :title="`Another in the place of ${relinking.choosing.name}`"
    @cancel="relinking.choosing = null"
  >
    <p class="quiet">
      The graded one, the one of higher resolution: placements stay, and what changes is told first.
    </p>
    <FileButton
      accept="*"
      :name="`A file for the place of ${relinking.choosing.name}`"
      @file="(file) => relinking.choosing && relinking.priceFile(relinking.choosing, { file, folder: '' })"
      >A file…</FileButton
    >
    <ul v-if="others.length" aria-label="Or a clip that is here">
      <li v-for="other in others" :key="other.id">
        <button class="word" @click="relinking.choosing && relinking.price(relinking.choosing, other, null)">
          {{ other.name }}
        </button>
        <span class="quiet figures">{{ uprightSizeName(other) }} · {{ rateLabel(other) }}</span>
      </li>
    </ul>
  </Modal>
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
ul {
  list-style: none;
  max-height: 320px;
  overflow: auto;
  margin-top: 10px;
  border-top: 1px solid var(--line);
}
li {
  display: flex;
  justify-content: space-between;
  border-bottom: 1px solid var(--line);
}
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
