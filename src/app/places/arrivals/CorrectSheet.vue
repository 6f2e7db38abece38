<script setup lang="ts">
import { Button, Input, Modal } from 'ant-design-vue'
import { computed, reactive } from 'vue'
import { correct } from '../../../core/edit/operations'
import type { Clip } from '../../../core/edit/project'
import { rateName } from '../../../core/rate/rate'
import { parseRate } from '../../../core/rate/parse'
import { rational } from '../../../core/rational/rational'
import { type Corrections, consequences, isCorrected } from '../../../core/reading/correct'
import type { Colour } from '../../../core/reading/reading'
import NativeSelect from '../../components/NativeSelect.vue'
import { useProject } from '../../../stores/project'
import { PixelAspect } from '../../../core/picture/size'
import { pixelSizeName } from '../../../core/format/format'
import { rateWithScan } from '../../../core/rate/rate'

/** The editor's word over the claims of one clip or many, with what it does before it is applied. */
const props = defineProps<{ clips: readonly Clip[] }>()
const emit = defineEmits<{ close: [] }>()
const project = useProject()

const colours: Record<string, Colour> = {
  'BT.709': { primaries: 'bt709', transfer: 'bt709', matrix: 'bt709', range: 'limited' },
  'BT.601, 625 lines': { primaries: 'bt601-625', transfer: 'bt601', matrix: 'bt601-625', range: 'limited' },
  'BT.601, 525 lines': { primaries: 'bt601-525', transfer: 'bt601', matrix: 'bt601-525', range: 'limited' },
  'BT.2020 PQ': { primaries: 'bt2020', transfer: 'pq', matrix: 'bt2020', range: 'limited' },
  'BT.2020 HLG': { primaries: 'bt2020', transfer: 'hlg', matrix: 'bt2020', range: 'limited' },
}
const first = props.clips[0]?.corrections ?? {}
const form = reactive({
  rate: first.rate ? rateName(first.rate) : '',
  pixels: first.pixelAspect ? `${first.pixelAspect.num}:${first.pixelAspect.den}` : '',
  scan: (first.scan ?? '') as '' | 'progressive' | 'interlaced',
  order: (first.fieldOrder ?? '') as '' | 'top-first' | 'bottom-first',
  rotation: first.rotation === undefined ? '' : String(first.rotation),
  colour:
    Object.keys(colours).find(
      (name) =>
        colours[name].primaries === first.colour?.primaries &&
        colours[name].transfer === first.colour?.transfer,
    ) ?? '',
})
const asClaimed = { value: '', label: 'as claimed' }

const typedRate = computed(() => (form.rate.trim() ? parseRate(form.rate) : null))
const typedPixels = computed(() => {
  const match = /^\s*(\d{1,5})\s*[:/]\s*(\d{1,5})\s*$/.exec(form.pixels)
  if (!match || !Number(match[2])) return null
  const shape = PixelAspect.safeParse(rational(Number(match[1]), Number(match[2])))
  return shape.success ? shape.data : null
})
const trouble = computed(() => {
  if (form.rate.trim() && !typedRate.value) return 'The rate is written as 25, 23.976, 30000/1001 or 50i.'
  if (form.pixels.trim() && !typedPixels.value)
    return 'The pixel shape is written as 64:45, from 1:16 to 16:1.'
  return typedRate.value?.message ?? null
})
const corrections = computed<Corrections>(() => ({
  ...(typedRate.value ? { rate: typedRate.value.rate } : {}),
  ...(typedPixels.value ? { pixelAspect: typedPixels.value } : {}),
  ...(form.scan ? { scan: form.scan } : typedRate.value?.scan ? { scan: typedRate.value.scan } : {}),
  ...(form.order ? { fieldOrder: form.order } : {}),
  ...(form.rotation ? { rotation: Number(form.rotation) as 0 | 90 | 180 | 270 } : {}),
  ...(form.colour ? { colour: colours[form.colour] } : {}),
}))
const sentences = computed(() =>
  props.clips
    .slice(0, 20)
    .map((clip) => ({ clip, says: consequences(clip.claimed ?? clip.reading!, corrections.value) })),
)
const valid = computed(
  () => (!form.rate.trim() || typedRate.value) && (!form.pixels.trim() || typedPixels.value),
)
const claims = (clip: Clip) => {
  const video = (clip.claimed ?? clip.reading)!.video!
  return `claims ${pixelSizeName(video)}, ${video.rate ? rateWithScan(video.rate, video.scan) : 'no rate'}`
}

