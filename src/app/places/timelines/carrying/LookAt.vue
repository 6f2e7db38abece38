<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Placement } from '../../../../core/model/timeline'
import { clipIdOf } from '../../../../core/model/timeline'
import { cropToShape } from '../../../../core/framing/framing'
import { pictureOf } from '../../../../core/picture/picture'
import { displaySize } from '../../../../core/picture/size'
import { uprightSize } from '../../../../core/picture/turn'
import { percent } from '../../../../core/words/figures'
import { useCarrying } from '../../../../stores/carrying'
import { useMedia } from '../../../../stores/media'
import { useProject } from '../../../../stores/document/project'

/** Where to look in a shot: a window of the new shape on its picture, dragged or moved by arrow keys. */
const props = defineProps<{ placement: Placement; name: string }>()
const carrying = useCarrying()
const project = useProject()
const media = useMedia()
const high = 72

const clip = computed(() => project.opened.clips[clipIdOf(props.placement) ?? ''] ?? null)
const picture = computed(() => (clip.value?.reading?.video ? pictureOf(clip.value.reading.video) : null))
const url = computed(() => (clip.value ? media.posterOf(clip.value) : undefined))
const wide = computed(() => {
  if (!picture.value) return (high * 16) / 9
  const { width, height } = displaySize(uprightSize(picture.value))
  return (high * width) / height
})
const at = computed(() => carrying.lookAt[props.placement.id] ?? { x: 0.5, y: 0.5 })
/** The window as shares of the picture. */
const window = computed(() => {
  if (!picture.value || !carrying.format) return null
  const { width, height } = uprightSize(picture.value)
  const crop = cropToShape(picture.value, carrying.format, 1, at.value)
  return {
    left: crop.left / width,
    top: crop.top / height,
    width: 1 - (crop.left + crop.right) / width,
    height: 1 - (crop.top + crop.bottom) / height,
  }
})
function look(x: number, y: number) {
  const { width, height } = window.value ?? { width: 1, height: 1 }
  // Its middle stays so far inside that the window does.
  const within = (value: number, size: number) => Math.max(size / 2, Math.min(1 - size / 2, value))
  carrying.lookAt = {
    ...carrying.lookAt,
    [props.placement.id]: { x: within(x, width), y: within(y, height) },
  }
}
const dragging = ref<{ x: number; y: number; at: { x: number; y: number } } | null>(null)
function begin(event: PointerEvent) {
  dragging.value = { x: event.clientX, y: event.clientY, at: at.value }
  ;(event.currentTarget as HTMLElement).setPointerCapture(event.pointerId)
}
function drag(event: PointerEvent) {
  const from = dragging.value
  if (from)
    look(from.at.x + (event.clientX - from.x) / wide.value, from.at.y + (event.clientY - from.y) / high)
}
function nudge(event: KeyboardEvent) {
  const by = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[event.key]
  if (!by) return
  const step = event.shiftKey ? 0.1 : 0.01
  look(at.value.x + (by[0] ?? 0) * step, at.value.y + (by[1] ?? 0) * step)
  event.preventDefault()
}
</script>

<template>
  <figure>
    <div class="picture" :style="{ width: `${wide}px`, height: `${high}px` }">
      <img v-if="url" :src="url" alt="" />
      <div
        v-if="window"
        class="window"
        role="slider"
        tabindex="0"
        :aria-label="`Where to look in ${name}`"
        :aria-valuenow="Math.round(at.x * 100)"
        :aria-valuetext="`${percent(at.x)} across, ${percent(at.y)} down`"
        :style="{
          left: `${window.left * 100}%`,
          top: `${window.top * 100}%`,
          width: `${window.width * 100}%`,
          height: `${window.height * 100}%`,
        }"
        @pointerdown="begin"
        @pointermove="drag"
        @pointerup="dragging = null"
        @pointercancel="dragging = null"
        @keydown="nudge"
      />
    </div>
    <figcaption class="ellipsis" :style="{ width: `${wide}px` }">{{ name }}</figcaption>
  </figure>
</template>

<style scoped>
figure {
  flex: none;
}
.picture {
  position: relative;
  background: var(--ground);
  overflow: hidden;
}
img {
  width: 100%;
  height: 100%;
  object-fit: fill;
  display: block;
}
/* What is left out is dimmed by the shadow of the window. */
.window {
  position: absolute;
  box-shadow: 0 0 0 400px rgb(0 0 0 / 55%);
  outline: 1.5px solid #fff;
  cursor: grab;
  touch-action: none;
}
.window:focus-visible {
  outline: 2px solid var(--accent);
}
figcaption {
  font-size: 11.5px;
}
</style>
