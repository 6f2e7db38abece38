<script setup lang="ts">
import { computed } from 'vue'
import type { DeliveryCheck } from '../../../core/dispatch/delivery-check'
import { displayAspect } from '../../../core/picture/size'
import { toNumber } from '../../../core/rational/rational'
import type { Format } from '../../../core/format/format'
import { percent } from '../../../core/words/figures'
import { useMedia } from '../../../stores/media'
import { placementsIn } from '../../../core/model/timeline'

/** The frame of the cut and that of the deliverable, to one scale of picture: what of it is seen, and what is added. */
const props = defineProps<{ check: DeliveryCheck; fills: boolean }>()
const media = useMedia()
const [wide, high] = [416, 234]

const shape = (format: Format) => toNumber(displayAspect(format))
/** Both in units of the cut's height; they lie about one middle. */
const frames = computed(() => {
  const { sourceFormat, format } = props.check.out
  const [cut, out] = [shape(sourceFormat), shape(format)]
  const fitsAcross = out <= cut === props.fills
  const size = fitsAcross ? { width: out, height: 1 } : { width: cut, height: cut / out }
  const scale = Math.min((wide - 2) / Math.max(cut, size.width), (high - 2) / Math.max(1, size.height))
  const rect = (width: number, height: number) => ({
    x: (wide - width * scale) / 2,
    y: (high - height * scale) / 2,
    width: width * scale,
    height: height * scale,
  })
  return { cut: rect(cut, 1), out: rect(size.width, size.height) }
})
const seen = computed(() => {
  const { cut, out } = frames.value
  const across = Math.min(1, out.width / cut.width)
  const down = Math.min(1, out.height / cut.height)
  return { across, down }
})
const poster = computed(() => {
  for (const { source } of placementsIn(props.check.out.source)) {
    const clip = source.kind === 'clip' ? props.check.out.doc.clips[source.clipId] : undefined
    const url = clip && media.posterOf(clip)
    if (url) return url
  }
  return null
})
const name = ({ width, height }: Format) => `${width}×${height}`
const says = computed(() => {
  const { across, down } = seen.value
  if (across < 0.999) return `${percent(1 - across)} of the width is not seen`
  if (down < 0.999) return `${percent(1 - down)} of the height is not seen`
  const { cut, out } = frames.value
  const bars = 1 - (cut.width * cut.height) / (out.width * out.height)
  return bars > 0.001 ? `bars take ${percent(bars)} of the frame` : 'all of it is seen'
})
</script>

<template>
  <figure>
    <svg
      :viewBox="`0 0 ${wide} ${high}`"
      :style="{ width: `${wide}px` }"
      role="img"
      :aria-label="`The cut, ${name(check.out.sourceFormat)}, in ${name(check.out.format)}: ${says}`"
    >
      <rect v-bind="frames.out" fill="var(--ink)" />
      <image v-if="poster" v-bind="frames.cut" :href="poster" preserveAspectRatio="xMidYMid slice" />
      <rect v-else v-bind="frames.cut" fill="var(--line)" />
      <path
        :d="`M0 0H${wide}V${high}H0Z M${frames.out.x} ${frames.out.y}v${frames.out.height}h${frames.out.width}v${-frames.out.height}Z`"
        class="unseen"
      />
      <rect v-bind="frames.cut" class="frame" />
      <rect v-bind="frames.out" class="frame goes-out" />
    </svg>
    <figcaption class="quiet">
      <span class="figures">{{ name(check.out.sourceFormat) }} → {{ name(check.out.format) }}</span
      >, {{ says }}
    </figcaption>
  </figure>
</template>

<style scoped>
figure {
  margin: 0;
}
svg {
  display: block;
  max-width: 100%;
}
.unseen {
  fill: var(--ground);
  fill-opacity: 0.62;
  fill-rule: evenodd;
}
.frame {
  fill: none;
  stroke: var(--ink);
}
.goes-out {
  stroke: var(--accent);
  stroke-width: 2;
}
</style>
