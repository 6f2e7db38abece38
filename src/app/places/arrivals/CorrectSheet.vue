<script setup lang="ts">
import { deepEqual } from '../../../core/equality'
import { leadsIn } from '../../../core/model/timeline'
import { Button, Input, Modal } from 'ant-design-vue'
import { computed, reactive } from 'vue'
import { correct, correctedPlacements } from '../../../core/edit/correction'
import { type Clip, claimsOf } from '../../../core/model/clip'
import { rateName } from '../../../core/rate/rate'
import { parseRate } from '../../../core/rate/parse'
import { rational } from '../../../core/rational/rational'
import {
  type CorrectionChange,
  Corrections,
  changed,
  consequences,
  isCorrected,
  shortenedSentence,
} from '../../../core/reading/correct'
import { type Colour } from '../../../core/picture/colour'
import NativeSelect from '../../components/NativeSelect.vue'
import { counted, ratio } from '../../../core/words/figures'
import { useProject } from '../../../stores/document/project'
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
/** What stands in a field: nothing is changed (`keep`), the claim holds again (`claimed`), or a correction. */
const keep = 'keep'
const claimed = 'claimed'
/** The correction that all clips have, as a field shows it; `keep` where they differ. */
function common(textOf: (corrections: Corrections) => string | undefined): string {
  const texts = new Set(props.clips.map((clip) => textOf(clip.corrections) ?? claimed))
  const [only] = texts
  return texts.size === 1 && only !== undefined ? only : keep
}
const colourOf = ({ colour }: Corrections) =>
  Object.keys(colours).find(
    (name) => colours[name]?.primaries === colour?.primaries && colours[name]?.transfer === colour?.transfer,
  )
const before = {
  rate: common(({ rate }) => rate && rateName(rate)),
  pixels: common(({ pixelAspect }) => pixelAspect && ratio(pixelAspect)),
  scan: common(({ scan }) => scan),
  order: common(({ fieldOrder }) => fieldOrder),
  rotation: common(({ rotation }) => (rotation === undefined ? undefined : String(rotation))),
  alpha: common(({ premultiplied }) =>
    premultiplied === undefined ? undefined : premultiplied ? 'premultiplied' : 'straight',
  ),
  window: common(({ window }) => window),
  colour: common(colourOf),
  range: common(({ colour }) => colour?.range ?? undefined),
}
/** Typed fields are empty both where nothing is corrected and where clips differ; a select says which. */
const typed = (text: string) => (text === keep || text === claimed ? '' : text)
const form = reactive({ ...before, rate: typed(before.rate), pixels: typed(before.pixels) })
const differs = (text: string) => text === keep && props.clips.length > 1
const placeholder = (text: string) => (differs(text) ? 'as each is' : 'as claimed')
/** What a select offers besides corrections. */
const unchanged = (text: string) => [
  ...(differs(text) ? [{ value: keep, label: 'as each is' }] : []),
  { value: claimed, label: 'as claimed' },
]

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
/** The colour that all clips have as far as it is not changed here; null where they differ, and nothing can be said of their range alone. */
const sharedColour = computed<Colour | null>(() => {
  const [first, ...rest] = props.clips.map(({ reading }) => reading?.video?.colour ?? null)
  return first && rest.every((other) => deepEqual(other, first)) ? first : null
})
/** The colour that is set: by name, its range, or both; undefined where it stays, null where the claim holds again. */
function colourChange(): Colour | null | undefined {
  const named = form.colour !== before.colour && form.colour !== keep
  const ranged = form.range !== before.range && form.range !== keep
  if (!named && !ranged) return undefined
  const base = named ? (form.colour === claimed ? null : (colours[form.colour] ?? null)) : sharedColour.value
  if (form.range !== 'full' && form.range !== 'limited') return named ? base : null
  const colour = base ?? sharedColour.value
  return colour && { ...colour, range: form.range }
}

