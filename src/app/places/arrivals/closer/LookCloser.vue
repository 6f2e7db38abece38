<script setup lang="ts">
import { useRafFn } from '@vueuse/core'
import { Button, Modal } from 'ant-design-vue'
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { type Clip, claimsOf } from '../../../../core/model/clip'
import { frameToTimecode, timecodeToFrame } from '../../../../core/rate/timecode'
import { countOf, framesOf, stepAt, timeOf } from '../../../../core/motion/timing'
import { add, nearestRational, toNumber } from '../../../../core/rational/rational'
import { exactSeconds } from '../../../../core/words/figures'
import { present } from '../../../../core/assert'
import { storedIndexOf, timingOf } from '../../../../core/model/timing'
import { useMeasuring } from '../../../../stores/measuring'
import { useProject } from '../../../../stores/document/project'
import { layerOfClip, rasterOf } from '../../../picture/layer-of-clip'
import { usePainter } from '../../../picture/use-painter'
import NativeSelect from '../../../components/NativeSelect.vue'
import { type Field, stepField } from '../../../../media/play/field'
import EvidenceApart from './EvidenceApart.vue'
import EvidenceMarks from './EvidenceMarks.vue'
import { useEvidenceView } from './use-evidence-view'
import { type View, bestFrame, firstView, saysOf, viewTitles, views } from './views'
import { useKeys } from '../../../keys/use-keys'

/** A clip's own frames, one image pixel on one screen pixel, stepped by frame and by field, or playing. */
const props = defineProps<{ clip: Clip }>()
const emit = defineEmits<{ close: [] }>()

const project = useProject()
const video = computed(() => present(props.clip.reading?.video, 'only what has a picture is looked at'))
const steps = computed(() => framesOf(timingOf(props.clip)))
const last = computed(() => Math.max(0, countOf(steps.value) - 1))
const interlaced = computed(() => video.value.scan === 'interlaced')
const topFirst = computed(() => video.value.fieldOrder !== 'bottom-first')
const frame = ref(0)
const field = ref<Field>('both')
const zoom = ref(1)
const playing = ref(false)
const view = ref<View>(firstView(props.clip))
const { proof, trouble: unproven } = useEvidenceView(() => props.clip, view, frame)
const blocks = computed(() =>
  view.value === 'combs' && proof.value?.about === 'combs' ? proof.value.blocks : [],
)
/** Where the picture itself is marked, not taken apart. */
const onPicture = computed(() => ['frame', 'combs', 'edges'].includes(view.value))
/** Shows a view at the frame that proves it best. */
function show(next: View) {
  playing.value = false
  field.value = 'both'
  view.value = next
  const best = bestFrame(props.clip, next)
  if (best !== null) goTo(best)
  if (next === 'edges') zoom.value = wholeZoom()
}
/** The largest zoom at which the whole picture is seen. */
function wholeZoom(): number {
  const [width, height] = [window.innerWidth * 0.9, window.innerHeight * 0.66]
  const fits = (value: number) =>
    (size.value.width / ratio) * value <= width && (size.value.height / ratio) * value <= height
  return zooms.findLast(({ value }) => fits(value))?.value ?? 0.25
}
onMounted(() => show(view.value))
const canvas = ref<HTMLCanvasElement | null>(null)
const ratio = window.devicePixelRatio || 1
const size = computed(() => rasterOf(props.clip))

/** The running number that the file's own timecode gives the frame, where it has one; the time in the clip elsewhere. */
const clock = computed(() => {
  const claims = claimsOf(props.clip)
  const [timecode, rate] = [claims?.timecode, claims?.video?.rate]
  if (!timecode || !rate) return exactSeconds(toNumber(timeOf(steps.value, frame.value)), 3)
  const start = timecodeToFrame(timecode.start, rate, timecode.dropFrame) ?? 0
  return frameToTimecode(start + storedIndexOf(props.clip, frame.value), rate, timecode.dropFrame)
})

const { trouble, painted } = usePainter(canvas, () => {
  const { width, height } = size.value
  return {
    key: `${frame.value} ${field.value}`,
    painting: {
      layers: [layerOfClip(project.opened, props.clip, size.value, frame.value)],
      region: { x: 0, y: 0, width, height },
      width,
      height,
      scaling: 'pixels',
      field: field.value,
    },
  }
})
const drawn = computed(() => (painted.value === null ? -1 : Number(painted.value.split(' ')[0])))

const goTo = (to: number) => (frame.value = Math.max(0, Math.min(last.value, to)))
function step(by: 1 | -1) {
  playing.value = false
  field.value = 'both'
  goTo(frame.value + by)
}
function stepByField(by: 1 | -1) {
  playing.value = false
  const next = stepField(frame.value, field.value, topFirst.value, by)
  if (next.frame < 0 || next.frame > last.value) return
  field.value = next.field
  frame.value = next.frame
}

let startedAt = 0
let startedFrom = 0
const { pause, resume, isActive } = useRafFn(
  () => {
    const passed = nearestRational((performance.now() - startedAt) / 1000, 1e-4)
    const to = stepAt(steps.value, add(timeOf(steps.value, startedFrom), passed))
    if (to === null) playing.value = false
    // A decoder that cannot keep up leaves frames out rather than slowing down.
    else if (drawn.value === frame.value || trouble.value) goTo(to)
  },
  { immediate: false },
)
useMeasuring().holdWhile(isActive)
watch(playing, (isPlaying) => {
  startedAt = performance.now()
  startedFrom = frame.value >= last.value ? 0 : frame.value
  if (isPlaying) resume()
  else pause()
})
onBeforeUnmount(pause)

