<script setup lang="ts">
import { computed } from 'vue'
import { type Clip, decodedSizeOf } from '../../../../core/model/clip'
import type { EvidenceView } from '../../../../media/evidence-view'
import type { Field } from '../../../../media/play/field'
import { rasterOf } from '../../../picture/layer-of-clip'
import DifferencePicture from './DifferencePicture.vue'
import EvidencePicture from './EvidencePicture.vue'
import SpectrumChart from './SpectrumChart.vue'
import type { View } from './views'

/** A frame taken apart: its two fields, itself beside the one before it, or its spectra. */
const props = defineProps<{ clip: Clip; view: View; frame: number; proof: EvidenceView | null }>()
const before = computed(() => Math.max(0, props.frame - 1))
const size = computed(() => decodedSizeOf(props.clip) ?? rasterOf(props.clip))

/** The order that the clip is held to have; null where its frames are held to be whole. */
const flagged = computed(() => {
  const video = props.clip.reading?.video
  return video?.scan === 'interlaced' ? video.fieldOrder : null
})
const measuredFirst = computed(() => props.clip.evidence?.fieldOrder.verdict)
/** Both fields as they are shown one after the other: as flagged, else as measured. */
const order = computed<[Field, Field]>(() =>
  (flagged.value ? flagged.value === 'bottom-first' : measuredFirst.value === 'bottom-first')
    ? ['bottom', 'top']
    : ['top', 'bottom'],
)
function fieldCaption(place: 0 | 1): string {
  const [first] = order.value
  const turned =
    ['top-first', 'bottom-first'].includes(measuredFirst.value ?? '') &&
    measuredFirst.value !== `${first}-first`
  const [as, truly] = place === 0 ? ['first', 'second'] : ['second', 'first']
  return `${order.value[place]} field, shown ${as}${turned ? `, but ${truly} in time` : ''}`
}
</script>

<template>
  <template v-if="view === 'fields'">
    <EvidencePicture :clip="clip" :frame="frame" :field="order[0]" :caption="fieldCaption(0)" />
    <EvidencePicture :clip="clip" :frame="frame" :field="order[1]" :caption="fieldCaption(1)" />
  </template>
  <template v-else-if="view === 'repeats'">
    <EvidencePicture :clip="clip" :frame="before" :caption="`frame ${before}`" />
    <EvidencePicture :clip="clip" :frame="frame" :caption="`frame ${frame}`" />
    <DifferencePicture v-if="proof?.about === 'repeats'" :difference="proof.difference" />
  </template>
  <template v-else>
    <EvidencePicture :clip="clip" :frame="frame" :caption="`frame ${frame}`" />
    <SpectrumChart
      v-if="proof?.about === 'detail' && proof.spectrum"
      :spectrum="proof.spectrum"
      :size="size"
      :detail="clip.evidence?.detail ?? null"
    />
  </template>
</template>
