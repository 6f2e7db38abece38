<script setup lang="ts">
import { computed, ref } from 'vue'
import { type Clip } from '../../../../core/model/clip'
import { timingOf } from '../../../../core/model/timing'
import { countOf, framesOf } from '../../../../core/motion/timing'
import { clockTime } from '../../../../core/words/figures'
import { useSelection } from '../../../../stores/selection'
import { useProject } from '../../../../stores/document/project'
import { useCut } from '../../../../stores/cut'
import { useTimelines } from '../../../../stores/timelines'
import { rateLabel, uprightSizeName } from '../../../../core/inspect/labels'
import { dragClip } from './drag'
import { useKeys } from '../../../keys/use-keys'

/**
 * The clips that can be placed: at the end by double click or Enter, at the playhead between or over what is there, or above it.
 * One that is looked at stands in the viewer, where its in and out are marked.
 */
const project = useProject()
const timelines = useTimelines()
const cut = useCut()
const selection = useSelection()
const find = ref('')
const placeable = computed(() =>
  project.clips.filter(
    (clip) =>
      clip.reading && !clip.fault && clip.name.toLowerCase().includes(find.value.trim().toLowerCase()),
  ),
)
const what = (clip: Clip) =>
  clip.reading?.kind === 'audio' ? 'sound' : `${uprightSizeName(clip)} ${rateLabel(clip)}`
const lastOf = (clip: Clip) => countOf(framesOf(timingOf(clip))) - 1

/** The marks of the clip that is looked at, for placing; none of another. */
function marksOf(clip: Clip) {
  const viewed = cut.viewed
  if (viewed?.clip.id !== clip.id) return null
  const { from, to } = viewed.marks
  return from === undefined && to === undefined ? null : { from: from ?? 0, to: to ?? lastOf(clip) }
}
function place(clip: Clip, how: 'end' | 'insert' | 'over' | 'above') {
  timelines.place([clip], how === 'end' ? { how } : { how, frame: selection.playhead }, marksOf(clip))
}
const look = (clip: Clip) =>
  (cut.viewed = cut.viewed?.clip.id === clip.id ? null : { clip, frame: 0, marks: {} })
function seek(by: number) {
  const viewed = cut.viewed
  if (!viewed) return
  const frame = Math.max(0, Math.min(lastOf(viewed.clip), viewed.frame + by))
  cut.viewed = { ...viewed, frame }
}
function mark(which: 'from' | 'to') {
  const viewed = cut.viewed
  if (!viewed) return
  const marks = { ...viewed.marks, [which]: viewed.frame }
  // An out before the in takes the in away, and the other way about.
  const { from = 0, to = Infinity } = marks
  if (from > to) delete marks[which === 'from' ? 'to' : 'from']
  cut.viewed = { ...viewed, marks }
}
const meantBy = useKeys('toPlace')
function onKey(event: KeyboardEvent, clip: Clip) {
  if (event.ctrlKey || event.metaKey || event.altKey) return
  const far = event.shiftKey ? 25 : 1
  const does: Record<string, () => void> = {
    Enter: () => place(clip, 'end'),
    i: () => place(clip, 'insert'),
    o: () => place(clip, 'over'),
    u: () => place(clip, 'above'),
    v: () => look(clip),
    ArrowRight: () => seek(far),
    ArrowLeft: () => seek(-far),
    '[': () => mark('from'),
    ']': () => mark('to'),
    Escape: () => (cut.viewed = null),
  }
  const key = meantBy(event)
  const act = key === null ? undefined : does[key]
  if (!act) return
  act()
  event.preventDefault()
  event.stopPropagation()
}
</script>

<template>
  <h2 class="heading">to place: drag, double-click or Enter</h2>
  <input v-model="find" class="find" type="search" aria-label="Find a clip" placeholder="find a clip" />
  <ul>
    <li v-for="clip in placeable" :key="clip.id" :class="{ viewed: cut.viewed?.clip.id === clip.id }">
      <button
        class="clip"
        draggable="true"
        :title="`Place ${clip.name}`"
        @dragstart="dragClip($event, clip)"
        @dblclick="place(clip, 'end')"
        @keydown="onKey($event, clip)"
      >
        <span class="ellipsis">{{ clip.name }}</span>
        <span class="quiet figures small">{{ what(clip) }} {{ clockTime(clip.reading?.durationSec) }}</span>
      </button>
      <div class="acts">
        <button class="word" :aria-label="`Look at ${clip.name}`" @click="look(clip)">look</button>
        <button
          class="word"
          title="At the playhead; what stands there moves on"
          :aria-label="`Insert ${clip.name}`"
          @click="place(clip, 'insert')"
        >
          insert
        </button>
        <button
          class="word"
          title="At the playhead, over what is there"
          :aria-label="`Put ${clip.name} over`"
          @click="place(clip, 'over')"
        >
          over
        </button>
        <button
          class="word"
          title="At the playhead, on a track above"
          :aria-label="`Put ${clip.name} above`"
          @click="place(clip, 'above')"
        >
          above
        </button>
      </div>
      <p v-if="cut.viewed?.clip.id === clip.id" class="small marks figures">
        <input
          type="range"
          min="0"
          :max="lastOf(clip)"
          :value="cut.viewed.frame"
          :aria-label="`Frame of ${clip.name}`"
          @input="seek(Number(($event.target as HTMLInputElement).value) - cut.viewed!.frame)"
        />
        <span>{{ cut.viewed.frame }}</span>
        <button class="word" @click="mark('from')">in {{ cut.viewed.marks.from ?? '–' }}</button>
        <button class="word" @click="mark('to')">out {{ cut.viewed.marks.to ?? '–' }}</button>
      </p>
    </li>
  </ul>
</template>

<style scoped>
.find {
  width: calc(100% - 10px);
  height: 26px;
  flex: none;
  border: 1px solid var(--quiet);
  background: var(--sheet);
  color: var(--ink);
  font: inherit;
  font-size: 12px;
  padding: 0 6px;
}
ul {
  list-style: none;
  width: 100%;
  overflow: auto;
  min-height: 0;
  flex: 4;
}
li {
  border-bottom: 1px solid var(--line);
}
.viewed {
  background: var(--sheet);
  box-shadow: inset 3px 0 var(--accent);
}
.clip {
  all: unset;
  display: flex;
  flex-direction: column;
  width: 100%;
  box-sizing: border-box;
  padding: 3px 4px;
  cursor: grab;
  /* Unsetting everything above takes this away too, and with it dragging. */
  -webkit-user-drag: element;
  user-select: none;
}
.clip:focus-visible {
  outline: 2px solid var(--accent);
  outline-offset: -2px;
}
.acts {
  display: none;
}
li:hover .acts,
li:focus-within .acts {
  display: flex;
}
.acts .word {
  padding: 0 5px;
  font-size: 12px;
}
.small {
  font-size: 11.5px;
}
.marks {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px;
  padding: 0 4px 4px;
}
.marks input {
  width: 120px;
}
</style>
