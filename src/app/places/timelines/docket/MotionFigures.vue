<script setup lang="ts">
import { computed } from 'vue'
import { framesThere } from '../../../../core/edit/placing'
import type { SettledPlacement } from '../../../../core/plan/running'
import type { Placement, Timeline } from '../../../../core/model/timeline'
import type { Format } from '../../../../core/format/format'
import { frameToTimecode } from '../../../../core/rate/timecode'
import { nearestRational, toNumber } from '../../../../core/rational/rational'
import type { Motion, Phase } from '../../../../core/treatment/treatment'
import { figure } from '../../../../core/words/figures'
import { useSelection } from '../../../../stores/selection'
import { useProject } from '../../../../stores/document/project'
import { useCut } from '../../../../stores/cut'
import FigureInput from './FigureInput.vue'

/** What goes with the motion that is taken: how fast, whether it is wanted, the pitch, the phase, and the length that it comes to. */
const props = defineProps<{
  settled: SettledPlacement
  placement: Placement
  timeline: Timeline
  format: Format
}>()
const project = useProject()
const selection = useSelection()
const cut = useCut()

const motion = computed(() => props.settled.treatment.motion)
const speed = computed(() => (motion.value.kind === 'speed' ? motion.value : null))
const phased = computed(() =>
  motion.value.kind === 'pulldown' || motion.value.kind === 'remove-pulldown' ? motion.value : null,
)
const there = computed(() => framesThere(project.opened, props.timeline, props.placement))
const set = (next: Motion) => cut.setTreatment(selection.placements, { motion: next })
/** How much faster than it was filmed. */
const times = computed(() => {
  const { rate } = props.settled.picture ?? {}
  if (!speed.value || !rate) return 1
  return speed.value.pace.kind === 'factor'
    ? toNumber(speed.value.pace.factor)
    : toNumber(props.format.rate) / toNumber(rate)
})
const semitones = computed(() => 12 * Math.log2(times.value))
const setSpeed = (part: Partial<Extract<Motion, { kind: 'speed' }>>) =>
  speed.value && set({ ...speed.value, ...part })
</script>

<template>
  <div class="motion">
    <template v-if="speed">
      <FigureInput
        v-if="speed.pace.kind === 'factor'"
        label="speed"
        unit="%"
        :value="toNumber(speed.pace.factor) * 100"
        @change="
          setSpeed({
            pace: {
              kind: 'factor',
              factor: nearestRational(Math.min(1000, Math.max(0.001, $event / 100)), 1e-7),
            },
          })
        "
      />
      <label
        ><input
          type="checkbox"
          :checked="speed.wanted"
          @change="setSpeed({ wanted: ($event.target as HTMLInputElement).checked })"
        />
        the speed is wanted</label
      >
      <label
        ><input
          type="checkbox"
          :checked="speed.keepPitch"
          @change="setSpeed({ keepPitch: ($event.target as HTMLInputElement).checked })"
        />
        keep the pitch
        <span class="quiet figures">
          (else {{ semitones > 0 ? '+' : '−' }}{{ figure(Math.abs(semitones), 2) }} semitones)</span
        ></label
      >
    </template>
    <label v-if="phased" class="quiet"
      >phase
      <select
        aria-label="Phase of the pattern"
        :value="phased.phase"
        @change="set({ ...phased, phase: Number(($event.target as HTMLSelectElement).value) as Phase })"
      >
        <option v-for="(name, value) in ['AA', 'BB', 'BC', 'CD', 'DD']" :key="name" :value="value">
          {{ value }} · begins at {{ name }}
        </option>
      </select></label
    >
    <p v-if="there !== null && there !== placement.length" class="quiet">
      runs <span class="figures">{{ frameToTimecode(there, format.rate) }}</span> from here on; placed
      <span class="figures">{{ frameToTimecode(placement.length, format.rate) }}</span>
      <button class="word accent" @click="cut.asLongAsThere(selection.placements)">all of it</button>
    </p>
  </div>
</template>

<style scoped>
.motion {
  display: flex;
  flex-direction: column;
  gap: 2px;
  padding: 0 4px;
  font-size: 12px;
}
label {
  display: flex;
  gap: 6px;
  align-items: center;
  min-height: 24px;
}
.accent {
  color: var(--accent);
}
</style>
