<script setup lang="ts">
import { Button } from 'ant-design-vue'
import { computed } from 'vue'
import { clockTime, counted } from '../../../core/words/figures'
import { useMeasuring } from '../../../stores/measuring'

/** The queue of clips whose pictures are measured: how far it is, how long it takes, pause and cancel. */
const measuring = useMeasuring()
const title = computed(() => {
  if (measuring.paused) return 'Measuring rests'
  if (measuring.isHeld) return 'Measuring waits for what plays'
  return measuring.current.length > 0 ? 'Being measured' : 'Measured after the pictures'
})
const left = computed(() => measuring.waiting + measuring.current.length)
const total = computed(() => measuring.done + left.value)
const share = computed(() => {
  const under = measuring.current.reduce(
    (sum, { frames, wanted }) => sum + frames / Math.max(1, wanted),
    measuring.done,
  )
  return under / Math.max(1, total.value)
})
</script>

<template>
  <section v-if="left > 0" class="measuring" aria-label="Being measured">
    <div class="row">
      <b>{{ title }}</b>
      <Button v-if="measuring.paused" size="small" type="text" @click="measuring.goOn">go on</Button>
      <Button v-else size="small" type="text" @click="measuring.pause">pause</Button>
      <Button size="small" type="text" @click="measuring.cancel">cancel</Button>
    </div>
    <p class="small" role="status">
      <template v-if="measuring.paused">{{ counted(left, 'clip') }} left to measure</template>
      <template v-else-if="measuring.current.length === 0">{{ counted(left, 'clip') }}</template>
      <template v-else>
        <span class="figures">{{ Math.min(total, measuring.done + 1) }} of {{ total }}</span>
        <template v-for="clip in measuring.current" :key="clip.id"> · {{ clip.name }}</template>
        <span v-if="measuring.secondsLeft !== null" class="figures">
          · {{ clockTime(measuring.secondsLeft) }} left</span
        >
      </template>
    </p>
    <progress :value="share" max="1" aria-label="Clips measured" />
  </section>
</template>

<style scoped>
.measuring {
  border-top: 1px solid var(--line);
  padding-top: 8px;
  margin-top: auto;
}
.row {
  display: flex;
  align-items: baseline;
}
.row b {
  flex: 1;
}
.small {
  font-size: 12px;
}
progress {
  width: 100%;
  height: 6px;
  accent-color: var(--accent);
}
</style>
