<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import type { CarryPrice } from '../../../../core/check/carried'
import type { CarriedBoundary } from '../../../../core/edit/carry'
import { sourceName } from '../../../../core/model/project'
import { type Placement, type Timeline, clipIdOf, endOf } from '../../../../core/model/timeline'
import { rateName } from '../../../../core/rate/rate'
import { toNumber } from '../../../../core/rational/rational'
import { sentence } from '../../../../core/toll/sentence'
import { counted, figure, milliseconds } from '../../../../core/words/figures'
import { useMedia } from '../../../../stores/media'
import { useProject } from '../../../../stores/document/project'
import GradeMark from '../../../components/GradeMark.vue'

/** The old and the new strip above each other in time, with the boundaries that move; of long cuts a stretch about the furthest. */
const props = defineProps<{ before: Timeline; price: CarryPrice }>()
const project = useProject()
const media = useMedia()
const box = ref<HTMLElement | null>(null)
const { width } = useElementSize(box)

/** So many boundaries are listed, and so many when all are asked for. */
const [few, most] = [4, 500]
const all = ref(false)
/** More than so many are no strip that can be read. */
const inView = 9
/** Drift is drawn as many times as large. */
const times = 10

const track = computed(
  () =>
    [...props.before.tracks]
      .filter(({ kind }) => kind === 'video')
      .sort((a, b) => b.placements.length - a.placements.length)[0],
)
const after = computed(() => {
  const { timeline } = props.price.cut
  const index = props.before.tracks.findIndex(({ id }) => id === track.value?.id)
  return props.price.way === 'nested' ? null : (timeline.tracks[index] ?? null)
})
/** Which of the placements are in view: about the boundary that is looked at. */
const from = ref(0)
const looked = ref<CarriedBoundary | null>(null)
watch(
  () => [props.price, track.value] as const,
  () => look(props.price.moved[0] ?? null),
  { immediate: true },
)
function look(boundary: CarriedBoundary | null) {
  looked.value = boundary
  const placed = track.value?.placements ?? []
  const at = boundary ? placed.findIndex(({ start, length }) => start + length >= boundary.frame) : 0
  from.value = Math.max(0, Math.min(placed.length - inView, at - Math.floor(inView / 2)))
}
const shown = computed(() => (track.value?.placements ?? []).slice(from.value, from.value + inView))
const seconds = (frames: number, timeline: Timeline) => (timeline.rate ? frames / toNumber(timeline.rate) : 0)
const stretch = computed(() => {
  const start = seconds(shown.value[0]?.start ?? 0, props.before)
  return { start, end: Math.max(start + 0.1, seconds(endOf(shown.value), props.before)) }
})
/** How much longer the new one is drawn: slowed, each frame is longer. */
const slower = computed(() =>
  props.price.way === 'slowed' && props.before.rate && props.price.cut.timeline.rate
    ? toNumber(props.before.rate) / toNumber(props.price.cut.timeline.rate)
    : 1,
)
const room = computed(() => Math.max(100, width.value - 66) / Math.max(1, slower.value))
const x = (at: number) =>
  ((at - stretch.value.start) / (stretch.value.end - stretch.value.start)) * room.value
const pictureOf = (placement: Placement) => {
  const clip = project.opened.clips[clipIdOf(placement) ?? '']
  return clip ? media.posterOf(clip) : undefined
}
const blocks = computed(() =>
  shown.value.map((placement, i) => {
    const left = x(seconds(placement.start, props.before))
    const placementAfter = after.value?.placements[from.value + i]
    const finding = props.price.check?.findings.find((finding) => finding.placement.id === placementAfter?.id)
    const charge = [...(finding?.toll.charges ?? [])].sort((a, b) => b.loss - a.loss)[0]
    return {
      id: placement.id,
      name: sourceName(project.opened, placement.source),
      picture: pictureOf(placement),
      left,
      width: x(seconds(placement.start + placement.length, props.before)) - left,
      grade: finding?.toll.grade,
      says: charge ? sentence(charge) : '',
      frames: placementAfter?.length ?? placement.length,
    }
  }),
)
const boundaries = computed(() => {
  const drifts = new Map(props.price.cut.boundaries.map((boundary) => [boundary.frame, boundary.driftMs]))
  const frames = new Set(shown.value.flatMap((p) => [p.start, p.start + p.length]))
  return [...frames].map((frame) => {
    const top = x(seconds(frame, props.before))
    const drift = drifts.get(frame) ?? 0
    const shift = ((drift / 1000) * times * room.value) / (stretch.value.end - stretch.value.start)
    return { frame, top, bottom: top * slower.value + Math.max(-60, Math.min(60, shift)), drift }
  })
})
/** A figure is written where there is room for it before the next boundary. */
const roomForFigure = 40
const isSaid = (i: number) => {
  const [boundary, next] = [boundaries.value[i], boundaries.value[i + 1]]
  return !boundary || !next || next.top - boundary.top > roomForFigure
}
const half = computed(() => 500 / toNumber(props.price.cut.timeline.rate ?? { num: 25, den: 1 }))
const isFar = (drift: number) => Math.abs(drift) > half.value * 0.8
const says = computed(() => {
  const { way, moved } = props.price
  if (way === 'slowed')
    return 'each frame is shown as long as one of the new rate: nothing moves against its neighbours'
  if (moved.length === 0) return 'every boundary stays where it is in time'
  const pushed = moved.filter((boundary) => boundary.pushed).length
  const rate = rateName(props.price.cut.timeline.rate ?? { num: 25, den: 1 })
  return `drift ×${times}; half a frame of ${rate} is ${milliseconds(half.value)}, ${
    pushed
      ? `${counted(pushed, 'boundary', 'boundaries')} pushed further by placements of one frame`
      : 'no cut moves more'
  }`
})
</script>

