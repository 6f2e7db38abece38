<script setup lang="ts">
import { ref, watch } from 'vue'
import type { PictureDifference } from '../../../../core/evidence/view'
import { figure } from '../../../../core/words/figures'
import EvidenceFigure from './EvidenceFigure.vue'

/** The difference of two frames as a picture, made eight times as strong. */
const props = defineProps<{ difference: PictureDifference }>()
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
    for (let i = 0, at = 0; i < data.length; i++, at += 4) {
      image.data[at] = image.data[at + 1] = image.data[at + 2] = (data[i] ?? 0) * strength
      image.data[at + 3] = 255
    }
    context.putImageData(image, 0, 0)
  },
  { immediate: true, flush: 'post' },
)
</script>

<template>
  <EvidenceFigure>
    <canvas ref="canvas" role="img" aria-label="The difference of both frames" />
    <template #caption>
      their difference, made {{ strength }} times as strong:
      <b class="figures">{{ figure(difference.codes, 1) }}</b> of 255 where it is largest
    </template>
  </EvidenceFigure>
</template>
