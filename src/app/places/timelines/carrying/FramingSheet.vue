<script setup lang="ts">
import { computed, ref } from 'vue'
import type { CarryPrice } from '../../../../core/check/carried'
import type { PaysOtherwise } from '../../../../core/check/pays-otherwise'
import type { Reframing } from '../../../../core/edit/reframe'
import { formatOf } from '../../../../core/model/project'
import type { Placement, Timeline } from '../../../../core/model/timeline'
import { aspectName, sizeName, type Format } from '../../../../core/format/format'
import { sentence } from '../../../../core/toll/sentence'
import { counted, factor } from '../../../../core/words/figures'
import { useCarrying } from '../../../../stores/carrying'
import GradeMark from '../../../components/GradeMark.vue'
import FrameCanvas from '../viewer/FrameCanvas.vue'
import LookAt from './LookAt.vue'

/** What becomes of the pictures in another frame: for all, by kind, one by one; and the three that come off worst, before and after. */
const props = defineProps<{ price: CarryPrice }>()
const carrying = useCarrying()
const opened = ref<string | null>(null)

const choices = computed<readonly { how: Reframing; name: string; does: string }[]>(() => [
  ...(carrying.usual === 'as-before'
    ? [{ how: 'as-before' as const, name: 'as it was there', does: 'as it lay when the cut had this shape' }]
    : []),
  { how: 'keep', name: 'keep its look', does: 'scaled about the middle' },
  { how: 'anew', name: 'frame anew', does: 'as the timeline’s defaults say' },
  { how: 'fill-shape', name: 'fill the shape', does: 'about the point to look at' },
])
const howOf = (id: string): Reframing => carrying.by[id] ?? carrying.plan.all
/** Placements by what they show: size and shape. */
const kinds = computed(() => {
  const found = new Map<string, { name: string; placements: Placement[] }>()
  for (const finding of props.price.check?.findings ?? []) {
    const video = finding.clip?.reading?.video
    const name = video ? sizeName(video) : finding.name
    const known = found.get(name) ?? { name, placements: [] }
    known.placements.push(finding.placement)
    found.set(name, known)
  }
  return [...found.values()]
})
const howOfAll = (placements: readonly Placement[]) => {
  const hows = new Set(placements.map(({ id }) => howOf(id)))
  const [how] = hows
  return hows.size === 1 && how ? how : ''
}
function setAll(how: Reframing) {
  carrying.all = how
  carrying.by = {}
}
function set(placements: readonly Placement[], how: string) {
  carrying.by = {
    ...carrying.by,
    ...Object.fromEntries(placements.map(({ id }) => [id, how as Reframing])),
  }
}
const nameOf = (id: string) =>
  props.price.check?.findings.find(({ placement }) => placement.id === id)?.name ?? ''
const fills = computed(() =>
  (carrying.timeline?.tracks ?? [])
    .filter(({ kind }) => kind === 'video')
    .flatMap(({ placements }) => placements)
    .filter(({ id }) => howOf(id) === 'fill-shape'),
)
const worst = computed(() => {
  const seen = new Set<string>()
  return props.price.paysMore.filter(({ name }) => !seen.has(name) && seen.add(name)).slice(0, 3)
})
const headroom = computed(() => {
  const [first, ...rest] = props.price.losesHeadroom
  return first
    ? `Headroom: ${first.name} ${factor(first.before)} → ${factor(first.after)}${rest.length ? `, ${rest.length} more lose some` : ''}.`
    : ''
})
/** A frame in a box of so many pixels. */
const high = 84
const views = (
  price: PaysOtherwise,
): readonly { key: string; timeline: Timeline; format: Format; frame: number; width: number }[] => {
  const { timeline, was, format } = carrying
  const { cut } = props.price
  const currentFormat = formatOf(cut.doc, cut.timeline)
  if (!timeline || !was || !format || !currentFormat) return []
  const middle = (p: Placement) => p.start + Math.floor(p.length / 2)
  const wide = (f: Format) =>
    Math.round((high * f.width * (f.pixelAspect.num / f.pixelAspect.den)) / f.height)
  return [
    { key: 'before', timeline, format: was, frame: middle(price.before.placement), width: wide(was) },
    {
      key: 'after',
      timeline: cut.timeline,
      format: currentFormat,
      frame: middle(price.after.placement),
      width: wide(currentFormat),
    },
  ]
}
</script>

