<script setup lang="ts">
import { computed } from 'vue'
import type { Finding } from '../../../../core/check/check'
import { framesThere } from '../../../../core/edit/placing'
import { sourceName } from '../../../../core/model/project'
import type { Placement } from '../../../../core/model/timeline'
import { useTimelines } from '../../../../stores/timelines'
import { shortWords, tollSentence } from '../../../../core/toll/sentence'
import { useRelinking } from '../../../../stores/relinking'
import { useMedia } from '../../../../stores/media'
import { useProject } from '../../../../stores/document/project'
import GradeMark from '../../../components/GradeMark.vue'
import SoundShape from './SoundShape.vue'
import type { Grip } from './use-strip-drag'

/** A placement on the strip: its name, its grade as a shape in ink, its picture or the shape of its sound. */
const props = defineProps<{
  placement: Placement
  finding: Finding | null
  kind: 'video' | 'audio'
  /** Of the whole block, in pixels of the strip. */
  left: number
  width: number
  /** So many pixels of it are out of view on the left, and on the right: what is written stands between. */
  before: number
  after: number
  chosen: boolean
  locked: boolean
}>()
const emit = defineEmits<{ grip: [grip: Grip, event: PointerEvent]; choose: [event: MouseEvent] }>()
const project = useProject()
const media = useMedia()
const relinking = useRelinking()
const timelines = useTimelines()

/** A still narrower one has no room for a letter of its name, in pixels. */
const roomForName = 40
const roomForSays = 120
/** Of a narrower one all is its body; of a wider one at least three fifths are. */
const roomForEdges = 16
const clip = computed(() => {
  const { source } = props.placement
  return source.kind === 'clip' ? project.opened.clips[source.clipId] : undefined
})
const name = computed(() => sourceName(project.opened, props.placement.source))
const isGone = computed(() => clip.value !== undefined && media.missing.has(clip.value.id))
const isInterlaced = computed(() => clip.value?.reading?.video?.scan === 'interlaced')
const says = computed(() => props.finding?.toll.charges.map(shortWords).join(', ') ?? '')
const poster = computed(() => (props.kind === 'video' && clip.value ? media.posterOf(clip.value) : undefined))
/** Pixels of it that are in view. */
const seen = computed(() => Math.max(1, props.width - props.before - props.after))
const edge = computed(() => Math.min(6, Math.floor(seen.value / 5)))
/** Where its source ends within it, as a share of the whole; 1 where it does not. */
const ends = computed(() => {
  const timeline = timelines.current
  if (!timeline || props.kind !== 'video') return 1
  const there = framesThere(project.opened, timeline, props.placement)
  return there === null ? 1 : Math.min(1, there / props.placement.length)
})
/** What is seen of it, as shares of the whole. */
const share = computed(() => ({
  from: props.before / props.width,
  to: 1 - props.after / props.width,
}))
const sentence = computed(() =>
  [
    name.value,
    props.kind === 'audio' ? 'sound' : props.finding ? tollSentence(props.finding.toll) : '',
    isGone.value &&
      (relinking.isChanged(clip.value?.id ?? '') ? 'its file changed on disk' : 'its file is not at hand'),
    ends.value < 1 && 'longer than what is there',
  ]
    .filter(Boolean)
    .join(': '),
)
</script>

<template>
  <div class="item" :class="kind" :style="{ left: `${left + before}px`, width: `${seen}px` }">
    <button
      class="block"
      tabindex="-1"
      :class="{ chosen, hatched: isInterlaced, narrow: seen < roomForName, gone: isGone }"
      :title="sentence"
      :aria-label="sentence"
      :aria-pressed="chosen"
      @click.stop="emit('choose', $event)"
      @pointerdown="emit('grip', 'body', $event)"
    >
      <span class="top">
        <GradeMark v-if="finding" class="shape" :grade="finding.toll.grade" shape-only />
        <span v-if="seen >= roomForName" class="ellipsis name">{{ name }}</span>
        <span v-if="says && seen >= roomForSays" class="says ellipsis quiet">{{ says }}</span>
      </span>
      <span
        v-if="kind === 'video'"
        class="film"
        :style="poster ? { backgroundImage: `url(${poster})` } : {}"
      />
      <SoundShape v-else-if="clip" :clip="clip" :placement="placement" :share="share" :width="seen" />
      <span
        v-if="ends < 1"
        class="beyond"
        :style="{ left: `${width * ends - before}px` }"
        title="Beyond the end of its source: nothing is shown"
      />
      <span v-if="isGone" class="missing">{{
        relinking.isChanged(clip?.id ?? '') ? 'changed on disk' : 'file not at hand'
      }}</span>
    </button>
    <template v-if="!locked && seen >= roomForEdges">
      <span
        class="edge start"
        :style="{ width: `${edge}px` }"
        @pointerdown.stop="emit('grip', 'start', $event)"
        @click.stop="emit('choose', $event)"
      />
      <span
        class="edge end"
        :style="{ width: `${edge}px` }"
        @pointerdown.stop="emit('grip', 'end', $event)"
        @click.stop="emit('choose', $event)"
      />
    </template>
  </div>
</template>

<style scoped>
.item {
  position: absolute;
  top: 2px;
  bottom: 2px;
  padding-right: 1px;
  box-sizing: border-box;
  user-select: none;
}
.block {
  all: unset;
  box-sizing: border-box;
  width: 100%;
  height: 100%;
  border: 1px solid var(--ink);
  background: var(--sheet);
  display: flex;
  flex-direction: column;
  overflow: hidden;
  cursor: pointer;
  font-size: 11.5px;
  position: relative;
}
.top {
  display: flex;
  gap: 4px;
  align-items: center;
  padding: 0 4px;
  height: 17px;
  flex: none;
}
/* On the strip the grade is a shape in ink. */
.shape {
  color: var(--ink);
  flex: none;
}
.name {
  flex: 0 1 auto;
}
.says {
  flex: 1 1 0;
  font-size: 10.5px;
  text-align: right;
}
.film {
  flex: 1;
  background-size: auto 100%;
  background-repeat: repeat-x;
  border-top: 1px solid var(--line);
}
.hatched .film {
  border-top: 3px double var(--ink);
}
.narrow .top {
  padding: 0;
  justify-content: center;
}
.chosen {
  outline: 2px solid var(--accent);
  outline-offset: -2px;
  background: color-mix(in srgb, var(--accent) 12%, var(--sheet));
}
.gone {
  border-style: dashed;
}
.beyond {
  position: absolute;
  top: 0;
  bottom: 0;
  right: 0;
  background: repeating-linear-gradient(45deg, var(--sheet) 0 4px, var(--line) 4px 6px);
  border-left: 1px solid var(--ink);
}
.missing {
  position: absolute;
  inset: auto 0 0;
  background: var(--sheet);
  font-size: 10.5px;
  text-align: center;
}
.edge {
  position: absolute;
  top: 0;
  bottom: 0;
  cursor: ew-resize;
}
.start {
  left: 0;
}
.end {
  right: 1px;
}
</style>
