<script setup lang="ts">
import { computed } from 'vue'
import { present } from '../../../../core/assert'
import { type Clip } from '../../../../core/model/clip'
import { type Format, sizeName } from '../../../../core/format/format'
import { fitPicture, hasHairline } from '../../../../core/framing/framing'
import { rational, toNumber } from '../../../../core/rational/rational'
import type { FramingMode } from '../../../../core/treatment/treatment'
import { percent, pixels, spaced, upTo } from '../../../../core/words/figures'
import { useMedia } from '../../../../stores/media'

/** A clip in the frame of a format, drawn to scale: bars, what is cropped, and how far one may zoom in. */
const props = defineProps<{ clip: Clip; format: Format }>()
const mode = defineModel<FramingMode>('mode', { required: true })
/** The point that is looked at closely, as shares of the picture. */
const at = defineModel<{ x: number; y: number }>('at', { required: true })
const media = useMedia()
/** The ways that need no figures of their own. */
const modes = ['fit', 'fill', 'stretch', 'one-to-one'] as const

const video = computed(() => present(props.clip.reading?.video, 'only what has a picture is drawn'))
const fit = computed(() => fitPicture(video.value, props.format, { mode: mode.value }))
/** Everything in square units, the frame's corner at 0, 0. */
const drawn = computed(() => {
  const P = toNumber(props.format.pixelAspect)
  const frame = { x: 0, y: 0, width: props.format.width * P, height: props.format.height }
  const { left, top, width, height, headroom } = fit.value
  const picture = { x: left * P, y: top, width: width * P, height }
  const box = {
    x: Math.min(0, picture.x),
    y: Math.min(0, picture.y),
    right: Math.max(frame.width, picture.x + picture.width),
    bottom: Math.max(frame.height, picture.y + picture.height),
  }
  const margin = (box.right - box.x) * 0.012
  // What fills the frame when zoomed in as far as pixels last.
  const room =
    headroom > 1 + 1e-9
      ? {
          width: frame.width / headroom,
          height: frame.height / headroom,
          x: (frame.width * (1 - 1 / headroom)) / 2,
          y: (frame.height * (1 - 1 / headroom)) / 2,
        }
      : null
  return {
    frame,
    picture,
    room,
    unit: Math.max((box.right - box.x) / 250, (box.bottom - box.y) / 150),
    view: [
      box.x - margin,
      box.y - margin,
      box.right - box.x + 2 * margin,
      box.bottom - box.y + 2 * margin,
    ].join(' '),
  }
})
const bars = computed(() => {
  const { frame, picture } = drawn.value
  const { left, right, top, bottom } = fit.value.bars
  const P = toNumber(props.format.pixelAspect)
  return [
    { x: 0, y: 0, width: left * P, height: frame.height },
    { x: frame.width - right * P, y: 0, width: right * P, height: frame.height },
    { x: Math.max(0, picture.x), y: 0, width: frame.width - (left + right) * P, height: top },
    {
      x: Math.max(0, picture.x),
      y: frame.height - bottom,
      width: frame.width - (left + right) * P,
      height: bottom,
    },
  ].filter((bar) => bar.width > 0.01 && bar.height > 0.01)
})
const marker = computed(() => {
  const { picture } = drawn.value
  return { x: picture.x + picture.width * at.value.x, y: picture.y + picture.height * at.value.y }
})
const facts = computed(() => {
  const { scaleX, scaleY, headroom, barsShare, cropShare, distortion, bars, crop } = fit.value
  const times = (value: number) => upTo(value, 4)
  const two = (a: number, b: number) =>
    Math.abs(a - b) < 0.005 ? pixels(a) : `${pixels(a)} and ${pixels(b)}`
  return [
    {
      name: 'stored',
      value: `${sizeName(video.value)}${video.value.rotation ? `, turned ${video.value.rotation}°` : ''}`,
    },
    {
      name: 'scale',
      value: scaleX === scaleY ? `${times(scaleX)}` : `${times(scaleX)} across, ${times(scaleY)} down`,
    },
    {
      name: 'bars',
      value:
        barsShare > 1e-9
          ? `${bars.left + bars.right > 0 ? two(bars.left, bars.right) : two(bars.top, bars.bottom)} px, ${percent(barsShare)} of the frame`
          : 'none',
    },
    {
      name: 'crop',
      value:
        cropShare > 1e-9
          ? `${crop.left + crop.right > 0 ? two(crop.left, crop.right) : two(crop.top, crop.bottom)} px, ${percent(cropShare)} of the picture`
          : 'none',
    },
    {
      name: 'headroom',
      value: headroom >= 1 ? `zoom to ${percent(headroom)}` : `none, ${percent(headroom)} of the pixels`,
    },
    ...(distortion !== 1
      ? [
          {
            name: 'distortion',
            value: `${percent(Math.abs(distortion - 1))} too ${distortion > 1 ? 'wide' : 'narrow'}`,
          },
        ]
      : []),
  ]
})

