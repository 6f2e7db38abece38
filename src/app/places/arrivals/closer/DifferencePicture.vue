<script setup lang="ts">
import { ref, watch } from 'vue'
import type { Difference } from '../../../../core/evidence/proof'
import { figure } from '../../../../core/words/figures'

/** The difference of two frames as a picture, made eight times as strong. */
const props = defineProps<{ difference: Difference }>()
const canvas = ref<HTMLCanvasElement | null>(null)
const strength = 8

watch(
  [() => props.difference, canvas],
  () => {
    const context = canvas.value?.getContext('2d')
    if (!canvas.value || !context) return
    const { width, height, data } = props.difference.picture
    canvas.value.width = width
    canvas.value.height = height
    const image = new ImageData(width, height)
    data.forEach((value, i) => image.data.fill(Math.min(255, value * strength), 4 * i, 4 * i + 3))
    for (let i = 3; i < image.data.length; i += 4) image.data[i] = 255
    context.putImageData(image, 0, 0)
  },
  { immediate: true, flush: 'post' },
)
</script>

<template>
  <figure>
    <canvas ref="canvas" role="img" aria-label="The difference of both frames" />
    <figcaption>
      their difference, made {{ strength }} times as strong:
      <b class="figures">{{ figure(difference.codes, 1) }}</b> of 255 where it is largest
    </figcaption>
  </figure>
</template>

<style scoped>
figure {
  margin: 0;
  min-width: 0;
  display: flex;
  flex-direction: column;
  gap: 4px;
}
canvas {
  width: 100%;
  max-height: 52vh;
  object-fit: contain;
  object-position: top left;
}
figcaption {
  font-size: 12px;
  color: #f4f1e8;
}
</style>
