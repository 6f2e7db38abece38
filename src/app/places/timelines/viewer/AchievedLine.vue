<script setup lang="ts">
import { computed } from 'vue'
import { type Rate, rateName } from '../../../../core/rate/rate'
import { toNumber } from '../../../../core/rational/rational'
import { counted, figure } from '../../../../core/words/figures'
import { usePlaying } from '../../../../stores/playing'

/** What playing achieved, as it was counted: frames that were shown while they were due, of all that fell due. */
const props = defineProps<{ rate: Rate }>()
const playing = usePlaying()
const says = computed(() => {
  if (playing.state === 'preparing') return 'making ready'
  const { achieved } = playing
  if (!achieved) return ''
  const late = achieved.due - achieved.shown
  const asked = toNumber(props.rate) * playing.speed
  const name = playing.speed === 1 ? rateName(props.rate) : figure(asked, 2)
  return `${figure(achieved.perSecond)} of ${name} frames a second, ${late > 0 ? `${late} late` : 'none late'}`
})
/** What is not seen as it is. */
const small = computed(() => {
  const { proxied } = playing
  return proxied.length && says.value ? `${counted(proxied.length, 'proxy', 'proxies')} played · ` : ''
})
const trouble = computed(() => playing.achieved?.trouble ?? playing.soundTrouble)
</script>

<template>
  <span
    class="achieved quiet"
    role="status"
    :data-due="playing.achieved?.due"
    :data-shown="playing.achieved?.shown"
    :title="playing.proxied.join(', ')"
    >{{ small }}{{ trouble ? `${says} · ${trouble}` : says }}</span
  >
</template>

<style scoped>
.achieved {
  flex: 1;
  text-align: right;
  overflow: hidden;
  text-overflow: ellipsis;
}
</style>
