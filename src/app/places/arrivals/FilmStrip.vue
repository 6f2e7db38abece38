<script setup lang="ts">
import { ref, watch } from 'vue'
import { type Clip } from '../../../core/model/clip'
import { timingOf } from '../../../core/model/timing'
import { countOf, framesOf } from '../../../core/motion/timing'
import { contentKey } from '../../../media/frame-locator'
import { useMedia } from '../../../stores/media'

/** Eight real frames, evenly through the clip. */
const props = defineProps<{ clip: Clip }>()
const media = useMedia()
const count = 8
const canvases = ref<HTMLCanvasElement[]>([])
const wide = 96

watch(
  () => contentKey(props.clip),
  async (id) => {
    for (const canvas of canvases.value) canvas.width = wide
    const frames = countOf(framesOf(timingOf(props.clip)))
    // The list may be walked through quickly: only a clip that stays is worth decoding.
    await new Promise((done) => setTimeout(done, 250))
    for (let i = 0; i < count && contentKey(props.clip) === id; i++) {
      const answer = await media.frameAt(props.clip, Math.floor((frames * (i + 0.5)) / count), wide)
      if (!answer.ok) return
      const canvas = canvases.value[i]
      if (canvas && contentKey(props.clip) === id) {
        canvas.width = answer.picture.width
        canvas.height = answer.picture.height
        canvas.getContext('2d')?.drawImage(answer.picture, 0, 0)
      }
      answer.picture.close()
    }
  },
  { immediate: true },
)
</script>

<template>
  <div class="strip" role="img" :aria-label="`Eight frames through ${clip.name}`">
    <canvas v-for="i in count" :key="i" ref="canvases" />
  </div>
</template>

<style scoped>
.strip {
  display: grid;
  grid-template-columns: repeat(8, 1fr);
  gap: 3px;
}
canvas {
  width: 100%;
  height: 24px;
  object-fit: cover;
  background: var(--ground);
}
</style>
