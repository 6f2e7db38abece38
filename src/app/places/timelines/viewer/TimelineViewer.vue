<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { type ComponentPublicInstance, computed, nextTick, ref, watch } from 'vue'
import { layersAt, placementAt } from '../../../../core/plan/layers'
import { timingOf } from '../../../../core/model/timing'
import type { Timeline } from '../../../../core/model/timeline'
import type { Format } from '../../../../core/format/format'
import { countOf, framesOf } from '../../../../core/motion/timing'
import { displaySize } from '../../../../core/picture/size'
import { toNumber } from '../../../../core/rational/rational'
import { useSelection } from '../../../../stores/selection'
import { type PlayedRange, usePlaying } from '../../../../stores/playing'
import { useProject } from '../../../../stores/document/project'
import { useCut } from '../../../../stores/cut'
import { layerOfClip, rasterOf } from '../../../picture/layer-of-clip'
import FrameCanvas from './FrameCanvas.vue'
import FramingHandles from './FramingHandles.vue'
import PlayedCanvas from './PlayedCanvas.vue'

/** The frame under the playhead: whole, one to one under a loupe, or two ways in step. A clip that is looked at shows itself. */
const props = defineProps<{ timeline: Timeline; format: Format }>()
const project = useProject()
const selection = useSelection()
const cut = useCut()
const playing = usePlaying()
const stage = ref<HTMLElement | null>(null)
const { width, height } = useElementSize(stage)

const seen = ref<'whole' | 'loupe'>('whole')
/** How two ways stand: beside each other, or one of them on each side of a line. */
const ways = ref<'one' | 'split' | 'side'>('one')
const line = ref(0.5)
const magnification = ref(1)
/** The middle of what the loupe shows, as shares of the frame. */
const middle = ref({ x: 0.5, y: 0.5 })

/** The clip that is looked at before it is placed, in its own raster. */
const viewed = computed(() => {
  const { viewed } = cut
  if (!viewed?.clip.reading?.video) return null
  const raster = rasterOf(viewed.clip)
  const last = countOf(framesOf(timingOf(viewed.clip))) - 1
  const frame = Math.max(0, Math.min(last, viewed.frame))
  return { raster, layers: [layerOfClip(project.opened, viewed.clip, raster, frame)] }
})
const raster = computed(() => viewed.value?.raster ?? props.format)
const isTwo = computed(() => ways.value !== 'one' && !viewed.value)
const panes = computed(() => (isTwo.value && ways.value === 'side' ? 2 : 1))
/** A pane as large as it goes at the true shape of the frame. */
const pane = computed(() => {
  const gap = panes.value > 1 ? 6 : 0
  const [across, down] = [(width.value - gap) / panes.value, height.value]
  if (seen.value === 'loupe') return { width: Math.floor(across), height: Math.floor(down) }
  const { width: w, height: h } = displaySize(raster.value)
  const scale = Math.min(across / w, down / h)
  return { width: Math.max(1, Math.floor(w * scale)), height: Math.max(1, Math.floor(h * scale)) }
})
const region = computed(() => {
  const { width: w, height: h } = raster.value
  if (seen.value === 'whole') return { x: 0, y: 0, width: w, height: h }
  const shape = toNumber(raster.value.pixelAspect)
  const ratio = window.devicePixelRatio || 1
  const [across, down] = [
    (pane.value.width * ratio) / magnification.value / shape,
    (pane.value.height * ratio) / magnification.value,
  ]
  // Whole pixels of the raster stand on whole pixels of the screen.
  const at = (share: number, length: number, part: number) => Math.round(share * length - part / 2)
  return { x: at(middle.value.x, w, across), y: at(middle.value.y, h, down), width: across, height: down }
})

const first = ref<InstanceType<typeof FrameCanvas> | null>(null)
/** What stands on the left, and what on the right. */
const inForce = computed(() => (isTwo.value ? props.timeline : (selection.shown ?? props.timeline)))
const other = computed(() => selection.shown ?? props.timeline)
const otherName = computed(() => selection.tried?.name ?? 'the same: point at another choice')