<template>
  <section class="framing" aria-label="What becomes of the pictures">
    <div class="choose">
      <h3>
        Pictures in {{ carrying.format ? aspectName(carrying.format) : '' }}
        <span class="quiet">{{ counted(price.check?.findings.length ?? 0, 'placement') }}</span>
      </h3>
      <label v-for="{ how, name, does } in choices" :key="how">
        <input
          type="radio"
          name="framing"
          :checked="carrying.plan.all === how && Object.keys(carrying.by).length === 0"
          @change="setAll(how)"
        />
        {{ name }} <span class="quiet">{{ does }}</span>
      </label>
      <ul aria-label="By kind">
        <li v-for="kind in kinds" :key="kind.name">
          <button
            class="word figures"
            :aria-expanded="opened === kind.name"
            @click="opened = opened === kind.name ? null : kind.name"
          >
            {{ kind.name }}
          </button>
          <span class="quiet">{{ kind.placements.length }}</span>
          <select
            :value="howOfAll(kind.placements)"
            :aria-label="`What becomes of ${kind.name}`"
            @change="set(kind.placements, ($event.target as HTMLSelectElement).value)"
          >
            <option v-if="howOfAll(kind.placements) === ''" value="" disabled>each its own</option>
            <option v-for="{ how, name } in choices" :key="how" :value="how">{{ name }}</option>
          </select>
          <ul v-if="opened === kind.name" class="each">
            <li v-for="placement in kind.placements" :key="placement.id">
              <span class="ellipsis">{{ nameOf(placement.id) }}</span>
              <select
                :value="howOf(placement.id)"
                :aria-label="`What becomes of ${nameOf(placement.id)}`"
                @change="set([placement], ($event.target as HTMLSelectElement).value)"
              >
                <option v-for="{ how, name } in choices" :key="how" :value="how">{{ name }}</option>
              </select>
            </li>
          </ul>
        </li>
      </ul>
    </div>
    <div class="seen">
      <div v-if="fills.length" class="looks" role="group" aria-label="Where to look in each shot">
        <LookAt
          v-for="placement in fills"
          :key="placement.id"
          :placement="placement"
          :name="nameOf(placement.id)"
        />
      </div>
      <h3 v-if="worst.length">Off worst <span class="quiet">before and after</span></h3>
      <p v-else class="quiet">No picture pays more than before.</p>
      <p v-if="headroom" class="quiet">{{ headroom }}</p>
      <div class="worst">
        <figure v-for="dearest in worst" :key="dearest.before.placement.id" class="shot">
          <div class="pair">
            <FrameCanvas
              v-for="view in views(dearest)"
              :key="view.key"
              :timeline="view.timeline"
              :format="view.format"
              :frame="view.frame"
              :region="{ x: 0, y: 0, width: view.format.width, height: view.format.height }"
              :width="view.width"
              :height="high"
              :magnified="false"
            />
          </div>
          <figcaption>
            <b class="ellipsis">{{ dearest.name }}</b>
            <span
              ><GradeMark :grade="dearest.grades[0]" /> → <GradeMark :grade="dearest.grades[1]" />
              {{ dearest.adds[0] ? sentence(dearest.adds[0]) : '' }}</span
            >
          </figcaption>
        </figure>
      </div>
    </div>
  </section>
</template>

<style scoped>
.framing {
  display: grid;
  grid-template-columns: 270px minmax(0, 1fr);
  gap: 18px;
}
.choose,
.seen {
  display: flex;
  flex-direction: column;
  gap: 6px;
  min-width: 0;
}
label {
  display: flex;
  gap: 6px;
  align-items: baseline;
}
ul {
  list-style: none;
}
.choose > ul {
  max-height: 150px;
  overflow: auto;
  border-top: 1px solid var(--line);
}
.choose li {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  align-items: center;
  border-bottom: 1px solid var(--line);
  padding: 2px 0;
}
li select {
  margin-left: auto;
  width: 120px;
  height: 24px;
}
.each {
  width: 100%;
  padding-left: 10px;
}
.each .ellipsis {
  max-width: 120px;
}
.looks {
  display: flex;
  gap: 8px;
  overflow-x: auto;
  padding-bottom: 4px;
}
.worst {
  display: flex;
  gap: 16px;
}

.shot {
  min-width: 0;
  flex: 1;
}
.pair {
  display: flex;
  gap: 6px;
  align-items: flex-start;
}
figcaption {
  display: flex;
  flex-direction: column;
  font-size: 12px;
}
</style>
