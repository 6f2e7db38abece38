<script setup lang="ts">
import { computed } from 'vue'
import type { Clip } from '../../../../core/model/clip'
import { heardOf } from '../../../../core/plan/heard'
import type { Placement } from '../../../../core/model/timeline'
import { toNumber } from '../../../../core/rational/rational'
import { peaksPerSecond } from '../../../../media/sound/mixing'
import { useProject } from '../../../../stores/document/project'
import { useSounds } from '../../../../stores/sounds'
import { useTimelines } from '../../../../stores/timelines'

/** The shape of a sound in a block: how loud it is, along the part that is seen. */
const props = defineProps<{
  clip: Clip
  placement: Placement
  share: { readonly from: number; readonly to: number }
  width: number
}>()
const project = useProject()
const sounds = useSounds()
const timelines = useTimelines()
const height = 16
const path = computed(() => {
  const shape = sounds.shapeOf(props.clip)
  const timeline = timelines.current
  const rate = timeline?.rate
  if (!shape || !rate) return ''
  const seconds = props.placement.length / toNumber(rate)
  const start = props.placement.start / toNumber(rate)
  const parts = heardOf(project.opened, timeline, props.placement).map((part) => ({
    from: toNumber(part.from),
    source: toNumber(part.sourceSeconds),
    speed: toNumber(part.speed),
  }))
  /** The moment of the file that is heard at a moment of the timeline. */
  const heardAt = (moment: number) => {
    const part = parts.findLast(({ from }) => from <= moment) ?? parts[0]
    return part ? part.source + (moment - part.from) * part.speed : 0
  }
  const steps = Math.max(2, Math.min(600, Math.floor(props.width / 2)))
  const at = (step: number) =>
    heardAt(start + seconds * (props.share.from + ((props.share.to - props.share.from) * step) / steps)) *
    peaksPerSecond
  const loud = (from: number, to: number) => {
    let most = 0
    for (let i = Math.floor(from); i < Math.max(Math.floor(from) + 1, to); i++)
      most = Math.max(most, shape[i] ?? 0)
    return Math.min(1, most)
  }
  const tops = Array.from({ length: steps }, (_, i) => loud(at(i), at(i + 1)))
  const x = (i: number) => ((i + 0.5) / steps) * props.width
  const upper = tops.map((v, i) => `${x(i).toFixed(1)} ${(height / 2 - (v * height) / 2).toFixed(1)}`)
  const lower = tops.map((v, i) => `${x(i).toFixed(1)} ${(height / 2 + (v * height) / 2 + 0.5).toFixed(1)}`)
  return `M${upper.join(' L')} L${lower.reverse().join(' L')} Z`
})
</script>

<template>
  <svg :width="width" :height="height" aria-hidden="true"><path :d="path" /></svg>
</template>

<style scoped>
path {
  fill: var(--quiet);
  opacity: 0.7;
}
</style>
