<script setup lang="ts">
import { type FramingMode, treated } from '../../../../core/treatment/treatment'
import { computed, ref, watch } from 'vue'
import { present } from '../../../../core/assert'
import { type Clip } from '../../../../core/model/clip'
import { type Format, sizeName } from '../../../../core/format/format'
import { posterFrame, useMedia } from '../../../../stores/media'
import { useProject } from '../../../../stores/document/project'
import { layerOfClip, rasterOf } from '../../../picture/layer-of-clip'
import { usePainter } from '../../../picture/use-painter'
import NativeSelect from '../../../components/NativeSelect.vue'
import { type Brightness, mostDetailed, sameScene } from './detail'

/** A piece of a real frame at pixel level: as recorded, and as the format would hold it. */
const props = defineProps<{
  clip: Clip
  format: Format
  mode: FramingMode
  /** Null until a place is chosen: then the most detailed one is found. */
  at: { x: number; y: number } | null
}>()
const emit = defineEmits<{ find: [at: { x: number; y: number }] }>()
const media = useMedia()
const project = useProject()

const panel = { width: 211, height: 120 }
/** Screen pixels for one pixel of the timeline. */
const zoom = ref(4)
const original = ref<HTMLCanvasElement | null>(null)
const result = ref<HTMLCanvasElement | null>(null)

const raster = computed(() => rasterOf(props.clip))
const frame = computed(() => posterFrame(props.clip))
const treatment = computed(() => treated([{ framing: { mode: props.mode } }]))
const layers = computed(() => ({
  recorded: layerOfClip(project.opened, props.clip, raster.value, frame.value),
  framed: layerOfClip(project.opened, props.clip, props.format, frame.value, treatment.value),
}))
const scene = computed(() =>
  sameScene(
    layers.value.framed,
    props.at ?? { x: 0.5, y: 0.5 },
    Math.round(panel.width / zoom.value),
    Math.round(panel.height / zoom.value),
  ),
)
const ratio = window.devicePixelRatio || 1
const [width, height] = [panel.width * ratio, panel.height * ratio]

const { trouble, painted } = usePainter(original, () => ({
  key: `${props.clip.id} ${zoom.value}`,
  painting: { layers: [layers.value.recorded], region: scene.value.stored, width, height, scaling: 'pixels' },
}))
usePainter(result, () => ({
  key: props.clip.id,
  painting: {
    layers: [layers.value.framed],
    region: scene.value.timeline,
    width,
    height,
    scaling: 'pixels',
    throughRaster: true,
  },
}))

/** Where a clip has most detail is looked for once, on a small picture of it. */
watch(
  () => props.clip.id,
  async (id) => {
    if (props.at) return
    const answer = await media.frameAt(props.clip, frame.value, 480)
    if (!answer.ok) return
    if (props.clip.id === id && !props.at) emit('find', mostDetailed(lumaOf(answer.picture)))
    answer.picture.close()
  },
  { immediate: true },
)

/** The brightness of a picture. */
function lumaOf(picture: ImageBitmap): Brightness {
  const { width, height } = picture
  const canvas = new OffscreenCanvas(width, height)
  const context = present(canvas.getContext('2d', { willReadFrequently: true }), 'a canvas is drawn on')
  context.drawImage(picture, 0, 0, width, height)
  const { data } = context.getImageData(0, 0, width, height)
  // BT.709 weights, in whole numbers of 256.
  const values = new Uint8Array(width * height)
  for (let i = 0; i < values.length; i++)
    values[i] = (54 * (data[4 * i] ?? 0) + 183 * (data[4 * i + 1] ?? 0) + 19 * (data[4 * i + 2] ?? 0)) >> 8
  return { width, height, values }
}
</script>

<template>
  <p v-if="trouble" class="quiet" role="status">{{ trouble }}</p>
  <div v-else class="pair">
    <figure>
      <canvas
        ref="original"
        role="img"
        :aria-label="`A piece of ${clip.name} as recorded`"
        :data-drawn="painted !== null"
      />
      <figcaption>
        as recorded <span class="quiet figures">{{ sizeName(raster) }}</span>
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
