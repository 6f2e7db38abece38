<script setup lang="ts">
import { computed, ref } from 'vue'
import { type Clip } from '../../../core/model/clip'
import { type Format, formatName } from '../../../core/format/format'
import { displaySize } from '../../../core/picture/size'
import { posterFrame } from '../../../stores/media'
import { useProject } from '../../../stores/document/project'
import { layerOfClip } from '../../picture/layer-of-clip'
import { usePainter } from '../../picture/use-painter'

/** A real frame of a clip as it would lie in a format. */
const props = defineProps<{ clip: Clip; format: Format }>()
const project = useProject()
const canvas = ref<HTMLCanvasElement | null>(null)
/** As large as it goes in this box, at the format's true shape. */
const box = { width: 260, height: 146 }
const size = computed(() => {
  const { width, height } = displaySize(props.format)
  const scale = Math.min(box.width / width, box.height / height)
  return { width: Math.round(width * scale), height: Math.round(height * scale) }
})
const { trouble, painted } = usePainter(canvas, () => ({
  key: props.clip.id,
  widest: 640,
  near: true,
  painting: {
    layers: [layerOfClip(project.opened, props.clip, props.format, posterFrame(props.clip))],
    region: { x: 0, y: 0, width: props.format.width, height: props.format.height },
    width: size.value.width * (window.devicePixelRatio || 1),
    height: size.value.height * (window.devicePixelRatio || 1),
    scaling: 'smooth',
  },
}))
</script>

<template>
  <div class="frame">
    <canvas
      v-show="!trouble"
      ref="canvas"
      role="img"
      :aria-label="`${clip.name} in ${formatName(format)}`"
      :aria-busy="painted === null"
      :style="{ width: `${size.width}px`, height: `${size.height}px` }"
    />
    <p v-if="trouble">{{ trouble }}</p>
  </div>
</template>

<style scoped>
.frame {
  height: 146px;
  display: grid;
  align-items: center;
}
canvas {
  display: block;
  background: var(--ground);
}
p {
  color: var(--quiet);
}
</style>
