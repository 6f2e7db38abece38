<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { computed, onBeforeUnmount, ref } from 'vue'
import { layerOf } from '../../../../core/plan/layers'
import { settlePlacement } from '../../../../core/plan/running'
import type { Timeline } from '../../../../core/model/timeline'
import type { Format } from '../../../../core/format/format'
import { drawnArea } from '../../../../core/framing/raster-map'
import { lockedCrop } from '../../../../core/framing/framing'
import { exactly, toNumber } from '../../../../core/rational/rational'
import type { FramingOverride, Sides } from '../../../../core/treatment/treatment'
import { useSelection } from '../../../../stores/selection'
import { useProject } from '../../../../stores/document/project'
import { useCut } from '../../../../stores/cut'

/**
 * The frame of the placement in hand, on the picture: dragged inside it moves, dragged at a side it is cropped, always by whole
 * pixels of the timeline or of the source. Arrow keys nudge it by a pixel.
 */
const props = defineProps<{ timeline: Timeline; format: Format; width: number; height: number }>()
const project = useProject()
const selection = useSelection()
const cut = useCut()

/** Only what is seen at the playhead can be taken hold of. */
const held = computed(() => {
  const { only: placement, playhead } = selection
  if (!placement || playhead < placement.start || playhead >= placement.start + placement.length) return null
  const track = props.timeline.tracks.find(({ placements }) =>
    placements.some(({ id }) => id === placement.id),
  )
  if (!track || track.kind !== 'video' || track.locked) return null
  const settled = settlePlacement(project.opened, props.timeline, placement, props.format)
  const layer = layerOf(project.opened, placement, settled, props.format, { kind: 'frame', index: 0 })
  return layer && { layer, framing: settled.treatment.framing, placement, picture: settled.picture }
})
const perPixel = computed(() => ({
  x: props.width / props.format.width,
  y: props.height / props.format.height,
}))
const box = computed(() => {
  if (!held.value) return null
  const { layer } = held.value
  const area = drawnArea(layer.rasterMap, layer.size)
  const { x, y } = perPixel.value
  return {
    left: area.left * x,
    top: area.top * y,
    width: (area.right - area.left) * x,
    height: (area.bottom - area.top) * y,
  }
})

type Handle = 'move' | keyof Sides
let from: { handle: Handle; x: number; y: number; framing: FramingOverride } | null = null
const dragging = ref(false)

function begin(handle: Handle, event: PointerEvent) {
  if (!held.value || event.button !== 0) return
  const { framing } = held.value
  from = { handle, x: event.clientX, y: event.clientY, framing }
  dragging.value = true
  ;(event.currentTarget as HTMLElement).setPointerCapture(event.pointerId)
  event.preventDefault()
  event.stopPropagation()
}
function move(event: PointerEvent) {
  if (!from || !held.value) return
  const by = {
    x: (event.clientX - from.x) / perPixel.value.x,
    y: (event.clientY - from.y) / perPixel.value.y,
  }
  const framing = from.handle === 'move' ? moved(by.x, by.y) : croppedBy(from.handle, by)
  if (framing) cut.setTreatment([held.value.placement], { framing }, { isPreview: true })
}
function end() {
  if (!from) return
  from = null
  dragging.value = false
  project.commit()
}
/** Leaves the picture where it was before the drag. */
function leave(event?: KeyboardEvent) {
  if (!from) return
  event?.stopPropagation()
  project.cancel()
  end()
}
useEventListener('keydown', (event) => event.key === 'Escape' && leave(event), { capture: true })
onBeforeUnmount(() => leave())
function moved(x: number, y: number): FramingOverride | null {
  const start = from?.framing.position
  if (!start) return null
  return {
    position: {
      x: exactly(toNumber(start.x) + Math.round(x)),
      y: exactly(toNumber(start.y) + Math.round(y)),
    },
  }
}
/** What is cropped when a side is dragged: whole source pixels, the rest of the picture staying where it is. */
function croppedBy(side: keyof Sides, by: { x: number; y: number }): FramingOverride | null {
  const { layer, framing, picture } = held.value ?? {}
  const before = from?.framing.crop
  if (!layer || !framing || !picture || !before) return null
  const across = side === 'left' || side === 'right'
  const scale = toNumber(across ? layer.rasterMap.scaleX : layer.rasterMap.scaleY)
  const inward = side === 'left' || side === 'top' ? 1 : -1
  const pixels = Math.round((inward * (across ? by.x : by.y)) / scale)
  const length = across ? layer.size.across : layer.size.down
  const opposite = { left: 'right', right: 'left', top: 'bottom', bottom: 'top' } as const
  const most = length - before[opposite[side]] - 1
  const crop = { ...before, [side]: Math.max(0, Math.min(most, before[side] + pixels)) }
  return { crop: framing.cropToShape ? lockedCrop(picture, props.format, crop) : crop }
}
function nudge(event: KeyboardEvent) {
  const by = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[event.key]
  if (!by || !held.value || event.altKey) return
  const { position } = held.value.framing
  const times = event.shiftKey ? 10 : 1
  const at = {
    x: exactly(toNumber(position.x) + (by[0] ?? 0) * times),
    y: exactly(toNumber(position.y) + (by[1] ?? 0) * times),
  }
  cut.setTreatment(
    [held.value.placement],
    { framing: { position: at } },
    { joins: `nudge ${held.value.placement.id}` },
  )
  event.preventDefault()
  event.stopPropagation()
}
</script>

<template>
  <div
    v-if="box"
    class="held"
    :class="{ dragging }"
    tabindex="0"
    role="group"
    aria-label="The picture in hand: arrow keys move it by a pixel, with Shift by ten"
    :style="{
      left: `${box.left}px`,
      top: `${box.top}px`,
      width: `${box.width}px`,
      height: `${box.height}px`,
    }"
    @pointerdown="begin('move', $event)"
    @pointermove="move"
    @pointerup="end"
    @pointercancel="end"
    @keydown="nudge"
  >
    <span
      v-for="side in ['left', 'right', 'top', 'bottom'] as const"
      :key="side"
      class="side"
      :class="side"
      :data-side="side"
      @pointerdown="begin(side, $event)"
      @pointermove="move"
      @pointerup="end"
      @pointercancel="end"
    />
  </div>
</template>

<style scoped>
.held {
  position: absolute;
  outline: 1px solid transparent;
  touch-action: none;
}
.held:hover,
.held:focus-visible,
.dragging {
  outline: 1px solid #fffdf8;
  box-shadow: 0 0 0 1px #1d2733;
}
.dragging {
  cursor: grabbing;
}
.side {
  position: absolute;
}
.left,
.right {
  top: 0;
  bottom: 0;
  width: 9px;
  cursor: ew-resize;
}
.left {
  left: 0;
}
.right {
  right: 0;
}
.top,
.bottom {
  left: 0;
  right: 0;
  height: 9px;
  cursor: ns-resize;
}
.top {
  top: 0;
}
.bottom {
  bottom: 0;
}
</style>
