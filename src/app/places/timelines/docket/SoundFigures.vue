<script setup lang="ts">
import { computed } from 'vue'
import type { Placement } from '../../../../core/model/timeline'
import { soundMismatches } from '../../../../core/sound/mismatch'
import { loudnessWords, useLoudness } from '../../../../stores/loudness'
import { useProject } from '../../../../stores/document/project'
import { useCut } from '../../../../stores/cut'
import { useTimelines } from '../../../../stores/timelines'
import FigureInput from './FigureInput.vue'
import TermMark from '../../../components/terms/TermMark.vue'

/** How placements of sound sound: how loud, and which of the channels of their clip are heard. */
const props = defineProps<{ placements: readonly Placement[] }>()
const project = useProject()
const cut = useCut()
const loudness = useLoudness()
const timelines = useTimelines()
const first = computed(() => props.placements[0])
const found = computed(() => {
  const [timeline, placement] = [timelines.current, first.value]
  return timeline && placement ? loudness.ofTimeline(timeline, placement) : undefined
})
const gain = computed(() => {
  const [gain, ...rest] = props.placements.map((placement) => placement.gain)
  return gain !== undefined && rest.every((other) => other === gain) ? gain : null
})
const streams = computed(() => {
  const source = first.value?.source
  const clip = source?.kind === 'clip' ? project.opened.clips[source.clipId] : undefined
  return clip?.reading?.audio ?? []
})
const differs = computed(() => {
  const timeline = timelines.current
  return timeline ? [...new Set(streams.value.flatMap((stream) => soundMismatches(stream, timeline)))] : []
})
/** The channels of the first one's clip, stream after stream. */
const channels = computed(() =>
  streams.value.flatMap(({ channels: count }, stream) =>
    Array.from({ length: count ?? 1 }, (_, channel) => `stream ${stream + 1}, channel ${channel + 1}`),
  ),
)
const heard = computed(() => new Set(first.value?.channels ?? channels.value.map((_, i) => i)))
function toggle(channel: number) {
  const next = new Set(heard.value)
  if (!next.delete(channel)) next.add(channel)
  const all = channels.value.map((_, i) => i)
  cut.setSound(props.placements, {
    channels: next.size === all.length ? null : all.filter((i) => next.has(i)),
  })
}
</script>

<template>
  <section aria-label="Sound">
    <h3><TermMark term="loudness">Sound</TermMark></h3>
    <p class="small figures">{{ loudnessWords(found) }}</p>
    <p v-for="says in differs" :key="says" class="small">{{ says }}</p>
    <FigureInput
      label="gain"
      unit="dB"
      :value="gain"
      :step="0.5"
      @change="cut.setSound(placements, { gain: Math.max(-200, Math.min(60, $event)) })"
    />
    <label v-for="(channel, i) in channels" :key="channel"
      ><input type="checkbox" :checked="heard.has(i)" @change="toggle(i)" /> {{ channel }}</label
    >
  </section>
</template>

<style scoped>
section {
  border-top: 1px solid var(--line);
  padding-top: 6px;
  display: flex;
  flex-direction: column;
  align-items: flex-start;
}
label {
  display: flex;
  gap: 6px;
  align-items: center;
  min-height: 24px;
  font-size: 12px;
}
</style>
