<script setup lang="ts">
import { Button } from 'ant-design-vue'
import { computed, ref, watch } from 'vue'
import { proposalsOf } from '../../../../core/check/proposals'
import { findingOf } from '../../../../core/check/check'
import { type ChoiceGroup, choicesOf } from '../../../../core/check/choices'
import { titleOf } from '../../../../core/check/findings'
import { matchesOf } from '../../../../core/inspect/matches'
import { conversionOf } from '../../../../core/compose/colour'
import { meaningOfVideo } from '../../../../media/frame-locator'
import { meaningOf } from '../../../../media/render/compositions'
import { framesThere } from '../../../../core/edit/placing'
import { settlePlacement } from '../../../../core/plan/running'
import { ownTreatment } from '../../../../core/model/shape'
import { type Timeline, timecodeAt } from '../../../../core/model/timeline'
import { type Format, formatName } from '../../../../core/format/format'
import type { Charge } from '../../../../core/toll/charge'
import { type Grade, grades, worse } from '../../../../core/toll/grade'
import { sentence } from '../../../../core/toll/sentence'
import { overrideWords, wayWords } from '../../../../core/treatment/words'
import { counted, figure, spaced } from '../../../../core/words/figures'
import { useCarrying } from '../../../../stores/carrying'
import { useSelection } from '../../../../stores/selection'
import { useProject } from '../../../../stores/document/project'
import { useTimelines } from '../../../../stores/timelines'
import { useCut } from '../../../../stores/cut'
import GradeMark from '../../../components/GradeMark.vue'
import { rateLabel, uprightSizeName } from '../../../../core/inspect/labels'
import { useInHand } from '../../../components/terms/use-in-hand'
import ChoiceRows from './ChoiceRows.vue'
import FieldFigures from './FieldFigures.vue'
import FramingFigures from './FramingFigures.vue'
import MotionFigures from './MotionFigures.vue'
import Offers from './Offers.vue'
import QualityFigures from './QualityFigures.vue'
import RuleMaker from './RuleMaker.vue'
import SoundFigures from './SoundFigures.vue'
import TreatAll from './TreatAll.vue'

/** What is in hand: what happens to it, what it costs, and every other way of treating it beside its price. */
const props = defineProps<{ timeline: Timeline; format: Format | null }>()
const project = useProject()
const timelines = useTimelines()
const cut = useCut()
const selection = useSelection()
const carrying = useCarrying()
const ruling = ref(false)
watch(
  () => selection.placements.map(({ id }) => id).join(),
  () => (ruling.value = false),
)

/** Pictures in hand, and the first of them, for which figures are told where they differ. */
const settled = computed(() =>
  selection.placements
    .map((placement) => ({
      placement,
      ...settlePlacement(project.opened, props.timeline, placement, props.format),
    }))
    .filter(({ placement, picture }) => picture !== null && isSeen(placement.id)),
)
const videoIds = computed(
  () =>
    new Set(
      props.timeline.tracks
        .filter(({ kind }) => kind === 'video')
        .flatMap(({ placements }) => placements.map(({ id }) => id)),
    ),
)
const isSeen = (id: string) => videoIds.value.has(id)
const first = computed(() => settled.value[0] ?? null)
const placement = computed(() => first.value?.placement ?? selection.placements[0] ?? null)
const pictures = computed(() => settled.value.map((settledOne) => settledOne.placement))
const sounds = computed(() => selection.placements.filter(({ id }) => !isSeen(id)))

