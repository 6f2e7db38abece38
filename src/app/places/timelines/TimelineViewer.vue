<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import type { Timeline } from '../../../core/edit/project'
import type { Format } from '../../../core/format/format'
import { displaySize } from '../../../core/format/format'
import { fitPicture } from '../../../core/framing/framing'
import { shownFrame } from '../../../core/motion/shown'
import { useMedia } from '../../../stores/media'
import { useProject } from '../../../stores/project'

/** The real frame under the playhead, fitted into the timeline's frame as computed. */
const props = defineProps<{ timeline: Timeline; format: Format; playhead: number }>()
const project = useProject()
const media = useMedia()
const box = ref<HTMLElement | null>(null)
const canvas = ref<HTMLCanvasElement | null>(null)
const { width, height } = useElementSize(box)
const trouble = ref<string | null>(null)
/** What is on screen now: a decoder may need a moment for what is asked. */
const drawn = ref<{ clipId: string; frame: number | null } | null>(null)

const placement = computed(
  () =>
    props.timeline.tracks
      .filter((track) => track.kind === 'video')
      .flatMap((track) => track.placements)
      .find((p) => props.playhead >= p.start && props.playhead < p.start + p.length) ?? null,
)
const clip = computed(() => (placement.value ? (project.doc?.clips[placement.value.clipId] ?? null) : null))
const shown = computed(() => {
  const p = placement.value
  const video = clip.value?.reading?.video
  if (!p || !video) return null
  const wanted = shownFrame(props.playhead - p.start, video.rate, props.format.rate, p.sourceIn)
  const last = (video.frameCount ?? Infinity) - 1
  if (wanted.frame === null || !video.rate || wanted.frame <= last) return wanted
  return { frame: last, seconds: ((last + 0.5) * video.rate.den) / video.rate.num }
})
/** The frame on screen, as large as it goes at its true shape. */
const frame = computed(() => {
  const { width: w, height: h } = displaySize(props.format)
  const scale = Math.min(width.value / w, height.value / h)
  return { width: Math.max(1, Math.floor(w * scale)), height: Math.max(1, Math.floor(h * scale)) }
})

/** Only the newest wish is decoded; what is asked for meanwhile waits, and only the last of it. */
let busy = false
let again = false
async function draw() {
  if (busy) {
    again = true
    return
  }
  busy = true
  try {
    do {
      again = false
      await drawOnce()
    } while (again)
  } finally {
    busy = false
  }
}

async function drawOnce() {
  const target = canvas.value
  if (!target || frame.value.width <= 1) return
  const ratio = window.devicePixelRatio || 1
  const [w, h] = [Math.round(frame.value.width * ratio), Math.round(frame.value.height * ratio)]
  const [p, what, at] = [placement.value, clip.value, shown.value]
  const answer = what && at ? await media.frameAt(what, at.seconds, 1920) : null
  trouble.value = answer && !answer.ok ? answer.error : null
  if (target.width !== w) target.width = w
  if (target.height !== h) target.height = h
  const context = target.getContext('2d')!
  context.fillStyle = '#000'
  context.fillRect(0, 0, w, h)
  drawn.value = answer?.ok && what && at ? { clipId: what.id, frame: at.frame } : null
  if (!answer?.ok || !p || !what?.reading?.video) return
  const fit = fitPicture(what.reading.video, props.format, p.treatment)
  const [sx, sy] = [w / props.format.width, h / props.format.height]
  context.imageSmoothingQuality = 'high'
  context.drawImage(answer.picture, fit.left * sx, fit.top * sy, fit.width * sx, fit.height * sy)
  answer.picture.close()
}
const pending = computed(
  () =>
    !trouble.value &&
    shown.value !== null &&
    (drawn.value?.clipId !== clip.value?.id || drawn.value?.frame !== shown.value.frame),
)
watch([shown, frame, () => props.format, clip], () => void draw(), { immediate: true, flush: 'post' })
</script>

<template>
  <div ref="box" class="viewer">
    <canvas
      ref="canvas"
      :style="{ width: `${frame.width}px`, height: `${frame.height}px` }"
      role="img"
      :aria-label="clip ? `${clip.name}, source frame ${shown?.frame ?? 'still'}` : 'Nothing is placed here'"
      :data-source-frame="pending ? '' : (drawn?.frame ?? '')"
    />
    <p v-if="trouble" class="trouble">{{ trouble }}</p>
    <p v-if="clip" class="says figures">
      {{ clip.name }} · {{ pending ? 'decoding' : 'source' }} frame <b>{{ shown?.frame ?? 'still' }}</b>
    </p>
  </div>
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
  position: absolute;
  left: 8px;
  bottom: 6px;
  margin: 0;
  font-size: 11.5px;
  color: #f4f1e8;
  background: rgb(20 20 20 / 72%);
  padding: 1px 6px;
}
</style>
