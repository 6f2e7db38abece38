<script setup lang="ts">
import { onKeyStroke, useEventListener } from '@vueuse/core'
import { computed, nextTick, ref, watch } from 'vue'
import { termOf } from '../../../core/terms/terms'
import { useTerms } from './terms'
import TermEntry from './TermEntry.vue'

/** The term that is asked for, beside its mark. */
const terms = useTerms()
const term = computed(() => (terms.asked ? termOf(terms.asked.id) : undefined))
const card = ref<HTMLElement | null>(null)
const place = ref({ left: '0px', top: '0px' })
const [width, edge] = [300, 8]

watch(
  () => terms.asked,
  async (asked) => {
    if (!asked) return
    await nextTick()
    const mark = asked.mark.getBoundingClientRect()
    const height = card.value?.offsetHeight ?? 0
    const below = mark.bottom + 6
    const top = below + height + edge <= window.innerHeight ? below : mark.top - 6 - height
    const left = Math.min(mark.left, window.innerWidth - width - edge)
    place.value = {
      left: `${Math.max(edge, left)}px`,
      top: `${Math.max(edge, Math.min(top, window.innerHeight - height - edge))}px`,
    }
    if (asked.stays) card.value?.focus({ preventScroll: true })
  },
  { immediate: true, flush: 'post' },
)
onKeyStroke('Escape', (event) => {
  if (!terms.asked) return
  event.stopPropagation()
  terms.asked = null
})
// Whoever goes on by keyboard has not asked for what the pointer happens to rest on.
useEventListener(document, 'keydown', () => {
  if (terms.asked && !terms.asked.stays) terms.asked = null
})
// Pressing elsewhere puts it away; what is only pointed at goes once the pointer is on neither.
useEventListener(document, 'pointerdown', ({ target }) => {
  if (!terms.asked || !(target instanceof Node)) return
  if (!card.value?.contains(target) && !terms.asked.mark.contains(target)) terms.asked = null
})
let timer = 0
useEventListener(document, 'pointermove', ({ target }) => {
  if (!terms.asked || terms.asked.stays || !(target instanceof Node)) return
  const isOn = card.value?.contains(target) || terms.asked.mark.contains(target)
  if (isOn) {
    window.clearTimeout(timer)
    timer = 0
  } else if (!timer)
    timer = window.setTimeout(() => {
      timer = 0
      if (terms.asked && !terms.asked.stays) terms.asked = null
    }, 300)
})
</script>

<template>
  <div
    v-if="term"
    ref="card"
    class="card"
    role="dialog"
    :aria-label="`${term.name}, explained`"
    tabindex="-1"
    :style="{ ...place, width: `${width}px` }"
  >
    <header>
      <h2>{{ term.name }}</h2>
      <button class="word" @click="terms.list(term.id)">all terms</button>
      <button class="word" @click="terms.asked = null">close</button>
    </header>
    <TermEntry :term="term" />
  </div>
</template>

<style scoped>
.card {
  position: fixed;
  /* Above the sheets that lie over a place, whose terms it explains too. */
  z-index: 1100;
  max-width: calc(100vw - 16px);
  max-height: calc(100vh - 16px);
  overflow: auto;
  background: var(--sheet);
  border: 1px solid var(--ink);
  border-radius: 3px;
  padding: 10px 14px 14px;
}
.card:focus {
  outline: none;
}
header {
  display: flex;
  align-items: baseline;
  gap: 4px;
  padding-bottom: 6px;
}
h2 {
  margin-right: auto;
}
</style>