/** What of the corrections the editor has set: only that is changed. */
const change = computed<CorrectionChange>(() => {
  const is = <T,>(current: string, was: string, value: () => T | null) =>
    current === was || current === keep ? undefined : current === claimed || current === '' ? null : value()
  const set: Record<string, unknown> = {
    rate: form.rate === typed(before.rate) ? undefined : (typedRate.value?.rate ?? null),
    pixelAspect: form.pixels === typed(before.pixels) ? undefined : typedPixels.value,
    scan: is(form.scan, before.scan, () => form.scan),
    fieldOrder: is(form.order, before.order, () => form.order),
    rotation: is(form.rotation, before.rotation, () => Number(form.rotation)),
    premultiplied: is(form.alpha, before.alpha, () => form.alpha === 'premultiplied'),
    window: is(form.window, before.window, () => form.window),
    colour: colourChange(),
  }
  // A rate typed with its scan (50i) says both.
  if (set.rate && typedRate.value?.scan && set.scan === undefined) set.scan = typedRate.value.scan
  return Object.fromEntries(Object.entries(set).filter(([, value]) => value !== undefined))
})
const isChanged = computed(() => Object.keys(change.value).length > 0)
const sentences = computed(() =>
  props.clips.slice(0, 20).flatMap((clip) => {
    const claims = claimsOf(clip)
    return claims ? [{ clip, says: consequences(claims, changed(clip.corrections, change.value)) }] : []
  }),
)
/** What becomes of placements: told by the function that does it. */
const shortened = computed(() => {
  if (!isChanged.value) return ''
  const ids = props.clips.map(({ id }) => id)
  const leads = new Set(project.timelines.flatMap((timeline) => leadsIn(timeline).map(({ id }) => id)))
  const losing = correctedPlacements(project.opened, ids, change.value).filter(
    ({ shortenedBy, placementId }) => shortenedBy > 0 && leads.has(placementId),
  )
  return shortenedSentence(
    losing.length,
    losing.reduce((sum, { shortenedBy }) => sum + shortenedBy, 0),
  )
})
const valid = computed(
  () => (!form.rate.trim() || typedRate.value) && (!form.pixels.trim() || typedPixels.value),
)
const claims = (clip: Clip) => {
  const video = claimsOf(clip)?.video
  return video
    ? `claims ${pixelSizeName(video)}, ${video.rate ? rateWithScan(video.rate, video.scan) : 'no rate'}`
    : ''
}

function apply(value: CorrectionChange, what: string) {
  const ids = props.clips.map((clip) => clip.id)
  const whom = ids.length === 1 ? props.clips[0]?.name : counted(ids.length, 'clip')
  project.edit(`${what} ${whom}`, (doc) => correct(doc, ids, value))
  emit('close')
}
/** Every correction taken back. */
const takenBack = computed<CorrectionChange>(() =>
  Object.fromEntries(Object.keys(Corrections.unwrap().shape).map((fact) => [fact, null])),
)
</script>

<template>
  <Modal
    open
    :footer="null"
    :width="660"
    :title="clips.length === 1 ? `Correct ${clips[0]?.name}` : `Correct ${clips.length} clips`"
    @cancel="emit('close')"
  >
    <form class="form" @submit.prevent="valid && isChanged && apply(change, 'correct')">
      <label
        >rate <Input v-model:value="form.rate" :placeholder="placeholder(before.rate)" aria-label="Rate"
      /></label>
      <label
        >pixel shape
        <Input v-model:value="form.pixels" :placeholder="placeholder(before.pixels)" aria-label="Pixel shape"
      /></label>
      <label
        >scan
        <NativeSelect
          v-model:value="form.scan"
          aria-label="Scan"
          :options="[
            ...unchanged(before.scan),
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
            ...unchanged(before.order),
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
            ...unchanged(before.rotation),
            ...[0, 90, 180, 270].map((d) => ({ value: String(d), label: `${d}° clockwise` })),
          ]"
      /></label>
      <label
        >colour
        <NativeSelect
          v-model:value="form.colour"
          aria-label="Colour"
          :options="[
            ...unchanged(before.colour),
            ...Object.keys(colours).map((value) => ({ value, label: value })),
          ]"
      /></label>
      <label v-if="clips.some(({ reading }) => reading?.video?.alpha)"
        >alpha
        <NativeSelect
          v-model:value="form.alpha"
          aria-label="Alpha"
          :options="[
            ...unchanged(before.alpha),
            { value: 'straight', label: 'straight' },
            { value: 'premultiplied', label: 'premultiplied' },
          ]"
      /></label>
      <label v-if="clips.some((clip) => claimsOf(clip)?.video?.dataWindow)"
        >picture area
        <NativeSelect
          v-model:value="form.window"
          aria-label="Picture area"
          :options="[...unchanged(before.window), { value: 'data', label: 'all that the file holds' }]"
      /></label>
      <label
        >range
        <NativeSelect
          v-model:value="form.range"
          aria-label="Range"
          :disabled="!sharedColour"
          :options="[
            ...unchanged(before.range),
            { value: 'limited', label: 'limited' },
            { value: 'full', label: 'full' },
          ]"
      /></label>
      <p v-if="trouble" class="wide quiet" role="status">{{ trouble }}</p>
      <div class="wide says" aria-live="polite">
        <p v-for="{ clip, says } in sentences" :key="clip.id">
          <b>{{ clip.name }}</b> <span class="quiet">{{ claims(clip) }}.</span>
          {{ says.join(' ') || 'Stays as claimed.' }}
        </p>
        <p v-if="clips.length > 20" class="quiet">and {{ clips.length - 20 }} more</p>
        <p v-if="shortened" role="note">
          <b>{{ shortened }}</b> Other clips stay where they are.
        </p>
      </div>
      <div class="wide actions">
        <Button type="primary" html-type="submit" :disabled="!valid || !isChanged"
          >Correct {{ clips.length === 1 ? 'it' : clips.length }}</Button
        >
        <Button
          :disabled="!clips.some((clip) => isCorrected(clip.corrections))"
          @click="apply(takenBack, 'take back corrections of')"
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