<template>
  <div class="strips">
    <div ref="box" class="drawn" role="img" :aria-label="`The cut before and after: ${says}`">
      <span class="rate figures quiet">{{ rateName(before.rate ?? { num: 25, den: 1 }) }}</span>
      <span class="rate figures quiet new">{{
        rateName(price.cut.timeline.rate ?? { num: 25, den: 1 })
      }}</span>
      <div
        v-for="block in blocks"
        :key="block.id"
        class="block old"
        :style="{ left: `${52 + block.left}px`, width: `${block.width}px` }"
      >
        <span class="ellipsis">{{ block.name }}</span>
        <span class="film" :style="block.picture ? { backgroundImage: `url(${block.picture})` } : {}" />
      </div>
      <svg class="moves" :width="width" height="46" aria-hidden="true">
        <g
          v-for="(boundary, i) in boundaries"
          :key="boundary.frame"
          :class="{ far: isFar(boundary.drift), still: Math.abs(boundary.drift) < 0.01 }"
        >
          <path
            :d="`M${52 + boundary.top} 0 C${52 + boundary.top} 23 ${52 + boundary.bottom} 23 ${52 + boundary.bottom} 46`"
          />
          <text v-if="isSaid(i)" :x="56 + Math.max(boundary.top, boundary.bottom)" :y="28">
            {{ boundary.drift > 0 ? '+' : boundary.drift < 0 ? '−' : ''
            }}{{ figure(Math.abs(boundary.drift)) }}
          </text>
        </g>
      </svg>
      <div
        v-for="block in blocks"
        :key="`new ${block.id}`"
        class="block new"
        :style="{ left: `${52 + block.left * slower}px`, width: `${block.width * slower}px` }"
        :title="block.says"
      >
        <span class="ellipsis"
          ><GradeMark v-if="block.grade" :grade="block.grade" :shape-only="block.width < 60" />
          {{ price.way === 'nested' ? block.name : '' }}</span
        >
        <span class="figures quiet">{{ block.width > 44 ? `${block.frames} f` : '' }}</span>
      </div>
    </div>
    <div class="said">
      <p class="quiet">{{ says }}</p>
      <div
        v-if="price.moved.length"
        class="list"
        role="group"
        aria-label="Boundaries that move, the furthest first"
      >
        <button
          v-for="moved in price.moved.slice(0, all ? most : few)"
          :key="`${moved.frame} ${moved.carried}`"
          class="word figures"
          :aria-pressed="looked?.frame === moved.frame"
          @click="look(moved)"
        >
          {{ moved.frame }}→{{ moved.carried }} {{ moved.driftMs > 0 ? '+' : '−'
          }}{{ milliseconds(Math.abs(moved.driftMs)) }}{{ moved.pushed ? ' pushed' : '' }}
        </button>
        <button v-if="price.moved.length > few && !all" class="word" @click="all = true">
          and {{ price.moved.length - few }} less
        </button>
      </div>
    </div>
  </div>
</template>

<style scoped>
.drawn {
  position: relative;
  height: 132px;
  overflow: hidden;
}
.rate {
  position: absolute;
  left: 0;
  top: 14px;
  font-size: 11.5px;
}
.rate.new {
  top: 102px;
}
.block {
  position: absolute;
  border: 1px solid var(--ink);
  background: var(--sheet);
  font-size: 11.5px;
  overflow: hidden;
  box-sizing: border-box;
  display: flex;
  flex-direction: column;
}
.block > .ellipsis {
  padding: 1px 4px;
  min-height: 18px;
}
.block > .figures {
  padding: 0 4px;
  font-size: 11px;
}
.old {
  top: 0;
  height: 44px;
}
.block.new {
  top: 90px;
  height: 40px;
}
.film {
  flex: 1;
  background-size: auto 100%;
  background-repeat: repeat-x;
  background-color: var(--ground);
}
.moves {
  position: absolute;
  left: 0;
  top: 44px;
}
path {
  fill: none;
  stroke: var(--accent);
  stroke-width: 1.5;
}
text {
  font: 11px var(--mono);
  fill: var(--ink);
}
.still path {
  stroke: var(--quiet);
}
.still text {
  fill: var(--quiet);
}
.far path {
  stroke: var(--severe);
  stroke-dasharray: 5 2;
}
.far text {
  fill: var(--severe);
}
p,
.list {
  font-size: 12px;
}
.said {
  display: flex;
  gap: 4px 12px;
  flex-wrap: wrap;
  align-items: center;
}
.list {
  display: flex;
  flex-wrap: wrap;
  max-height: 96px;
  overflow: auto;
}
</style>