const meantBy = useKeys('closer')
function onKey(event: KeyboardEvent) {
  const keys: Record<string, () => void> = {
    ArrowLeft: () => (event.shiftKey && interlaced.value ? stepByField(-1) : step(-1)),
    ArrowRight: () => (event.shiftKey && interlaced.value ? stepByField(1) : step(1)),
    Home: () => goTo(0),
    End: () => goTo(last.value),
    ' ': () => (playing.value = !playing.value),
    '+': () => (zoom.value = Math.min(8, zoom.value * 2)),
    '-': () => (zoom.value = Math.max(0.25, zoom.value / 2)),
  }
  const key = meantBy(event)
  const does = key === null ? undefined : keys[key]
  if (!does || (event.target as HTMLElement).closest('select, button')) return
  does()
  event.preventDefault()
}
const nonSquare = computed(() => video.value.pixelAspect.num !== video.value.pixelAspect.den)
const zooms = [0.25, 0.5, 1, 2, 4, 8].map((value) => ({
  value,
  label: value === 1 ? '1 : 1' : `${value * 100} %`,
}))
</script>

<template>
  <Modal open :footer="null" width="96vw" centered :title="clip.name" @cancel="emit('close')">
    <div
      class="closer"
      tabindex="0"
      role="group"
      :aria-label="`Frames of ${clip.name}: arrow keys step by frame, with Shift by field, space plays, plus and minus zoom`"
      @keydown="onKey"
    >
      <div class="views" role="tablist" aria-label="What is looked at">
        <button
          v-for="offeredView in views"
          :key="offeredView"
          role="tab"
          :aria-selected="view === offeredView"
          :title="viewTitles[offeredView]"
          @click="show(offeredView)"
        >
          {{ offeredView }}
        </button>
        <span class="quiet says">{{
          saysOf(clip, view) ?? (view === 'frame' ? '' : 'not measured yet')
        }}</span>
      </div>
      <div v-if="onPicture" class="ground" tabindex="0">
        <div
          class="picture"
          :style="{ width: `${(size.width / ratio) * zoom}px`, height: `${(size.height / ratio) * zoom}px` }"
        >
          <canvas
            ref="canvas"
            role="img"
            :aria-label="`Frame ${drawn}${field === 'both' ? '' : `, ${field} field`}`"
            :data-frame="drawn"
          />
          <EvidenceMarks v-if="view !== 'frame'" :clip="clip" :blocks="blocks" :edges="view === 'edges'" />
        </div>
        <p v-if="trouble" class="trouble" role="status">{{ trouble }}</p>
      </div>
      <div v-else class="ground apart" tabindex="0">
        <EvidenceApart :clip="clip" :view="view" :frame="frame" :proof="proof" />
      </div>
      <p v-if="unproven" class="quiet" role="status">{{ unproven }}</p>
      <p v-else-if="view === 'combs' && proof?.about === 'combs'" class="quiet" role="status">
        <b class="figures">{{ blocks.length }}</b> blocks of 16×16 comb in this frame. A stripe that combs in
        its fields too is not counted.
      </p>
      <div class="bar">
        <Button @click="playing = !playing">{{ playing ? 'Pause' : 'Play' }}</Button>
        <Button aria-label="One frame back" @click="step(-1)">− frame</Button>
        <Button aria-label="One frame on" @click="step(1)">+ frame</Button>
        <template v-if="interlaced">
          <Button aria-label="One field back" @click="stepByField(-1)">− field</Button>
          <Button aria-label="One field on" @click="stepByField(1)">+ field</Button>
        </template>
        <input v-model.number="frame" type="range" :min="0" :max="last" aria-label="Frame" />
        <b class="figures">{{ frame }}</b><span class="quiet figures">of {{ last + 1 }} · {{ clock }}</span>
        <span class="quiet">{{
          field === 'both' ? (interlaced ? 'both fields, woven' : '') : `${field} field`
        }}</span>
        <span class="quiet">{{ nonSquare ? 'pixels as stored, not stretched' : '' }}</span>
        <NativeSelect v-model:value="zoom" aria-label="Zoom" class="zoom" :options="zooms" />
      </div>
    </div>
  </Modal>
</template>

<style scoped>
.ground {
  background: var(--ground);
  height: 66vh;
  overflow: auto;
  display: grid;
  place-items: safe center;
  position: relative;
}
.picture {
  position: relative;
}
canvas {
  display: block;
  width: 100%;
  height: 100%;
  image-rendering: pixelated;
}
.apart {
  display: grid;
  grid-auto-flow: column;
  grid-auto-columns: minmax(0, 1fr);
  gap: 12px;
  padding: 12px;
  place-items: safe center stretch;
}
.views {
  display: flex;
  gap: 18px;
  align-items: baseline;
  padding-bottom: 8px;
}
.views button {
  all: unset;
  cursor: pointer;
  padding-bottom: 3px;
}
.views button[aria-selected='true'] {
  font-weight: 600;
  border-bottom: 2px solid var(--accent);
}
.views button:focus-visible {
  outline: 2px solid var(--accent);
  outline-offset: 2px;
}
.says {
  margin-left: auto;
}
.trouble {
  position: absolute;
  color: #f4f1e8;
  max-width: 50ch;
}
.bar {
  display: flex;
  gap: 10px;
  align-items: center;
  padding-top: 10px;
}
input {
  flex: 1;
  accent-color: var(--accent);
}
.zoom {
  width: 92px;
}
</style>