function look(event: PointerEvent) {
  const svg = event.currentTarget as SVGSVGElement
  const point = new DOMPoint(event.clientX, event.clientY).matrixTransform(svg.getScreenCTM()?.inverse())
  const { picture } = drawn.value
  move((point.x - picture.x) / picture.width, (point.y - picture.y) / picture.height)
}
const inside = (value: number) => Math.min(1, Math.max(0, value))
const move = (x: number, y: number) => (at.value = { x: inside(x), y: inside(y) })
function onKey(event: KeyboardEvent) {
  const steps: Record<string, [number, number]> = {
    ArrowLeft: [-0.02, 0],
    ArrowRight: [0.02, 0],
    ArrowUp: [0, -0.02],
    ArrowDown: [0, 0.02],
  }
  const step = steps[event.key]
  if (!step) return
  move(at.value.x + step[0], at.value.y + step[1])
  event.preventDefault()
}
const square = rational(1)
const says = computed(
  () =>
    `${props.clip.name} in ${sizeName(props.format)}${props.format.pixelAspect.num === square.num ? '' : ' with its pixel shape'}, ${spaced(mode.value.kind)}: ${facts.value.map((f) => `${f.name} ${f.value}`).join('; ')}. Arrow keys move the point that is looked at closely.`,
)
</script>

<template>
  <div class="size">
    <div class="framings" role="group" aria-label="Framing">
      <button
        v-for="way in modes"
        :key="way"
        class="word"
        :aria-pressed="mode.kind === way"
        @click="mode = { kind: way }"
      >
        {{ spaced(way) }}
      </button>
      <span v-if="hasHairline(fit)" class="quiet">a hairline of bars: fill loses less than it shows</span>
    </div>
    <svg
      :viewBox="drawn.view"
      tabindex="0"
      role="application"
      aria-roledescription="drawing to scale"
      :aria-label="says"
      @keydown="onKey"
      @pointerdown="look"
    >
      <defs>
        <pattern
          id="empty"
          :width="6 * drawn.unit"
          :height="6 * drawn.unit"
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(45)"
        >
          <rect :width="6 * drawn.unit" :height="6 * drawn.unit" fill="#1a1a1a" />
          <rect :width="1.2 * drawn.unit" :height="6 * drawn.unit" fill="#55524c" />
        </pattern>
      </defs>
      <rect v-bind="drawn.picture" fill="var(--ground)" />
      <image
        v-if="media.posterOf(clip)"
        v-bind="drawn.picture"
        :href="media.posterOf(clip)"
        preserveAspectRatio="none"
      />
      <rect v-for="(bar, i) in bars" :key="i" v-bind="bar" fill="url(#empty)" />
      <rect
        v-bind="drawn.picture"
        class="picture"
        :stroke-width="drawn.unit"
        :stroke-dasharray="`${4 * drawn.unit}`"
      />
      <rect v-bind="drawn.frame" class="frame" :stroke-width="2.4 * drawn.unit" />
      <template v-if="drawn.room">
        <rect v-bind="drawn.room" class="room dark" :stroke-width="2.4 * drawn.unit" />
        <rect v-bind="drawn.room" class="room" :stroke-width="1.2 * drawn.unit" />
      </template>
      <g fill="none" :stroke-width="1.4 * drawn.unit">
        <circle :cx="marker.x" :cy="marker.y" :r="6 * drawn.unit" stroke="#000" />
        <circle :cx="marker.x" :cy="marker.y" :r="7.4 * drawn.unit" stroke="#fff" />
      </g>
    </svg>
    <dl aria-label="Figures of the framing">
      <template v-for="fact in facts" :key="fact.name">
        <dt class="quiet">{{ fact.name }}</dt>
        <dd class="figures">{{ fact.value }}</dd>
      </template>
    </dl>
  </div>
</template>

<style scoped>
.framings {
  display: flex;
  align-items: baseline;
  margin-left: -6px;
}
.size {
  display: grid;
  grid-template-columns: 250px 1fr;
  gap: 4px 14px;
  padding-bottom: 10px;
}
.framings {
  grid-column: 1 / -1;
}
svg {
  display: block;
  width: 100%;
  height: 150px;
  cursor: crosshair;
}
.picture {
  fill: none;
  stroke: #f4f1e8;
}
.frame {
  fill: none;
  stroke: var(--accent);
}
.room {
  fill: none;
  stroke: #fff;
}
.dark {
  stroke: #000;
}
dl {
  display: grid;
  grid-template-columns: 62px 1fr;
  align-content: start;
  font-size: 12px;
}
</style>