function drag(event: PointerEvent) {
  if (seen.value !== 'loupe' || event.buttons !== 1) return
  const { width: w, height: h } = raster.value
  const perPixel = region.value.width / pane.value.width
  const perLine = region.value.height / pane.value.height
  const clamp = (share: number) => Math.max(0, Math.min(1, share))
  middle.value = {
    x: clamp(middle.value.x - (event.movementX * perPixel) / w),
    y: clamp(middle.value.y - (event.movementY * perLine) / h),
  }
}
function dragLine(event: PointerEvent) {
  if (event.buttons !== 1) return
  const box = (event.currentTarget as HTMLElement).parentElement?.getBoundingClientRect()
  if (box) line.value = Math.max(0.02, Math.min(0.98, (event.clientX - box.left) / box.width))
}
function lineKey(event: KeyboardEvent) {
  const by = { ArrowLeft: -0.02, ArrowRight: 0.02 }[event.key]
  if (!by) return
  line.value = Math.max(0.02, Math.min(0.98, line.value + by))
  event.preventDefault()
  event.stopPropagation()
}
function toggleLoupe(event?: MouseEvent) {
  if (event && seen.value === 'whole') {
    const box = (event.currentTarget as HTMLElement).getBoundingClientRect()
    middle.value = {
      x: (event.clientX - box.left) / box.width,
      y: (event.clientY - box.top) / box.height,
    }
  }
  seen.value = seen.value === 'whole' ? 'loupe' : 'whole'
}
/** What is placed at the playhead and shows nothing there: its source has ended. */
const ended = computed(() => {
  if (!first.value || viewed.value) return ''
  const shown = new Set(
    layersAt(project.opened, inForce.value, frame.value).map(({ placementId }) => placementId),
  )
  const over = props.timeline.tracks
    .filter(({ kind, hidden }) => kind === 'video' && !hidden)
    .flatMap((track) => placementAt(track, frame.value) ?? [])
    .filter(({ id }) => !shown.has(id))
  const names = over.map(({ source }) =>
    source.kind === 'clip' ? (project.opened.clips[source.clipId]?.name ?? 'a clip') : 'a placed timeline',
  )
  return names.length ? `${names.join(', ')}: its source has ended here, nothing of it is shown` : ''
})
/** Where it stood when playing began: what rests under what plays is left alone. */
const frozen = ref(0)
const frame = computed(() => (playing.isOn ? frozen.value : selection.playhead))
/** What every pane has in common. */
const pictured = computed(() => ({
  ...pane.value,
  format: raster.value,
  region: region.value,
  frame: frame.value,
  magnified: seen.value === 'loupe',
}))
/** Counts playings: each is drawn on canvases of its own. */
const playings = ref(0)
const played: HTMLCanvasElement[] = []
function keep(view: number, canvas: unknown) {
  if (canvas) played[view] = (canvas as ComponentPublicInstance).$el as HTMLCanvasElement
}
/** Plays a stretch as it is looked at: one way, or two in step. */
async function play(stretch: PlayedRange) {
  cut.viewed = null
  frozen.value = selection.playhead
  playings.value++
  const ways = isTwo.value ? [inForce.value, other.value] : [inForce.value]
  const part = region.value
  playing.state = 'preparing'
  await nextTick()
  const ratio = window.devicePixelRatio || 1
  const background = getComputedStyle(document.documentElement).getPropertyValue('--ground')
  const watched = ways.flatMap((timeline, i) => {
    const canvas = played[i]
    if (!canvas) return []
    const view = {
      canvas: canvas.transferControlToOffscreen(),
      width: Math.round(pane.value.width * ratio),
      height: Math.round(pane.value.height * ratio),
      region: part,
      background,
    }
    return { timeline, view }
  })
  await playing.play(watched, stretch)
}
const nextWays = () => (ways.value = ways.value === 'one' ? 'split' : ways.value === 'split' ? 'side' : 'one')
watch(ways, (comparing) => {
  if (comparing === 'one') selection.heldBeside = null
})
defineExpose({ toggleLoupe, nextWays, play })
</script>

