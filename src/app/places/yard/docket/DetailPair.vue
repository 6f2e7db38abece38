<script setup lang="ts">
import { computed, onBeforeUnmount, ref, shallowRef, watch } from 'vue'
import type { Clip } from '../../../../core/edit/project'
import { type Format, sizeName } from '../../../../core/format/format'
import { type Framing, fitPicture } from '../../../../core/framing/framing'
import { posterTime, useMedia } from '../../../../stores/media'
import NativeSelect from '../../../components/NativeSelect.vue'
import { type Luma, mostDetailed, sameScene } from './detail'

/** A piece of a real frame at pixel level: as recorded, and as the format would hold it. */
const props = defineProps<{
  clip: Clip
  format: Format
  framing: Framing
  /** Null until a place is chosen: then the most detailed one is found. */
  at: { x: number; y: number } | null
}>()
const emit = defineEmits<{ find: [at: { x: number; y: number }] }>()
const media = useMedia()

const panel = { width: 211, height: 120 }
/** Screen pixels for one pixel of the timeline. */
const zoom = ref(4)
const trouble = ref<string | null>(null)
const original = ref<HTMLCanvasElement | null>(null)
const result = ref<HTMLCanvasElement | null>(null)

const upright = computed(() => {
  const { width, height, rotation } = props.clip.reading!.video!
  return rotation % 180 === 0 ? { width, height } : { width: height, height: width }
})
const fit = computed(() => fitPicture(props.clip.reading!.video!, props.format, { framing: props.framing }))
const scene = computed(() =>
  sameScene(
    fit.value,
    upright.value,
    props.at ?? { x: 0.5, y: 0.5 },
    Math.round(panel.width / zoom.value),
    Math.round(panel.height / zoom.value),
  ),
)

/** The frame of the poster, on which the place is shown: whole, kept while the place is moved. */
const frame = shallowRef<ImageBitmap | null>(null)
let asked = 0
watch(
  () => props.clip.id,
  async () => {
    const mine = ++asked
    frame.value?.close()
    frame.value = null
    const answer = await media.frameAt(props.clip, posterTime(props.clip), 8192)
    if (mine !== asked) {
      if (answer.ok) answer.picture.close()
      return
    }
    trouble.value = answer.ok ? null : answer.error
    if (!answer.ok) return
    frame.value = answer.picture
    if (!props.at) emit('find', mostDetailed(lumaOf(answer.picture)))
  },
  { immediate: true },
)

onBeforeUnmount(() => {
  asked++
  frame.value?.close()
})

/** The brightness of a picture, small enough to be looked through at once. */
function lumaOf(picture: ImageBitmap): Luma {
  const width = Math.min(480, picture.width)
  const height = Math.max(1, Math.round((picture.height * width) / picture.width))
  const context = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true })!
  context.drawImage(picture, 0, 0, width, height)
  const { data } = context.getImageData(0, 0, width, height)
  // BT.709 weights, in whole numbers of 256.
  const values = new Uint8Array(width * height)
  for (let i = 0; i < values.length; i++)
    values[i] = (54 * data[4 * i] + 183 * data[4 * i + 1] + 19 * data[4 * i + 2]) >> 8
  return { width, height, values }
}

function draw() {
  const picture = frame.value
  if (!picture || !original.value || !result.value) return
  const { stored, timeline } = scene.value
  // The decoder may hand out a picture of another size than the header states; shares hold for both.
  const k = { x: picture.width / upright.value.width, y: picture.height / upright.value.height }
  magnify(original.value, picture, stored.x * k.x, stored.y * k.y, stored.width * k.x, stored.height * k.y)
  // Some more than what is shown is scaled, so that its edges have neighbours.
  const rim = 4
  const made = new OffscreenCanvas(timeline.width + 2 * rim, timeline.height + 2 * rim)
  const context = made.getContext('2d')!
  context.imageSmoothingEnabled = fit.value.scaleX !== 1 || fit.value.scaleY !== 1
  context.imageSmoothingQuality = 'high'
  context.drawImage(
    picture,
    rim - timeline.x,
    rim - timeline.y,
    upright.value.width * fit.value.scaleX,
    upright.value.height * fit.value.scaleY,
  )
  magnify(result.value, made, rim, rim, timeline.width, timeline.height)
}
function magnify(to: HTMLCanvasElement, from: CanvasImageSource, x: number, y: number, w: number, h: number) {
  const ratio = window.devicePixelRatio || 1
  to.width = panel.width * ratio
  to.height = panel.height * ratio
  const context = to.getContext('2d')!
  context.imageSmoothingEnabled = false
  context.drawImage(from, x, y, w, h, 0, 0, to.width, to.height)
}
watch([frame, scene, original, result], draw, { flush: 'post' })
</script>

<template>
  <p v-if="trouble" class="quiet" role="status">{{ trouble }}</p>
  <div v-else class="pair">
    <figure>
      <canvas
        ref="original"
        role="img"
        :aria-label="`A piece of ${clip.name} as recorded`"
        :data-drawn="frame !== null"
      />
      <figcaption>
        as recorded <span class="quiet figures">{{ sizeName(upright) }}</span>
      </figcaption>
    </figure>
    <figure>
      <canvas ref="result" role="img" :aria-label="`The same piece in ${sizeName(format)}`" />
      <figcaption>
        in the format <span class="quiet figures">{{ sizeName(format) }}</span>
      </figcaption>
    </figure>
    <label class="quiet"
      >one timeline pixel on
      <NativeSelect
        v-model:value="zoom"
        aria-label="Magnification"
        class="zoom"
        :options="[2, 4, 8, 16].map((value) => ({ value, label: `${value} × ${value}` }))"
      />
      of the screen; the ring above is moved by mouse or arrow keys</label
    >
  </div>
</template>

<style scoped>
.pair {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 6px 10px;
  font-size: 12px;
}
canvas {
  display: block;
  width: 211px;
  height: 120px;
  background: var(--ground);
  image-rendering: pixelated;
}
label {
  grid-column: 1 / -1;
}
.zoom {
  height: 24px;
}
</style>
