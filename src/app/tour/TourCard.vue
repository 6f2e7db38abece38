<script setup lang="ts">
import { deepEqual } from '../../core/equality'
import { onKeyStroke, usePreferredReducedMotion, useRafFn } from '@vueuse/core'
import { Button } from 'ant-design-vue'
import { computed, nextTick, onScopeDispose, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { useTour } from '../../stores/tour'
import { goTo, steps } from './steps'

/** The walk along the line: says what a place is for, points at the real thing, and goes on by itself until it is told to wait. */
const tour = useTour()
const router = useRouter()
const motion = usePreferredReducedMotion()
const goesOn = ref(motion.value !== 'reduce')
const card = ref<HTMLElement | null>(null)
const ready = ref(false)
/** So long a step stands before the next, in seconds; reading takes about half of it. */
const dwell = 12

const step = computed(() => (tour.at === null ? null : (steps[tour.at] ?? null)))
const isLast = computed(() => tour.at === steps.length - 1)

let going = new AbortController()
let timer = 0
watch(
  () => tour.at,
  async (at) => {
    going.abort()
    window.clearTimeout(timer)
    ready.value = false
    const next = step.value
    if (at === null || !next) return
    const mine = (going = new AbortController())
    await goTo(next, router, mine.signal)
    if (mine.signal.aborted) return
    await nextTick()
    ready.value = true
    card.value?.focus({ preventScroll: true })
    wait()
  },
  { immediate: true },
)
function wait() {
  window.clearTimeout(timer)
  if (goesOn.value && !isLast.value) timer = window.setTimeout(() => go(1), dwell * 1000)
}
watch(goesOn, wait)
function go(by: 1 | -1) {
  if (tour.at === null) return
  tour.at = by > 0 && isLast.value ? null : Math.max(0, tour.at + by)
}
const leave = () => (tour.at = null)
onScopeDispose(() => {
  going.abort()
  window.clearTimeout(timer)
})
onKeyStroke('Escape', () => {
  if (card.value?.contains(document.activeElement)) leave()
})

/** Where the thing is that is pointed at, as it stands now. */
const isAbove = ref(false)
const ring = ref<Record<string, string> | null>(null)
useRafFn(() => {
  const found =
    ready.value && step.value ? document.querySelector(step.value.at)?.getBoundingClientRect() : null
  const edge = 3
  const next = found?.width
    ? {
        left: `${Math.max(edge, found.left - edge)}px`,
        top: `${Math.max(edge, found.top - edge)}px`,
        width: `${Math.min(window.innerWidth - 2 * edge, found.width + 2 * edge)}px`,
        height: `${Math.min(window.innerHeight - 2 * edge, found.height + 2 * edge)}px`,
      }
    : null
  if (!deepEqual(next, ring.value)) ring.value = next
  // The card never lies on what it points at: what is low is told from above.
  if (found?.width) isAbove.value = found.top > window.innerHeight / 2
})
</script>

<template>
  <template v-if="step && tour.at !== null">
    <div v-if="ring" class="ring" :style="ring" aria-hidden="true" />
    <section
      ref="card"
      class="card"
      :class="{ above: isAbove }"
      aria-label="The walk along the line"
      tabindex="-1"
    >
      <p class="heading">step {{ tour.at + 1 }} of {{ steps.length }} · {{ step.place }}</p>
      <h2>{{ step.title }}</h2>
      <p aria-live="polite">{{ ready ? step.says : 'a moment…' }}</p>
      <div class="ways">
        <Button size="small" type="primary" @click="go(1)">{{ isLast ? 'Play with it' : 'On' }}</Button>
        <Button size="small" :disabled="tour.at === 0" @click="go(-1)">Back</Button>
        <label><input v-model="goesOn" type="checkbox" /> goes on by itself</label>
        <button class="word" @click="leave">leave</button>
      </div>
    </section>
  </template>
</template>

<style scoped>
.ring {
  position: fixed;
  z-index: 1040;
  border: 2px solid var(--accent);
  border-radius: 4px;
  pointer-events: none;
}
.card {
  position: fixed;
  z-index: 1041;
  left: 50%;
  bottom: 18px;
  transform: translateX(-50%);
  width: min(520px, calc(100vw - 32px));
  background: var(--sheet);
  border: 1px solid var(--ink);
  border-radius: 3px;
  padding: 10px 16px 12px;
  display: flex;
  flex-direction: column;
  gap: 5px;
}
.above {
  bottom: auto;
  top: 76px;
}
.card:focus {
  outline: none;
}
.ways {
  display: flex;
  gap: 10px;
  align-items: center;
  padding-top: 4px;
}
.word {
  margin-left: auto;
}
</style>
