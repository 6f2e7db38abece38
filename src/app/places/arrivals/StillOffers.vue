<script setup lang="ts">
import { Button } from 'ant-design-vue'
import { computed, ref } from 'vue'
import { usualRate } from '../../../core/edit/habits'
import { type Clip } from '../../../core/edit/clip'
import { parseRate } from '../../../core/rate/parse'
import { rateName } from '../../../core/rate/rate'
import { regionRates } from '../../../core/choice/rates'
import { useHabits } from '../../../stores/habits'
import { useProject } from '../../../stores/project'
import { useSplit } from '../../../stores/split'
import { counted, figure } from '../../../core/words/figures'

/** Numbered stills that came together are offered as one clip, at a rate that is asked; they stay stills otherwise. */
const split = useSplit()
const project = useProject()
const habits = useHabits()

/** The project's rate, else the region's, else the usual one. */
const usual = computed(() => {
  const { mains } = project.opened.project
  const rate = project.format?.rate ?? (mains ? regionRates(mains)[0] : usualRate(habits.habits))
  return rateName(rate)
})
const typed = ref<string | null>(null)
const rate = computed(() => parseRate(typed.value ?? usual.value)?.rate ?? null)
const seconds = (clips: readonly Clip[]) =>
  rate.value ? figure((clips.length * rate.value.den) / rate.value.num) : '?'
</script>

<template>
  <div v-for="clips in split.stillOffers.slice(0, 3)" :key="clips[0]?.id" class="offer" role="status">
    <span
      ><b>{{ counted(clips.length, 'numbered still') }}</b
      >, {{ clips[0]?.name }} to {{ clips.at(-1)?.name }}: {{ seconds(clips) }} s as one clip at</span
    >
    <input
      class="rate"
      aria-label="Rate of the stills"
      :value="typed ?? usual"
      @input="typed = ($event.target as HTMLInputElement).value"
    />
    <Button size="small" :disabled="!rate" @click="rate && split.takeAsOne(clips, rate)"
      >Make one clip</Button
    >
    <Button size="small" @click="split.leaveAsStills">Leave as stills</Button>
  </div>
</template>

<style scoped>
.offer {
  display: flex;
  gap: 10px;
  align-items: center;
  padding-right: 16px;
}
.offer span {
  flex: 1;
}
.rate {
  width: 64px;
  height: 24px;
  font-family: var(--mono);
  border: 1px solid var(--line);
  background: var(--sheet);
  color: var(--ink);
  padding: 0 6px;
}
</style>
