<script setup lang="ts">
import { computed } from 'vue'
import { type Rate, rateName } from '../../../../core/rate/rate'
import { toNumber } from '../../../../core/rational/rational'
import { figure } from '../../../../core/words/figures'
import { useHand } from '../../../../stores/hand'
import { usePlaying } from '../../../../stores/playing'

/** Playing: at true speed or at a tenth, round and round or once; and what was achieved, as it was counted. */
const props = defineProps<{ rate: Rate }>()
const emit = defineEmits<{ play: []; playSelection: [] }>()
const playing = usePlaying()
const hand = useHand()

const says = computed(() => {
  if (playing.state === 'preparing') return 'making ready'
  const { achieved } = playing
  if (!achieved) return ''
  const late = achieved.due - achieved.shown
  const asked = toNumber(props.rate) * playing.speed
  const name = playing.speed === 1 ? rateName(props.rate) : figure(asked, 2)
  return `${figure(achieved.perSecond)} of ${name} frames a second, ${late > 0 ? `${late} late` : 'none late'}`
})
const trouble = computed(() => playing.achieved?.trouble ?? playing.soundTrouble)
</script>

<template>
  <button class="word" :aria-pressed="playing.isOn" @click="emit('play')">
    {{ playing.isOn ? 'stop' : 'play' }}
  </button>
  <button class="word" :disabled="!hand.stretch || playing.isOn" @click="emit('playSelection')">
    play what is in hand
  </button>
  <button
    class="word"
    :aria-pressed="playing.loops"
    :disabled="playing.isOn"
    @click="playing.loops = !playing.loops"
  >
    round and round
  </button>
  <button
    class="word"
    :aria-pressed="playing.speed !== 1"
    :disabled="playing.isOn"
    @click="playing.speed = playing.speed === 1 ? 0.1 : 1"
  >
    a tenth of the speed
  </button>
  <span
    class="achieved quiet"
    role="status"
    :data-due="playing.achieved?.due"
    :data-shown="playing.achieved?.shown"
    >{{ trouble ? `${says} · ${trouble}` : says }}</span
  >
</template>

<style scoped>
.word {
  white-space: nowrap;
}
.achieved {
  font-size: 12px;
  min-width: 0;
}
</style>
