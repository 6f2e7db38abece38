<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { worstFirst } from '../../../core/check/check'
import { formatName } from '../../../core/format/format'
import { frameToTimecode } from '../../../core/rate/timecode'
import { grades } from '../../../core/toll/grade'
import { tollSentence } from '../../../core/toll/sentence'
import { counted, percent } from '../../../core/words/figures'
import { useTimelines } from '../../../stores/timelines'
import GradeMark from '../../components/GradeMark.vue'
import ShareBar from '../../components/ShareBar.vue'
import TermMark from '../../components/terms/TermMark.vue'

/** Whether the cut runs as it is: what happens to each picture of it. */
const timelines = useTimelines()
const check = computed(() => timelines.check)
const rows = computed(() => (check.value ? worstFirst(check.value.findings) : []))
/** So many lines are shown at first, and with every wish for more: a film may have a hundred thousand. */
const mostListed = 200
const most = ref(mostListed)
watch(
  () => timelines.current?.id,
  () => (most.value = mostListed),
)
const shares = computed(() => {
  const frames = Math.max(1, check.value?.placedFrames ?? 1)
  const countOf = (grade: string) =>
    (check.value?.findings ?? [])
      .filter((f) => f.toll.grade === grade)
      .reduce((n, f) => n + f.placement.length, 0) / frames
  return {
    free: countOf('free'),
    light: countOf('light'),
    heavy: countOf('heavy'),
    severe: countOf('severe'),
  }
})
</script>

<template>
  <section class="cut" aria-label="Check">
    <template v-if="check && timelines.current">
      <div class="title">
        <h1>Will “{{ timelines.current.name }}” run as it is?</h1>
        <span class="quiet figures"
          >{{ formatName(check.format) }} · {{ frameToTimecode(check.frames, check.format.rate) }}</span
        >
      </div>
      <div class="glance">
        <span
          >untouched <b class="figures">{{ percent(check.untouchedShare) }}</b> of
          {{ frameToTimecode(check.placedFrames, check.format.rate) }} of placed pictures</span
        >
        <GradeMark v-for="grade in grades" :key="grade" :grade="grade" :count="check.countByGrade[grade]" />
      </div>
      <ShareBar :shares="shares" />
      <div class="scroll" tabindex="0" role="region" aria-label="Check of the timeline">
        <table class="lines">
          <thead class="heading">
            <tr>
              <th><TermMark term="toll">toll</TermMark></th>
              <th>clip</th>
              <th class="right">starts at</th>
              <th class="right">frames</th>
              <th>what happens to it</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="{ placement, name, toll } in rows.slice(0, most)" :key="placement.id">
              <td><GradeMark :grade="toll.grade" /></td>
              <td>{{ name }}</td>
              <td class="figures right">{{ check.timecode(placement.start) }}</td>
              <td class="figures right">{{ placement.length }}</td>
              <td>{{ tollSentence(toll) }}</td>
            </tr>
          </tbody>
        </table>
        <button v-if="rows.length > most" class="word" @click="most += mostListed">
          {{ counted(Math.min(mostListed, rows.length - most), 'more line') }} of {{ rows.length - most }}
        </button>
        <p v-if="rows.length === 0" class="quiet">Nothing is placed yet.</p>
      </div>
    </template>
    <p v-else class="quiet">The check of a timeline stands here once there is one.</p>
  </section>
</template>

<style scoped>
.cut {
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
.right {
  text-align: right;
}
</style>