<template>
  <div class="margin">
    <template v-if="viewed">
      <b class="ellipsis">{{ cut.viewed?.clip.name }}</b>
      <span class="quiet">not placed yet</span>
      <span class="spacer" />
      <button class="word" @click="cut.viewed = null">back to the cut</button>
    </template>
    <template v-else>
      <b v-if="isTwo" class="ellipsis">in force</b>
      <span v-else-if="selection.pointedAt" class="ellipsis tried"
        >in view: {{ selection.pointedAt.name }}</span
      >
      <span v-else class="quiet ellipsis">{{ first?.name ?? 'nothing is placed here' }}</span>
      <span class="spacer" />
      <button class="word" :aria-pressed="seen === 'whole'" @click="seen = 'whole'">whole</button>
      <button class="word" :aria-pressed="seen === 'loupe'" @click="seen = 'loupe'">one to one</button>
      <select v-if="seen === 'loupe'" v-model="magnification" aria-label="Magnification" class="small">
        <option :value="1">× 1</option>
        <option :value="2">× 2</option>
        <option :value="4">× 4</option>
        <option :value="8">× 8</option>
      </select>
      <span class="rule" />
      <button
        class="word"
        :aria-pressed="ways === 'split'"
        @click="ways = ways === 'split' ? 'one' : 'split'"
      >
        two ways, split
      </button>
      <button class="word" :aria-pressed="ways === 'side'" @click="ways = ways === 'side' ? 'one' : 'side'">
        beside
      </button>
      <button
        v-if="isTwo"
        class="word"
        :aria-pressed="selection.heldBeside !== null"
        @click="selection.holdBeside()"
      >
        hold
      </button>
      <b v-if="isTwo" class="ellipsis other">{{ otherName }}</b>
    </template>
  </div>
  <div ref="stage" class="viewer" :class="[seen, ways]">
    <div
      class="pane"
      :style="{ width: `${pane.width}px`, height: `${pane.height}px` }"
      @pointermove="drag"
      @dblclick="toggleLoupe"
    >
      <FrameCanvas ref="first" v-bind="pictured" :timeline="inForce" :instead="viewed?.layers" />
      <PlayedCanvas v-if="playing.isOn" :key="playings" :ref="(canvasView) => keep(0, canvasView)" />
      <template v-if="isTwo && ways === 'split'">
        <div class="over" :style="{ clipPath: `inset(0 0 0 ${line * 100}%)` }">
          <FrameCanvas v-bind="pictured" :timeline="other" />
          <PlayedCanvas v-if="playing.isOn" :key="playings" :ref="(canvasView) => keep(1, canvasView)" />
        </div>
        <div
          class="line"
          role="slider"
          tabindex="0"
          aria-label="The line between the two ways"
          aria-valuemin="0"
          aria-valuemax="100"
          :aria-valuenow="Math.round(line * 100)"
          :style="{ left: `${line * 100}%` }"
          @pointerdown="($event.currentTarget as HTMLElement).setPointerCapture($event.pointerId)"
          @pointermove.stop="dragLine"
          @keydown="lineKey"
        />
      </template>
      <FramingHandles
        v-if="!viewed && !playing.isOn && seen === 'whole' && ways === 'one'"
        :timeline="timeline"
        :format="format"
        :width="pane.width"
        :height="pane.height"
      />
    </div>
    <div
      v-if="isTwo && ways === 'side'"
      class="pane"
      :style="{ width: `${pane.width}px`, height: `${pane.height}px` }"
      @pointermove="drag"
    >
      <FrameCanvas v-bind="pictured" :timeline="other" />
      <PlayedCanvas v-if="playing.isOn" :key="playings" :ref="(canvasView) => keep(1, canvasView)" />
    </div>
    <p v-if="first?.trouble || ended" class="trouble" role="status">{{ first?.trouble ?? ended }}</p>
  </div>
  <div class="says figures">
    <span v-if="playing.isOn" class="quiet">playing, quick</span>
    <template v-else-if="first?.top"
      ><span v-if="first.pending">decoding </span><b>{{ first.says }}</b
      ><span class="quiet"> · {{ first.pending ? '' : first.exact ? 'exact' : 'quick' }}</span></template
    >
    <template v-else>nothing is placed here</template>
    <slot />
  </div>
</template>

<style scoped>
.margin {
  display: flex;
  align-items: center;
  min-height: 24px;
  gap: 2px;
  font-size: 12px;
}
.spacer {
  flex: 1;
}
.rule {
  border-left: 1px solid var(--line);
  height: 14px;
  margin: 0 4px;
}
.other {
  padding-left: 10px;
  max-width: 200px;
}
.tried {
  font-weight: 600;
}
.small {
  height: 24px;
  font-size: 12px;
}
.viewer {
  flex: 1;
  min-height: 120px;
  background: var(--ground);
  display: flex;
  gap: 6px;
  justify-content: center;
  align-items: center;
  position: relative;
  overflow: hidden;
}
.pane {
  position: relative;
}
.loupe .pane {
  cursor: grab;
}
.over {
  position: absolute;
  inset: 0;
}
.line {
  position: absolute;
  top: 0;
  bottom: 0;
  width: 24px;
  margin-left: -12px;
  cursor: ew-resize;
  background: linear-gradient(to right, transparent 11px, #fffdf8 11px 13px, transparent 13px);
  touch-action: none;
}
.trouble {
  position: absolute;
  inset: auto 12px 40px;
  color: #f0ece2;
  text-align: center;
}
.says {
  font-size: 12px;
  margin: -4px 0 0;
  display: flex;
  gap: 6px;
  white-space: nowrap;
}
</style>