const finding = computed(() =>
  first.value && props.format
    ? findingOf(project.opened, props.timeline, first.value.placement, props.format)
    : null,
)
/** What all in hand come to: the worst grade, and the loss over their running time. */
function priceIn(timeline: Timeline): { readonly grade: Grade; readonly loss: number } | null {
  const { format } = props
  if (!format) return null
  const ids = new Set(pictures.value.map(({ id }) => id))
  const found = timeline.tracks
    .flatMap(({ placements }) => placements)
    .filter(({ id }) => ids.has(id))
    .flatMap((held) => findingOf(project.opened, timeline, held, format) ?? [])
  const frames = found.reduce((sum, finding) => sum + finding.placement.length, 0)
  return {
    grade: found.reduce<Grade>((grade, { toll }) => worse(grade, toll.grade), 'free'),
    loss:
      found.reduce((sum, { toll, placement }) => sum + toll.loss * placement.length, 0) / Math.max(1, frames),
  }
}
const price = computed(() => priceIn(props.timeline))
/** Of several, what happens to how many of them, the worst first. */
const kinds = computed(() => {
  const found = new Map<Charge['kind'], { grade: Grade; count: number }>()
  for (const { toll } of settled.value)
    for (const { kind, grade } of toll.charges) {
      const known = found.get(kind)
      found.set(kind, { grade: worse(known?.grade ?? 'free', grade), count: (known?.count ?? 0) + 1 })
    }
  return [...found].sort(([, a], [, b]) => grades.indexOf(b.grade) - grades.indexOf(a.grade))
})
/** The timeline that is placed, where one is. */
const within = computed(() => {
  const source = placement.value?.source
  return source?.kind === 'timeline' ? (project.opened.timelines[source.timelineId] ?? null) : null
})
/** What it would be under what is tried. */
const tried = computed(() => (selection.tried && selection.shown ? priceIn(selection.shown) : null))
const clip = computed(() => {
  const source = placement.value?.source
  return source?.kind === 'clip' ? (project.opened.clips[source.clipId] ?? null) : null
})
useInHand(
  () => clip.value,
  () => props.format,
)
const name = computed(() =>
  pictures.value.length > 1
    ? counted(pictures.value.length, 'placement')
    : (finding.value?.name ?? clip.value?.name ?? ''),
)
const differs = computed(() =>
  clip.value?.reading && props.format
    ? matchesOf(clip.value.reading, props.format)
        .filter(({ matches }) => matches === false)
        .map(({ about }) => about)
    : [],
)
const choices = computed(() => choicesOf(project.opened, props.timeline, pictures.value))
const choicesIn = (...groups: ChoiceGroup[]) => choices.value.filter(({ group }) => groups.includes(group))
/** What is offered for them. */
const offers = computed(() =>
  proposalsOf(project.opened, props.timeline, new Set(pictures.value.map(({ id }) => id))),
)
const own = computed(() =>
  selection.placements.filter((placement) => Object.keys(ownTreatment(placement, props.format)).length > 0),
)
/** What is done to its colour on the way, by name. */
const conversions = computed(() => {
  const video = clip.value?.reading?.video
  if (!video || !props.format || !first.value) return []
  return conversionOf(meaningOfVideo(video), meaningOf(props.format), first.value.treatment.colour).names
})
/** The others of its track, in order. */
const order = computed(() => {
  const track = props.timeline.tracks.find(({ placements }) =>
    placements.some(({ id }) => id === placement.value?.id),
  )
  return (track?.placements ?? []).map(({ id }) => id)
})
/** Frames that it has beyond the end of its source. */
const beyond = computed(() => {
  const inHand = placement.value
  const there = inHand && framesThere(project.opened, props.timeline, inHand)
  return inHand && there !== null && inHand.length > there ? inHand.length - there : 0
})
</script>

