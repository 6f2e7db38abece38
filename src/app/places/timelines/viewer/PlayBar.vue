<script setup lang="ts">
import { useSelection } from '../../../../stores/selection'
import { usePlaying } from '../../../../stores/playing'

/** Playing: all or what is in hand, at true speed or at a tenth, round and round or once. */
const emit = defineEmits<{ play: []; playSelection: [] }>()
const playing = usePlaying()
const selection = useSelection()
</script>

<template>
  <button class="word" data-play :aria-pressed="playing.isOn" @click="emit('play')">
    {{ playing.isOn ? 'stop' : 'play' }}
  </button>
  <button class="word" :disabled="!selection.stretch || playing.isOn" @click="emit('playSelection')">
    in hand
  </button>
  <button
    class="word"
    :aria-pressed="playing.loops"
    :disabled="playing.isOn"
    @click="playing.loops = !playing.loops"
  >
    loop
  </button>
  <button
    class="word"
    :aria-pressed="playing.speed !== 1"
    :disabled="playing.isOn"
    @click="playing.speed = playing.speed === 1 ? 0.1 : 1"
  >
    at a tenth
  </button>
</template>

<style scoped>
.word {
  white-space: nowrap;
}
</style>
