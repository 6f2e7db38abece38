<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Clip } from '../../../../core/model/clip'
import { useProject } from '../../../../stores/document/project'
import type { Field } from '../../../../media/play/field'
import { layerOfClip, rasterOf } from '../../../picture/layer-of-clip'
import { usePainter } from '../../../picture/use-painter'
import EvidenceFigure from './EvidenceFigure.vue'

/** A frame of a clip, or one of its fields made whole, as wide as there is room. */
const props = withDefaults(defineProps<{ clip: Clip; frame: number; field?: Field; caption: string }>(), {
  field: 'both',
})
const project = useProject()
const canvas = ref<HTMLCanvasElement | null>(null)
const size = computed(() => rasterOf(props.clip))
const { trouble } = usePainter(canvas, () => {
  const { width, height } = size.value
  return {
    key: `${props.frame} ${props.field}`,
    painting: {
      layers: [layerOfClip(project.opened, props.clip, size.value, props.frame)],
      region: { x: 0, y: 0, width, height },
      width,
      height,
      scaling: 'pixels',
      field: props.field,
    },
  }
})
</script>

<template>
  <EvidenceFigure>
    <canvas ref="canvas" role="img" :aria-label="caption" />
    <template #caption>{{ trouble ?? caption }}</template>
  </EvidenceFigure>
</template>
