<script setup lang="ts">
import { useRafFn } from '@vueuse/core'
import { Button } from 'ant-design-vue'
import { computed, ref, watch } from 'vue'
import { type LaneKind, lanesFor } from '../../../../core/motion/lanes'
import { type Rate, rateName } from '../../../../core/rate/rate'
import { toNumber } from '../../../../core/rational/rational'
import { useMeasuring } from '../../../../stores/measuring'

/** A bell drawn along a lane at constant speed, as filmed and as each way of bringing the rate shows it, at true speed. */
const props = defineProps<{ source: Rate; timeline: Rate }>()

/** Seconds that the bell takes across. */
const crossing = 2.5
const size = { width: 320, lane: 30 }
const lanes = computed(() => lanesFor(props.source, props.timeline))
const words: Record<LaneKind, string> = {
  filmed: 'as filmed',
  hold: 'as they land',
  blend: 'blended',
  'every-frame': 'every frame',
}
const running = ref(false)
/** What every lane shows now, by source frame: the first of a mixture. */
const shown = ref<readonly number[]>([])
/** Pictures a second that this screen shows, as counted while it runs. */
const screen = ref<number | null>(null)
const canvas = ref<HTMLCanvasElement | null>(null)

function draw(seconds: number) {
  const target = canvas.value
  if (!target) return
  const ratio = window.devicePixelRatio || 1
  const [w, h] = [size.width * ratio, lanes.value.length * size.lane * ratio]
  if (target.width !== w || target.height !== h) Object.assign(target, { width: w, height: h })
  const context = target.getContext('2d')
  if (!context) return
  const style = getComputedStyle(target)
  context.setTransform(ratio, 0, 0, ratio, 0, 0)
  context.clearRect(0, 0, size.width, h)
  shown.value = lanes.value.map((lane, i) => {
    const floor = (i + 1) * size.lane - 4
    context.globalAlpha = 1
    context.strokeStyle = style.getPropertyValue('--line')
    context.beginPath()
    for (let x = 0; x <= size.width; x += 20) context.rect(x, floor - 3, 0.5, 3)
    context.moveTo(0, floor)
    context.lineTo(size.width, floor)
    context.stroke()
    context.fillStyle = style.getPropertyValue('--ink')
    const standing = lane.at(seconds)
    for (const { frame, share } of standing) {
      const time = frame / toNumber(props.source)
      context.globalAlpha = share
      drawBell(context, 12 + ((time % crossing) / crossing) * (size.width - 24), floor)
    }
    return standing[0]?.frame ?? 0
  })
}
/** A bell of the height of a lane, its mouth on the floor. */
function drawBell(context: CanvasRenderingContext2D, x: number, floor: number) {
  context.beginPath()
  context.moveTo(x - 11, floor)
  context.quadraticCurveTo(x - 7, floor - 6, x - 6, floor - 14)
  context.quadraticCurveTo(x - 5, floor - 21, x, floor - 21)
  context.quadraticCurveTo(x + 5, floor - 21, x + 6, floor - 14)
  context.quadraticCurveTo(x + 7, floor - 6, x + 11, floor)
  context.fill()
}

let startedAt = 0
let pictures = 0
const { pause, resume, isActive } = useRafFn(
  ({ timestamp }) => {
    if (startedAt === 0) startedAt = timestamp
    const seconds = (timestamp - startedAt) / 1000
    pictures++
    if (seconds > 1) screen.value = Math.round(pictures / seconds)
    draw(seconds)
  },
  { immediate: false },
)
useMeasuring().holdWhile(isActive)
watch(running, (isRunning) => {
  startedAt = 0
  pictures = 0
  if (isRunning) resume()
  else pause()
})
/** Standing still, a moment is shown at which the lanes have parted. */
const still = 0.55
watch(lanes, () => !running.value && draw(still))
watch(canvas, (element) => element && draw(still))

const tooSlow = computed(() => {
  const fastest = Math.max(toNumber(props.source), toNumber(props.timeline))
  return screen.value !== null && screen.value < fastest - 2
    ? `This screen shows ${screen.value} pictures a second: ${rateName(props.source)} and ${rateName(props.timeline)} cannot all be seen on it.`
    : ''
})
</script>

<template>
  <div class="demo">
    <div class="names">
      <span v-for="lane in lanes" :key="lane.kind" :style="{ height: `${size.lane}px` }"
        >{{ words[lane.kind] }} <span class="quiet figures">{{ rateName(lane.rate) }}</span></span
      >
    </div>
    <canvas
      ref="canvas"
      role="img"
      :aria-label="`A bell moving at constant speed: ${lanes.map((l) => words[l.kind]).join(', ')}`"
      :data-frames="shown.join(' ')"
      :style="{ width: `${size.width}px`, height: `${lanes.length * size.lane}px` }"
    />
    <div class="foot">
      <Button size="small" @click="running = !running">{{ running ? 'Stop' : 'Watch the motion' }}</Button>
      <span class="quiet">{{ tooSlow || 'at true speed' }}</span>
    </div>
  </div>
</template>

<style scoped>
.demo {
  display: grid;
  grid-template-columns: 1fr 320px;
  gap: 0 8px;
  padding: 6px 0;
  font-size: 12px;
}
.names {
  display: flex;
  flex-direction: column;
}
.names > span {
  display: flex;
  justify-content: space-between;
  align-items: flex-end;
  white-space: nowrap;
  padding-bottom: 3px;
}
.foot {
  grid-column: 1 / -1;
  display: flex;
  gap: 10px;
  align-items: center;
  padding-top: 6px;
}
</style>
