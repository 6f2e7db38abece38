<script setup lang="ts">
import { computed, onBeforeUnmount, ref } from 'vue'
import { useTerms } from './terms'

/** A term where it stands: quietly marked; pointed at, pressed or chosen by key, it is explained. */
const props = defineProps<{ term: string }>()
defineSlots<{ default(): unknown }>()
const terms = useTerms()
const mark = ref<HTMLElement | null>(null)
const isOpen = computed(() => terms.asked?.mark === mark.value && mark.value !== null)
let timer = 0

function ask(stays: boolean) {
  if (mark.value) terms.asked = { id: props.term, mark: mark.value, stays }
}
/** Resting on it for a moment shows it; crossing it opens nothing, nor does a page that scrolls under the pointer. */
function move({ pointerType, movementX, movementY }: PointerEvent) {
  if (pointerType !== 'mouse' || (movementX === 0 && movementY === 0)) return
  leave()
  if (!isOpen.value) timer = window.setTimeout(() => !terms.asked?.stays && ask(false), 450)
}
const leave = () => window.clearTimeout(timer)
function press() {
  leave()
  if (isOpen.value && terms.asked?.stays) terms.asked = null
  else ask(true)
}
onBeforeUnmount(() => {
  leave()
  if (isOpen.value) terms.asked = null
})
</script>

<template>
  <button
    ref="mark"
    type="button"
    class="term"
    :data-term="term"
    aria-haspopup="dialog"
    :aria-expanded="isOpen"
    @pointermove="move"
    @pointerleave="leave"
    @click.stop.prevent="press"
  >
    <slot />
  </button>
</template>

<style scoped>
.term {
  all: unset;
  cursor: help;
  /* A target of 24 pixels that takes no room from what stands around it. */
  padding: 4px 3px;
  margin: -4px -3px;
  text-decoration: underline dotted 1px;
  text-decoration-color: color-mix(in srgb, currentcolor 55%, transparent);
  text-underline-offset: 3px;
  border-radius: 2px;
}
.term:hover,
.term[aria-expanded='true'] {
  text-decoration-color: currentcolor;
  text-decoration-style: solid;
}
.term:focus-visible {
  outline: 2px solid var(--accent);
  outline-offset: 1px;
}
</style>