function apply(value: Corrections) {
  const ids = props.clips.map((clip) => clip.id)
  const what = isCorrected(value) ? 'correct' : 'take back corrections of'
  project.edit(`${what} ${ids.length === 1 ? props.clips[0].name : `${ids.length} clips`}`, (doc) =>
    correct(doc, ids, value),
  )
  emit('close')
}
</script>

<template>
  <Modal
    open
    :footer="null"
    :width="660"
    :title="clips.length === 1 ? `Correct ${clips[0].name}` : `Correct ${clips.length} clips`"
    @cancel="emit('close')"
  >
    <form class="form" @submit.prevent="valid && apply(corrections)">
      <label>rate <Input v-model:value="form.rate" placeholder="as claimed" aria-label="Rate" /></label>
      <label
        >pixel shape <Input v-model:value="form.pixels" placeholder="as claimed" aria-label="Pixel shape"
      /></label>
      <label
        >scan
        <NativeSelect
          v-model:value="form.scan"
          aria-label="Scan"
          :options="[
            asClaimed,
            { value: 'progressive', label: 'progressive' },
            { value: 'interlaced', label: 'interlaced' },
          ]"
      /></label>
      <label
        >field order
        <NativeSelect
          v-model:value="form.order"
          aria-label="Field order"
          :options="[
            asClaimed,
            { value: 'top-first', label: 'top first' },
            { value: 'bottom-first', label: 'bottom first' },
          ]"
      /></label>
      <label
        >turn
        <NativeSelect
          v-model:value="form.rotation"
          aria-label="Turn"
          :options="[
            asClaimed,
            ...[0, 90, 180, 270].map((d) => ({ value: String(d), label: `${d}° clockwise` })),
          ]"
      /></label>
      <label
        >colour
        <NativeSelect
          v-model:value="form.colour"
          aria-label="Colour"
          :options="[asClaimed, ...Object.keys(colours).map((value) => ({ value, label: value }))]"
      /></label>
      <p v-if="trouble" class="wide quiet" role="status">{{ trouble }}</p>
      <div class="wide says" aria-live="polite">
        <p v-for="{ clip, says } in sentences" :key="clip.id">
          <b>{{ clip.name }}</b> <span class="quiet">{{ claims(clip) }}.</span>
          {{ says.join(' ') || 'Stays as claimed.' }}
        </p>
        <p v-if="clips.length > 20" class="quiet">and {{ clips.length - 20 }} more</p>
      </div>
      <div class="wide actions">
        <Button type="primary" html-type="submit" :disabled="!valid || !isCorrected(corrections)"
          >Correct {{ clips.length === 1 ? 'it' : clips.length }}</Button
        >
        <Button :disabled="!clips.some((clip) => isCorrected(clip.corrections))" @click="apply({})"
          >Back to the claims</Button
        >
      </div>
    </form>
  </Modal>
</template>

<style scoped>
.form {
  display: grid;
  grid-template-columns: 1fr 1fr 1fr;
  gap: 12px 16px;
}
label {
  display: flex;
  flex-direction: column;
  gap: 3px;
  color: var(--quiet);
}
.wide {
  grid-column: 1 / -1;
}
.says {
  border-top: 1px solid var(--ink);
  padding-top: 10px;
  max-height: 220px;
  overflow: auto;
  display: flex;
  flex-direction: column;
  gap: 6px;
}
.actions {
  display: flex;
  gap: 10px;
}
</style>
