<script setup lang="ts">
import { Button } from 'ant-design-vue'
import { computed } from 'vue'
import type { Timeline } from '../../../../core/model/timeline'
import { soundMismatches } from '../../../../core/sound/mismatch'
import { figure } from '../../../../core/words/figures'
import { useSelection } from '../../../../stores/selection'
import { loudnessWords, useLoudness } from '../../../../stores/loudness'
import CommitInput from '../../../components/CommitInput.vue'
import TermMark from '../../../components/terms/TermMark.vue'

/** How loud a timeline and the clips heard on it are, what is not as the timeline's sound, and the gain that evens each. */
const props = defineProps<{ timeline: Timeline }>()
const loudness = useLoudness()
const selection = useSelection()
const whole = computed(() => loudness.ofTimeline(props.timeline, null))
const clips = computed(() =>
  loudness.clips.map((clip) => {
    const placements = loudness.placementsOf(clip)
    const gains = new Set(placements.map(({ gain }) => gain))
    const evening = loudness.evening(clip)
    return {
      clip,
      placements,
      found: loudness.ofClip(clip),
      differs: [
        ...new Set((clip.reading?.audio ?? []).flatMap((stream) => soundMismatches(stream, props.timeline))),
      ],
      gain: gains.size === 1 ? [...gains][0] : null,
      evening,
      isEven: evening !== null && placements.every(({ gain }) => Math.abs(gain - evening.gain) < 0.05),
    }
  }),
)
const decibels = (value: number) => `${value > 0 ? '+' : value < 0 ? '−' : ''}${figure(Math.abs(value))} dB`
function aimAt(text: string) {
  const value = Number(text.replace('−', '-').replace(',', '.'))
  if (Number.isFinite(value) && value <= 0 && value >= -70) loudness.target = value
}
</script>

<template>
  <h2 class="heading"><TermMark term="loudness">sound</TermMark> · {{ timeline.soundLayout }}</h2>
  <p class="small">
    the whole:
    <span class="figures">{{ loudnessWords(whole) }}</span>
  </p>
  <label class="small target"
    >evened to
    <CommitInput
      :text="String(loudness.target).replace('-', '−')"
      label="Loudness to even to, in LUFS"
      @commit="aimAt"
    />
    LUFS</label
  >
  <ul class="ruled" aria-label="Sound of the clips" :aria-busy="loudness.isBusy">
    <li v-if="clips.length === 0" class="quiet">Nothing sounds.</li>
    <li v-for="row in clips" :key="row.clip.id">
      <button class="what" @click="selection.select(row.placements.map(({ id }) => id))">
        <b>{{ row.clip.name }}</b>
        <span class="figures small">{{ loudnessWords(row.found) }}</span>
      </button>
      <p v-for="says in row.differs" :key="says" class="small">{{ says }}</p>
      <p v-if="row.gain" class="small quiet">heard {{ decibels(row.gain) }}</p>
      <Button
        v-if="row.evening && row.placements.length && !row.isEven"
        size="small"
        @click="loudness.even(row.clip)"
        >Even it: {{ decibels(row.evening.gain) }}</Button
      >
      <p v-if="row.evening?.limited" class="small quiet">no more: its peak reaches −1 dB</p>
    </li>
  </ul>
</template>

<style scoped>
ul {
  flex: 1;
}
.what {
  all: unset;
  display: flex;
  flex-direction: column;
  cursor: pointer;
  min-height: 24px;
  width: 100%;
}
.what:focus-visible {
  outline: 2px solid var(--accent);
  outline-offset: -2px;
}
.target {
  display: flex;
  gap: 5px;
  align-items: center;
}
.target :deep(input) {
  width: 48px;
}
</style>
