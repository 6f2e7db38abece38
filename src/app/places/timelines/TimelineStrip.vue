<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import { findingOf } from '../../../core/check/check'
import type { Placement, Timeline } from '../../../core/edit/project'
import type { Format } from '../../../core/format/format'
import { nominalRate, frameToTimecode } from '../../../core/rate/timecode'
import { shortWords, tollSentence } from '../../../core/toll/sentence'
import { useProject } from '../../../stores/project'
import GradeMark from '../../components/GradeMark.vue'

/** The cut to scale, each clip with its toll; the playhead is moved by mouse and keys. */
const props = defineProps<{ timeline: Timeline; format: Format }>()
const playhead = defineModel<number>('playhead', { required: true })
const selected = defineModel<string | null>('selected', { required: true })
defineEmits<{ remove: [] }>()
const project = useProject()
const box = ref<HTMLElement | null>(null)
const { width } = useElementSize(box)

const total = computed(() =>
  Math.max(1, ...props.timeline.tracks.flatMap((t) => t.placements.map((p) => p.start + p.length))),
)
const scale = computed(() => width.value / total.value)
const tracks = computed(() =>
  props.timeline.tracks
    .filter((track) => track.kind === 'video' || track.placements.length)
    .map((track) => ({
      ...track,
      shown: track.placements.map((placement) => {
        const finding = findingOf(project.doc!, placement, props.format)
        return {
          placement,
          name: project.doc!.clips[placement.clipId]?.name ?? 'missing clip',
          finding,
          interlaced: project.doc!.clips[placement.clipId]?.reading?.video?.scan === 'interlaced',
          says: finding && finding.toll.charges.length ? finding.toll.charges.map(shortWords).join(', ') : '',
        }
      }),
    })),
)
/** Marks of the ruler: about eight, at whole seconds. */
const marks = computed(() => {
  const perSecond = nominalRate(props.format.rate)
  const steps = [1, 2, 5, 10, 15, 30, 60, 120, 300, 600, 1800, 3600]
  const seconds = steps.find((s) => total.value / (s * perSecond) <= 8) ?? 7200
  const frames: number[] = []
  for (let f = 0; f < total.value; f += seconds * perSecond) frames.push(f)
  return frames
})
const order = computed(() =>
  props.timeline.tracks.flatMap((t) => t.placements).sort((a, b) => a.start - b.start),
)

function seek(event: PointerEvent) {
  if (event.type === 'pointermove' && event.buttons !== 1) return
  const bounds = box.value!.getBoundingClientRect()
  goTo(Math.floor((event.clientX - bounds.left) / scale.value))
}
/** A narrower block shows the shape of its grade alone, in pixels. */
const roomForWord = 68
const goTo = (frame: number) => (playhead.value = Math.max(0, Math.min(total.value - 1, frame)))
function choose(placement: Placement) {
  selected.value = placement.id
  if (playhead.value < placement.start || playhead.value >= placement.start + placement.length)
    goTo(placement.start)
}
function onKey(event: KeyboardEvent) {
  const cuts = [0, ...order.value.flatMap((p) => [p.start, p.start + p.length])].sort((a, b) => a - b)
  const second = nominalRate(props.format.rate)
  const moves: Record<string, () => void> = {
    ArrowLeft: () => goTo(playhead.value - (event.shiftKey ? second : 1)),
    ArrowRight: () => goTo(playhead.value + (event.shiftKey ? second : 1)),
    ArrowUp: () => goTo(cuts.filter((c) => c < playhead.value).at(-1) ?? 0),
    ArrowDown: () => goTo(cuts.find((c) => c > playhead.value) ?? total.value),
    Home: () => goTo(0),
    End: () => goTo(total.value - 1),
    Enter: () => {
      const under = order.value.find((p) => playhead.value >= p.start && playhead.value < p.start + p.length)
      if (under) selected.value = under.id
    },
    Escape: () => (selected.value = null),
  }
  if (!moves[event.key]) return
  moves[event.key]()
  event.preventDefault()
}
</script>

<template>
  <div
    class="strip"
    role="group"
    aria-label="The cut to scale: arrow keys move the playhead, up and down go from cut to cut, Enter selects, Delete takes out"
    tabindex="0"
    @keydown="onKey"
    @keydown.delete="$emit('remove')"
  >
    <div ref="box" class="box" @pointerdown="seek" @pointermove="seek">
      <div class="ruler">
        <span
          v-for="mark in marks"
          :key="mark"
          class="figures quiet"
          :style="{ left: `${mark * scale}px` }"
          >{{ frameToTimecode(mark, format.rate) }}</span
        >
      </div>
      <div v-for="track in tracks" :key="track.id" class="track">
        <div
          v-for="item in track.shown"
          :key="item.placement.id"
          class="item"
          :style="{ left: `${item.placement.start * scale}px`, width: `${item.placement.length * scale}px` }"
        >
          <button
            class="block"
            tabindex="-1"
            :class="{
              chosen: selected === item.placement.id,
              hatched: item.interlaced,
              sound: track.kind === 'audio',
            }"
            :title="`${item.name}: ${item.finding ? tollSentence(item.finding.toll) : 'sound'}`"
            @click="choose(item.placement)"
          >
            <span class="ellipsis name">{{ item.name }}</span>
            <GradeMark
              v-if="item.finding"
              :grade="item.finding.toll.grade"
              :shape-only="item.placement.length * scale < roomForWord"
            />
          </button>
          <span v-if="item.says" class="says quiet">{{ item.says }}</span>
        </div>
      </div>
      <div class="playhead" :style="{ left: `${(playhead + 0.5) * scale}px` }" />
      <p v-if="order.length === 0" class="quiet hint">Drag a clip here, or double-click it in the list.</p>
    </div>
  </div>
</template>

<style scoped>
.strip {
  border-top: 1px solid var(--ink);
  flex: none;
}
.box {
  position: relative;
  overflow: hidden;
  min-height: 112px;
}
.ruler {
  position: relative;
  height: 22px;
  border-bottom: 1px solid var(--ink);
}
.ruler span {
  position: absolute;
  font-size: 11px;
  padding: 3px 0 0 4px;
  border-left: 1px solid var(--line);
  height: 100%;
  white-space: nowrap;
}
.track {
  position: relative;
  height: 88px;
  margin-top: 6px;
}
.track:has(.sound) {
  height: 34px;
}
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
.playhead {
  position: absolute;
  top: 0;
  bottom: 0;
  width: 2px;
  margin-left: -1px;
  background: var(--accent);
  pointer-events: none;
}
.hint {
  position: absolute;
  top: 50px;
  left: 8px;
}
</style>
