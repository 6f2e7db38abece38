<script setup lang="ts">
import { clockTime } from '../../../core/words/figures'
import { computed } from 'vue'
import { type Clip } from '../../../core/edit/clip'
import { useProject } from '../../../stores/project'
import { useTimelines } from '../../../stores/timelines'
import { rateLabel, uprightSizeName } from '../../figures'
import { dragClip } from './drag'

/** The clips that can be placed: dragged onto the timeline, or put at its end by double-click or Enter. */
const project = useProject()
const timelines = useTimelines()
const placeable = computed(() => project.clips.filter((clip) => clip.reading && !clip.fault))
const what = (clip: Clip) =>
  clip.reading?.kind === 'audio' ? 'sound' : `${uprightSizeName(clip)} ${rateLabel(clip)}`
</script>

<template>
  <h2 class="heading">to place: drag, double-click or Enter</h2>
  <ul>
    <li v-for="clip in placeable" :key="clip.id">
      <button
        class="clip"
        draggable="true"
        :title="`Place ${clip.name}`"
        @dragstart="dragClip($event, clip)"
        @dblclick="timelines.place([clip])"
        @keydown.enter.prevent="timelines.place([clip])"
      >
        <span class="ellipsis">{{ clip.name }}</span>
        <span class="quiet figures small">{{ what(clip) }} {{ clockTime(clip.reading?.durationSec) }}</span>
      </button>
    </li>
  </ul>
</template>

<style scoped>
ul {
  list-style: none;
  width: 100%;
  overflow: auto;
  min-height: 0;
  flex: 1;
}
li {
  border-bottom: 1px solid var(--line);
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
.small {
  font-size: 11.5px;
}
</style>
