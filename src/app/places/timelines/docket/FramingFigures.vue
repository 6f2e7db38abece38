<script setup lang="ts">
import { computed } from 'vue'
import type { SettledPlacement } from '../../../../core/plan/running'
import type { Format } from '../../../../core/format/format'
import { fitPicture, hasHairline, lockedCrop, sharpnessAtZoom } from '../../../../core/framing/framing'
import { exactly, nearestRational, toNumber } from '../../../../core/rational/rational'
import type { FramingOverride, Sides } from '../../../../core/treatment/treatment'
import { figure, percent, pixels, upTo } from '../../../../core/words/figures'
import { useSelection } from '../../../../stores/selection'
import { useCut } from '../../../../stores/cut'
import FigureInput from './FigureInput.vue'
import TermMark from '../../../components/terms/TermMark.vue'

/** Zoom, position and crop of the placements in hand by figures, and every figure of how the first of them lies. */
const props = defineProps<{ settled: readonly SettledPlacement[]; format: Format }>()
const selection = useSelection()
const cut = useCut()

const framings = computed(() => props.settled.map(({ treatment }) => treatment.framing))
/** A figure that all have; null where they differ. */
function common(valueOf: (framing: (typeof framings.value)[number]) => number): number | null {
  const [first, ...rest] = framings.value.map(valueOf)
  return first !== undefined && rest.every((other) => other === first) ? first : null
}
const first = computed(() => props.settled.find(({ picture }) => picture) ?? null)
const fit = computed(() =>
  first.value?.picture ? fitPicture(first.value.picture, props.format, first.value.treatment.framing) : null,
)
const sharpness = computed(() => {
  const framing = first.value?.treatment.framing
  if (!fit.value || !framing) return null
  const zoom = toNumber(framing.zoom)
  const scale = Math.max(fit.value.scaleX, fit.value.scaleY) / zoom
  return scale < 1 ? sharpnessAtZoom(scale, zoom) : null
})
/** A figure that is stepped on and on is one step; another figure is another. */
const set = (framing: FramingOverride) =>
  cut.setTreatment(
    selection.placements,
    { framing },
    { joins: `${Object.keys(framing).join(' ')} ${selection.placements.map(({ id }) => id).join(' ')}` },
  )

function setCrop(side: keyof Sides, value: number) {
  const framing = first.value?.treatment.framing
  const picture = first.value?.picture
  if (!framing || !picture) return
  const crop = { ...framing.crop, [side]: Math.max(0, value) }
  set({ crop: framing.cropToShape ? locked(crop) : crop })
}
/** The crop of the timeline's shape that stands where another one does. */
const locked = (crop: Sides): Sides =>
  first.value?.picture ? lockedCrop(first.value.picture, props.format, crop) : crop
const isLocked = computed(() => framings.value.every(({ cropToShape: on }) => on))
const lock = (on: boolean) =>
  set({ cropToShape: on, ...(on && first.value ? { crop: locked(first.value.treatment.framing.crop) } : {}) })
</script>

<template>
  <div v-if="fit" class="framing">
    <div class="row">
      <FigureInput
        label="zoom"
        unit="%"
        :value="common(({ zoom }) => toNumber(zoom) * 100)"
        @change="set({ zoom: nearestRational(Math.min(100, Math.max(0.01, $event / 100)), 1e-6) })"
      />
      <FigureInput
        label="x"
        :value="common(({ position }) => toNumber(position.x))"
        @change="set({ position: { x: exactly($event), y: first!.treatment.framing.position.y } })"
      />
      <FigureInput
        label="y"
        :value="common(({ position }) => toNumber(position.y))"
        @change="set({ position: { x: first!.treatment.framing.position.x, y: exactly($event) } })"
      />
    </div>
    <div class="row">
      <span class="quiet">crop</span>
      <FigureInput
        v-for="side in ['left', 'right', 'top', 'bottom'] as const"
        :key="side"
        :label="side === 'left' ? 'l' : side === 'right' ? 'r' : side === 'top' ? 't' : 'b'"
        class="narrow"
        :value="common(({ crop }) => crop[side])"
        @change="setCrop(side, $event)"
      />
    </div>
    <label class="row quiet"
      ><input
        type="checkbox"
        :checked="isLocked"
        @change="lock(($event.target as HTMLInputElement).checked)"
      />
      crop keeps the timeline’s shape</label
    >
    <dl class="figures">
      <dt class="quiet">scale</dt>
      <dd>{{ upTo(fit.scaleX, 4) }} × {{ upTo(fit.scaleY, 4) }}</dd>
      <dt class="quiet"><TermMark term="letterbox">bars</TermMark></dt>
      <dd>
        {{ [fit.bars.left, fit.bars.right, fit.bars.top, fit.bars.bottom].map(pixels).join(' · ') }} px,
        {{ percent(fit.barsShare) }}
      </dd>
      <dt class="quiet"><TermMark term="crop">cut off</TermMark></dt>
      <dd>
        {{ [fit.crop.left, fit.crop.right, fit.crop.top, fit.crop.bottom].map(pixels).join(' · ') }} px,
        {{ percent(fit.cropShare) }}
      </dd>
      <dt class="quiet"><TermMark term="headroom">headroom</TermMark></dt>
      <dd>{{ percent(fit.headroom) }}</dd>
      <template v-if="Math.abs(fit.distortion - 1) > 1e-9">
        <dt class="severe">distortion</dt>
        <dd class="severe">
          {{
            fit.distortion > 1
              ? `${percent(fit.distortion - 1)} too wide`
              : `${percent(1 / fit.distortion - 1)} too tall`
          }}
        </dd>
      </template>
      <template v-if="sharpness">
        <dt class="quiet">source px</dt>
        <dd>{{ figure(sharpness.kept, 2) }} kept · {{ figure(sharpness.baked, 2) }} baked a pixel</dd>
      </template>
    </dl>
    <p v-if="hasHairline(fit)" class="quiet">The bars are a hairline: filling would hide them.</p>
  </div>
</template>

<style scoped>
.row {
  display: flex;
  flex-wrap: wrap;
  column-gap: 8px;
  align-items: center;
  min-height: 26px;
  font-size: 12px;
  padding-left: 4px;
}
.narrow :deep(input) {
  width: 36px;
}
dl {
  display: grid;
  grid-template-columns: 74px 1fr;
  row-gap: 2px;
  font-size: 11.5px;
  padding: 2px 4px 4px;
}
</style>