<template>
  <aside class="sheet" aria-label="Docket">
    <template v-if="!placement || !format">
      <p class="quiet">Select a placed clip: what happens to it stands here.</p>
      <TreatAll v-if="format" :timeline="timeline" :format="format" />
    </template>
    <template v-else>
      <header>
        <h2 class="ellipsis" :title="name">{{ name }}</h2>
        <p v-if="pictures.length < 2" class="quiet">
          <template v-if="clip"
            ><span class="figures">{{ uprightSizeName(clip) }} · {{ rateLabel(clip) }}</span
            ><template v-if="clip.reading?.video?.scan === 'interlaced' && clip.reading.video.fieldOrder">
              {{ ` ${spaced(clip.reading.video.fieldOrder)}` }}</template
            ><br
          /></template>
          placed at <span class="figures">{{ timecodeAt(timeline, placement.start) }}</span> for
          <span class="figures">{{ placement.length }}</span> frames
        </p>
        <p v-if="beyond && pictures.length < 2" role="note">
          {{ counted(beyond, 'frame lies', 'frames lie') }} beyond the end of its source and
          {{ beyond === 1 ? 'shows' : 'show' }} nothing.
        </p>
        <div v-if="selection.only" class="move">
          <Button size="small" :disabled="order[0] === placement.id" @click="timelines.move(placement, -1)"
            >Earlier</Button
          >
          <Button size="small" :disabled="order.at(-1) === placement.id" @click="timelines.move(placement, 1)"
            >Later</Button
          >
          <template v-if="within">
            <Button size="small" @click="timelines.selectedId = within.id">Open it</Button>
            <Button size="small" @click="carrying.unnest(timeline, placement.id)">Un-nest it</Button>
          </template>
        </div>
      </header>
      <template v-if="finding && first && price">
        <section aria-label="What it pays">
          <h3>
            In {{ formatName(format) }}: <GradeMark :grade="price.grade" />{{ ' ' }}
            <span class="figures quiet">{{ figure(price.loss, 3) }}</span>
          </h3>
          <p class="tried" :class="{ none: !tried }">
            as in view: <GradeMark :grade="(tried ?? price).grade" />{{ ' ' }}
            <span class="figures">{{ figure((tried ?? price).loss, 3) }}</span>
          </p>
          <ul class="pays">
            <template v-if="pictures.length > 1">
              <li v-for="[kind, { grade, count }] in kinds" :key="kind">
                <GradeMark :grade="grade" shape-only /> {{ titleOf(kind, count) }}
              </li>
            </template>
            <template v-else>
              <li v-if="finding.toll.untouched">Untouched: every pixel and every frame as recorded.</li>
              <li v-for="charge in finding.toll.charges" :key="charge.kind">
                <GradeMark :grade="charge.grade" shape-only /> {{ sentence(charge)
                }}<span class="quiet figures"> · {{ figure(charge.loss, 3) }}</span>
              </li>
            </template>
          </ul>
          <p class="quiet small">
            <template v-if="pictures.length > 1">figures below are of the first, {{ finding.name }}</template>
            <template v-else
              >{{ wayWords(first.way)
              }}<template v-if="differs.length">; differs in {{ differs.join(', ') }}</template></template
            >
          </p>
        </section>
        <ChoiceRows title="Framing" :choices="choicesIn('framing', 'reduction')">
          <FramingFigures :settled="settled" :format="format" />
        </ChoiceRows>
        <ChoiceRows title="Fields" :choices="choicesIn('fields')">
          <FieldFigures :settled="first" :interlaced-timeline="format.scan === 'interlaced'" />
        </ChoiceRows>
        <ChoiceRows title="Motion" :choices="choicesIn('motion')">
          <MotionFigures
            :settled="first"
            :placement="first.placement"
            :timeline="timeline"
            :format="format"
          />
        </ChoiceRows>
        <ChoiceRows title="Quality" :choices="choicesIn('quality')">
          <QualityFigures :settled="first" />
        </ChoiceRows>
        <ChoiceRows title="Colour" :choices="choicesIn('colour')" />
        <p v-if="conversions.length" class="quiet small">colour: {{ conversions.join('; ') }}</p>
        <div v-if="offers.length" class="best"><Offers :proposals="offers" /></div>
      </template>
      <SoundFigures v-if="sounds.length" :placements="sounds" />
      <footer>
        <p v-if="own.length" class="quiet small">
          {{
            own.length > 1
              ? `${own.length} set something of their own`
              : `its own: ${overrideWords(ownTreatment(own[0]!, format))}`
          }}
        </p>
        <div class="move">
          <Button v-if="own.length" size="small" @click="cut.asDefault(own)">Back to the default</Button>
          <Button v-if="pictures.length && !ruling" size="small" @click="ruling = true">Make a rule…</Button>
        </div>
        <RuleMaker v-if="ruling" :placements="pictures" @done="ruling = false" />
      </footer>
    </template>
  </aside>
</template>

<style scoped>
aside {
  display: flex;
  flex-direction: column;
  gap: 8px;
  padding: 12px 14px;
}
aside > * {
  flex: none;
}
.move {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  padding-top: 4px;
}
.small {
  font-size: 12px;
}
/* Its place is kept: rows that are pointed at must not move away from under the pointer. */
.tried {
  background: color-mix(in srgb, var(--line) 45%, transparent);
  padding: 2px 6px;
}
.none {
  visibility: hidden;
}
ul {
  list-style: none;
  padding: 0;
}
/* What it pays changes with what is taken; the rows below stay where the pointer is. */
.pays {
  height: 84px;
  overflow: auto;
}
.best {
  position: sticky;
  bottom: -12px;
  background: var(--sheet);
}
li {
  padding: 3px 0;
  font-size: 12.5px;
}
h3 {
  margin: 0;
}
footer {
  border-top: 1px solid var(--line);
  padding-top: 6px;
}
</style>
