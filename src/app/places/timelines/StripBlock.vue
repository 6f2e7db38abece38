<script setup lang="ts">
import { computed } from 'vue'
import { findingOf } from '../../../core/check/check'
import type { Placement, Timeline } from '../../../core/edit/timeline'
import type { Format } from '../../../core/format/format'
import { shortWords, tollSentence } from '../../../core/toll/sentence'
import { useProject } from '../../../stores/project'
import GradeMark from '../../components/GradeMark.vue'

/** A placement on the strip: its name, its grade and what it pays, as far as there is room in view. */
const props = defineProps<{
  timeline: Timeline
  placement: Placement
  format: Format
  /** Of the whole block, in pixels from the left edge of the strip. */
  left: number
  width: number
  /** Width of the strip. */
  view: number
  chosen: boolean
}>()
defineEmits<{ choose: [] }>()
const project = useProject()

/** A narrower block shows the shape of its grade alone: words would break off. In pixels. */
const roomForWord = 68
/** And so much is needed for what it pays. */
const roomForSays = 110
/** A still narrower one has no room for a letter of its name. */
const roomForName = 26
const finding = computed(() => findingOf(project.opened, props.timeline, props.placement, props.format))
const clip = computed(() => {
  const { source } = props.placement
  return source.kind === 'clip' ? project.opened.clips[source.clipId] : undefined
})
const name = computed(() => finding.value?.name ?? clip.value?.name ?? 'missing clip')
const interlaced = computed(() => clip.value?.reading?.video?.scan === 'interlaced')
const says = computed(() => finding.value?.toll.charges.map(shortWords).join(', ') ?? '')
/** The part that is in view: what is written stands there. */
const seen = computed(() => {
  const from = Math.max(-2, props.left)
  const to = Math.min(props.view + 2, props.left + props.width)
  return { left: from, width: Math.max(1, to - from) }
})
</script>

<template>
  <div class="item" :style="{ left: `${seen.left}px`, width: `${seen.width}px` }">
    <button
      class="block"
      tabindex="-1"
      :class="{ chosen, hatched: interlaced, sound: !finding, narrow: seen.width < roomForName }"
      :title="`${name}: ${finding ? tollSentence(finding.toll) : 'sound'}`"
      @click="$emit('choose')"
    >
      <span v-if="seen.width >= roomForName" class="ellipsis name">{{ name }}</span>
      <GradeMark v-if="finding" :grade="finding.toll.grade" :shape-only="seen.width < roomForWord" />
    </button>
    <span v-if="says && seen.width >= roomForSays" class="says quiet">{{ says }}</span>
  </div>
</template>

<style scoped>
.item {
  position: absolute;
  top: 0;
  padding-right: 2px;
}
.block {
  all: unset;
  box-sizing: border-box;
  width: 100%;
  height: 46px;
  padding: 3px 6px;
  border: 1px solid var(--ink);
  background: var(--sheet);
  display: flex;
  flex-direction: column;
  align-items: flex-start;
  overflow: hidden;
  cursor: pointer;
  font-size: 12px;
}
.name {
  max-width: 100%;
}
.sound {
  height: 26px;
}
.narrow {
  padding: 3px 0;
  align-items: center;
}
.hatched {
  background-image: repeating-linear-gradient(var(--line) 0 1px, transparent 1px 4px);
}
.chosen {
  outline: 2px solid var(--accent);
  outline-offset: -2px;
}
.says {
  display: -webkit-box;
  -webkit-line-clamp: 3;
  -webkit-box-orient: vertical;
  overflow: hidden;
  font-size: 11px;
  line-height: 1.2;
  padding: 2px 2px 0;
}
</style>
