<script setup lang="ts">
import { Button } from 'ant-design-vue'
import { useCut } from '../../../../stores/cut'

/** What is done to the strip as a whole: how it is edited, its tracks, its time scale. */
defineProps<{ scale: string; isWhole: boolean }>()
const emit = defineEmits<{ zoom: [by: number]; whole: []; figure: [] }>()
const cut = useCut()
</script>

<template>
  <div class="scale">
    <button
      class="word"
      :aria-pressed="cut.snaps"
      title="Edges are drawn to cuts and to the playhead (H)"
      @click="cut.snaps = !cut.snaps"
    >
      edges {{ cut.snaps ? 'draw' : 'free' }}
    </button>
    <button
      class="word"
      title="What becomes of that which follows when an end is trimmed (F)"
      @click="cut.following = cut.following === 'stays' ? 'moves' : 'stays'"
    >
      what follows <b>{{ cut.following === 'stays' ? 'stays' : 'moves along' }}</b>
    </button>
    <button class="word" @click="cut.closeAllGaps(null)">close gaps</button>
    <button class="word" @click="cut.makeTrack('video')">+ pictures</button>
    <button class="word" @click="cut.makeTrack('audio')">+ sound</button>
    <button
      class="word"
      title="A circle, lines, bars and a wheel: what is done to them is seen"
      @click="emit('figure')"
    >
      test figure…
    </button>
    <span class="spacer" />
    <span class="quiet figures">{{ scale }}</span>
    <Button size="small" aria-label="Zoom out" @click="emit('zoom', 0.5)">−</Button>
    <Button size="small" aria-label="Zoom in" @click="emit('zoom', 2)">+</Button>
    <Button size="small" :disabled="isWhole" @click="emit('whole')">Whole</Button>
  </div>
</template>

<style scoped>
.scale {
  display: flex;
  gap: 4px;
  align-items: center;
  padding: 3px 0;
  font-size: 12px;
  flex-wrap: wrap;
}
.scale > * {
  white-space: nowrap;
}
.spacer {
  flex: 1;
}
</style>
