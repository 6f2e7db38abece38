<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import { layersAt } from '../../../core/edit/layers'
import type { Timeline } from '../../../core/edit/timeline'
import type { Format } from '../../../core/format/format'
import { shownWords } from '../../../core/motion/words'
import { displaySize } from '../../../core/picture/size'
import { useProject } from '../../../stores/project'
import { usePainter } from '../../picture/use-painter'

/** The frame under the playhead as the plan says it: every layer where it lies, each source frame as it is shown. */
const props = defineProps<{ timeline: Timeline; format: Format; playhead: number }>()
const project = useProject()
const box = ref<HTMLElement | null>(null)
const canvas = ref<HTMLCanvasElement | null>(null)
const { width, height } = useElementSize(box)

const layers = computed(() => layersAt(project.opened, props.timeline, props.playhead))
/** The uppermost layer: what is told in words. */
const top = computed(() => layers.value.at(-1) ?? null)
const name = computed(() => {
  const source = top.value?.source
  if (!source) return null
  if (source.kind === 'clip') return project.opened.clips[source.clipId]?.name ?? 'a clip'
  return source.kind === 'timeline' ? project.opened.timelines[source.timelineId]?.name : 'test figure'
})
const says = computed(() => (top.value ? shownWords(top.value.shown) : ''))
/** The frame on screen, as large as it goes at its true shape. */
const frame = computed(() => {
  const { width: w, height: h } = displaySize(props.format)
  const scale = Math.min(width.value / w, height.value / h)
  return { width: Math.max(1, Math.floor(w * scale)), height: Math.max(1, Math.floor(h * scale)) }
})
const key = computed(() =>
  layers.value.map(({ placementId, shown }) => `${placementId} ${JSON.stringify(shown)}`).join('; '),
)
const { trouble, painted } = usePainter(canvas, () => {
  if (frame.value.width <= 1) return null
  const ratio = window.devicePixelRatio || 1
  const [w, h] = [frame.value.width, frame.value.height].map((side) => Math.round(side * ratio))
  return {
    key: key.value,
    widest: 1920,
    painting: {
      layers: layers.value,
      region: { x: 0, y: 0, width: props.format.width, height: props.format.height },
      width: w ?? 1,
      height: h ?? 1,
      scaling: 'smooth',
    },
  }
})
const pending = computed(() => !trouble.value && painted.value !== key.value)
/** The number of the source frame on screen, where it is one whole frame. */
const sourceFrame = computed(() =>
  !pending.value && top.value?.shown.kind === 'frame' ? top.value.shown.index : '',
)
</script>

<template>
  <div ref="box" class="viewer">
    <canvas
      ref="canvas"
      :style="{ width: `${frame.width}px`, height: `${frame.height}px` }"
      role="img"
      :aria-label="top ? `${name}, ${says}` : 'Nothing is placed here'"
      :data-source-frame="sourceFrame"
      :data-shown="pending ? '' : says"
    />
    <p v-if="trouble" class="trouble">{{ trouble }}</p>
  </div>
  <p class="says figures">
    <template v-if="top"
      >{{ name }} · <span v-if="pending">decoding </span><b>{{ says }}</b></template
    >
    <template v-else>nothing is placed here</template>
  </p>
</template>

<style scoped>
.viewer {
  flex: 1;
  min-height: 120px;
  background: var(--ground);
  display: grid;
  place-items: center;
  position: relative;
  overflow: hidden;
}
canvas {
  display: block;
}
.trouble {
  position: absolute;
  inset: auto 12px 40px;
  color: #f0ece2;
  text-align: center;
}
.says {
  font-size: 12px;
  margin: -4px 0 0;
}
</style>
