<script setup lang="ts">
import { ref } from 'vue'
import type { Track } from '../../../../core/model/timeline'
import { useCut } from '../../../../stores/cut'

/** The head of a track: its name, and whether it is seen or heard, and can be edited. */
const props = defineProps<{ track: Track }>()
const cut = useCut()
const naming = ref(false)
function rename(event: Event) {
  const name = (event.target as HTMLInputElement).value.trim()
  naming.value = false
  if (name && name !== props.track.name) cut.setTrack(props.track, { name })
}
const vFocus = { mounted: (element: HTMLInputElement) => element.select() }
</script>

<template>
  <div class="head" :class="track.kind">
    <input
      v-if="naming"
      v-focus
      class="name"
      :value="track.name"
      :aria-label="`Name of track ${track.name}`"
      @blur="rename"
      @keydown.enter="rename"
      @keydown.esc.stop="naming = false"
      @keydown.stop
    />
    <button v-else class="word name ellipsis" title="Rename it" @click="naming = true">
      {{ track.name }}
    </button>
    <span class="acts">
      <button
        v-if="track.kind === 'video'"
        class="word"
        :aria-pressed="track.hidden"
        @click="cut.setTrack(track, { hidden: !track.hidden })"
      >
        {{ track.hidden ? 'hidden' : 'seen' }}<span class="visually-hidden"> track {{ track.name }}</span>
      </button>
      <button
        v-else
        class="word"
        :aria-pressed="track.muted"
        @click="cut.setTrack(track, { muted: !track.muted })"
      >
        {{ track.muted ? 'muted' : 'heard' }}<span class="visually-hidden"> track {{ track.name }}</span>
      </button>
      <button
        class="word"
        :aria-pressed="track.locked"
        @click="cut.setTrack(track, { locked: !track.locked })"
      >
        {{ track.locked ? 'locked' : 'free' }}<span class="visually-hidden"> track {{ track.name }}</span>
      </button>
      <button class="word out" :aria-label="`Take track ${track.name} out`" @click="cut.dropTrack(track)">
        ×
      </button>
    </span>
  </div>
</template>

<style scoped>
.head {
  display: flex;
  flex-direction: column;
  justify-content: center;
  font-size: 12px;
  min-width: 0;
}
.audio.head {
  flex-direction: row;
  align-items: center;
  justify-content: space-between;
}
.name {
  min-width: 24px;
  padding: 0;
  min-height: 24px;
  text-align: left;
  color: var(--ink);
  max-width: 90px;
}
.audio .name {
  max-width: 26px;
}
input.name {
  width: 80px;
}
.acts {
  display: flex;
}
.acts .word {
  padding: 0 4px 0 0;
  min-height: 24px;
  min-width: 24px;
  text-align: left;
  font-size: 11px;
}
.out {
  visibility: hidden;
}
.head:hover .out,
.head:focus-within .out {
  visibility: visible;
}
</style>
