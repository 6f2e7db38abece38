<script setup lang="ts">
import { Button } from 'ant-design-vue'
import { computed } from 'vue'
import { proposalOf, proposalsOf } from '../../../core/check/better'
import { findingOf } from '../../../core/check/check'
import { settlePlacement } from '../../../core/edit/running'
import { framesThere } from '../../../core/edit/placing'
import { type Placement, type Timeline } from '../../../core/edit/timeline'
import { type Format, formatName } from '../../../core/format/format'
import { fitPicture, hasHairline } from '../../../core/framing/framing'
import { frameToTimecode } from '../../../core/rate/timecode'
import { sentence } from '../../../core/toll/sentence'
import { wayWords } from '../../../core/treatment/words'
import { counted, figure, percent, pixels, spaced } from '../../../core/words/figures'
import { useProject } from '../../../stores/project'
import { useTimelines } from '../../../stores/timelines'
import GradeMark from '../../components/GradeMark.vue'
import { rateLabel, uprightSizeName } from '../../figures'
import BestTreatment from './BestTreatment.vue'

/** The placement in hand: what happens to it, and where it stands among the others. */
const props = defineProps<{ timeline: Timeline; placement: Placement | null; format: Format | null }>()
const project = useProject()
const timelines = useTimelines()
const finding = computed(() =>
  props.placement && props.format
    ? findingOf(project.opened, props.timeline, props.placement, props.format)
    : null,
)
const clip = computed(() => {
  const source = props.placement?.source
  return source?.kind === 'clip' ? (project.opened.clips[source.clipId] ?? null) : null
})
const name = computed(() => finding.value?.name ?? clip.value?.name ?? '')
const settled = computed(() =>
  props.placement ? settlePlacement(project.opened, props.timeline, props.placement, props.format) : null,
)
const fit = computed(() =>
  settled.value?.picture && props.format
    ? fitPicture(settled.value.picture, props.format, settled.value.treatment.framing)
    : null,
)
/** What it would lose less by. */
const better = computed(() =>
  props.placement ? proposalOf(project.opened, props.timeline, props.placement) : null,
)
/** What all that is placed would lose less by; looked for while nothing is in hand. */
const betterForAll = computed(() => (props.placement ? [] : proposalsOf(project.opened, props.timeline)))
const isOwn = computed(() => Object.keys(props.placement?.treatment ?? {}).length > 0)
/** The others of its track, in order. */
const order = computed(() => {
  const track = props.timeline.tracks.find(({ placements }) =>
    placements.some(({ id }) => id === props.placement?.id),
  )
  return (track?.placements ?? []).map(({ id }) => id)
})
/** Frames that it has beyond the end of its source. */
const beyond = computed(() => {
  const { placement, timeline } = props
  const there = placement && framesThere(project.opened, timeline, placement)
  return placement && there !== null && placement.length > there ? placement.length - there : 0
})
</script>

<template>
  <aside class="sheet" aria-label="Docket">
    <template v-if="!placement || !format">
      <p class="quiet">Select a placed clip: what happens to it stands here.</p>
      <BestTreatment
        v-if="betterForAll.length"
        :proposals="betterForAll"
        :title="`${counted(betterForAll.length, 'clip loses', 'clips lose')} more than needed`"
        action="Take the best for all"
        named
      />
    </template>
    <template v-else>
      <h2 class="ellipsis" :title="name">{{ name }}</h2>
      <p class="quiet">
        <template v-if="clip"
          ><span class="figures">{{ uprightSizeName(clip) }} · {{ rateLabel(clip) }}</span
          ><br
        /></template>
        placed at <span class="figures">{{ frameToTimecode(placement.start, format.rate) }}</span> for
        <span class="figures">{{ placement.length }}</span> frames
      </p>
      <p v-if="beyond" role="note">
        {{ counted(beyond, 'frame lies', 'frames lie') }} beyond the end of its source and
        {{ beyond === 1 ? 'shows' : 'show' }} nothing.
      </p>
      <div class="move">
        <Button size="small" :disabled="order[0] === placement.id" @click="timelines.move(placement, -1)"
          >Earlier</Button
        >
        <Button size="small" :disabled="order.at(-1) === placement.id" @click="timelines.move(placement, 1)"
          >Later</Button
        >
      </div>
      <template v-if="finding && fit && settled">
        <h3>In {{ formatName(format) }}: <GradeMark :grade="finding.toll.grade" /></h3>
        <ul>
          <li v-if="finding.toll.untouched">Untouched: every pixel and every frame as recorded.</li>
          <li v-for="charge in finding.toll.charges" :key="charge.kind">
            <GradeMark :grade="charge.grade" /><br />{{ sentence(charge)
            }}<span class="quiet figures"> · loss {{ figure(charge.loss, 3) }}</span>
          </li>
        </ul>
        <BestTreatment
          v-if="better"
          :proposals="[better]"
          title="It could lose less"
          action="Take it"
          :named="false"
        />
        <dl>
          <dt class="quiet">framing</dt>
          <dd>{{ spaced(settled.treatment.framing.mode.kind) }}</dd>
          <dt class="quiet">scale</dt>
          <dd class="figures">{{ figure(fit.scaleX, 4) }} × {{ figure(fit.scaleY, 4) }}</dd>
          <dt class="quiet">bars</dt>
          <dd class="figures">{{ pixels(fit.bars.left) }} · {{ pixels(fit.bars.top) }} px</dd>
          <dt class="quiet">headroom</dt>
          <dd class="figures">{{ percent(fit.headroom) }}</dd>
          <dt class="quiet">motion</dt>
          <dd>{{ wayWords(settled.way) }}</dd>
        </dl>
        <Button v-if="isOwn" size="small" @click="timelines.asDefault(placement)">Back to the default</Button>
        <p v-if="hasHairline(fit)" class="quiet">The bars are a hairline: filling would hide them.</p>
      </template>
    </template>
  </aside>
</template>

<style scoped>
aside {
  display: flex;
  flex-direction: column;
  gap: 10px;
}
aside > * {
  flex: none;
}
.move {
  display: flex;
  gap: 6px;
}
ul {
  list-style: none;
  padding: 0;
}
li {
  padding: 5px 0;
  border-bottom: 1px solid var(--line);
}
dl {
  display: grid;
  grid-template-columns: 80px 1fr;
  row-gap: 3px;
}
</style>
