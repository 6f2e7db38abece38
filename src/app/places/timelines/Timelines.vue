<script setup lang="ts">
import { Button } from 'ant-design-vue'
import { computed, ref, shallowRef, watch } from 'vue'
import { type Timeline, lengthOf, placementsIn } from '../../../core/edit/timeline'
import { formatOf } from '../../../core/edit/project'
import { formatName } from '../../../core/format/format'
import { grades } from '../../../core/toll/grade'
import { percent } from '../../../core/words/figures'
import { frameToTimecode } from '../../../core/rate/timecode'
import { originWords } from '../../../core/exchange/log'
import { useProject } from '../../../stores/project'
import { useTimelines } from '../../../stores/timelines'
import GradeMark from '../../components/GradeMark.vue'
import PlaceLayout from '../../components/PlaceLayout.vue'
import TimelineList from '../../components/TimelineList.vue'
import ClipsToPlace from './ClipsToPlace.vue'
import { droppedClip } from './drag'
import TimelineForm from './TimelineForm.vue'
import MismatchQuestion from './MismatchQuestion.vue'
import PlacementDocket from './PlacementDocket.vue'
import TimelineStrip from './TimelineStrip.vue'
import TimelineViewer from './TimelineViewer.vue'

const project = useProject()
const timelines = useTimelines()
const playhead = ref(0)
const selectedId = ref<string | null>(null)
const dropping = ref(false)
/** The timeline whose format is being changed. */
const asking = shallowRef<Timeline | 'new' | null>(null)

const formatLabel = (id: string) => {
  const timeline = project.doc?.timelines[id]
  const format = project.doc && timeline ? formatOf(project.doc, timeline) : null
  return format ? formatName(format) : 'no format yet'
}
const placements = computed(() => (timelines.current ? placementsIn(timelines.current) : []))
const total = computed(() => (timelines.current ? lengthOf(timelines.current) : 0))
const selected = computed(() => placements.value.find((p) => p.id === selectedId.value) ?? null)
/** What the playhead stands inside of: the placement in hand, or all where none is. */
const cuttable = computed(() => {
  const inside = placements.value.filter(
    (p) => playhead.value > p.start && playhead.value < p.start + p.length,
  )
  const hit = selected.value && inside.includes(selected.value) ? [selected.value] : inside
  return hit.length ? hit.map(({ id }) => id) : null
})
const cutHere = () => cuttable.value && timelines.cut(cuttable.value, playhead.value)

watch(
  [() => timelines.current?.id, total],
  () => (playhead.value = Math.max(0, Math.min(playhead.value, total.value - 1))),
)
watch(
  () => timelines.current?.id,
  () => (selectedId.value = null),
)

function dropClip(event: DragEvent) {
  dropping.value = false
  const clip = project.doc?.clips[droppedClip(event) ?? '']
  if (clip) timelines.place([clip])
}
function removeSelected() {
  if (selected.value) timelines.remove([selected.value.id])
}
</script>

<template>
  <PlaceLayout :docket-width="290" list-name="Timelines and clips">
    <template #list>
      <h1>Timelines</h1>
      <TimelineList class="made">
        <template #default="{ timeline }">
          <span class="figures">{{ formatLabel(timeline.id) }}</span>
          <span class="quiet from">{{
            timeline.ownFormat
              ? `its own, ${timeline.formatOrigin ? originWords(timeline.formatOrigin) : 'set here'}`
              : 'follows the project'
          }}</span>
        </template>
        <template #action="{ timeline }">
          <button class="word" :aria-label="`Change “${timeline.name}”`" @click="asking = timeline">
            change…
          </button>
          <button
            class="word"
            :aria-label="`take out “${timeline.name}”, the timeline`"
            @click="timelines.removeTimeline(timeline)"
          >
            take out
          </button>
        </template>
      </TimelineList>
      <div class="make">
        <Button size="small" :disabled="!project.format" @click="timelines.create()">New timeline</Button>
        <Button size="small" @click="asking = 'new'">with own…</Button>
      </div>
      <p v-if="!project.format" class="quiet small">
        Choose the format in the Yard first: a timeline never takes it from what is placed first.
      </p>
      <ClipsToPlace v-if="timelines.current" />
    </template>
    <section
      v-if="timelines.current && timelines.format"
      class="main"
      :class="{ dropping }"
      :aria-label="timelines.current.name"
      @dragover.prevent="dropping = true"
      @dragleave.self="dropping = false"
      @drop.prevent="dropClip"
    >
      <TimelineViewer :timeline="timelines.current" :format="timelines.format" :playhead="playhead" />
      <div class="bar">
        <b class="figures clock">{{ frameToTimecode(playhead, timelines.format.rate) }}</b>
        <span class="quiet">frame {{ playhead }} of {{ total }}</span>
        <span class="spacer" />
        <Button size="small" :disabled="!cuttable" @click="cutHere">Cut here</Button>
        <Button size="small" :disabled="!selected" @click="removeSelected">Take out</Button>
        <label class="quiet asks"><input v-model="timelines.closesUp" type="checkbox" /> close the gap</label>
      </div>
      <TimelineStrip
        v-model:playhead="playhead"
        v-model:selected="selectedId"
        :timeline="timelines.current"
        :format="timelines.format"
        @remove="removeSelected"
        @cut="cutHere"
      />
      <div v-if="timelines.check" class="summary">
        <span
          >untouched <b class="figures">{{ percent(timelines.check.untouchedShare) }}</b> of
          {{ frameToTimecode(timelines.check.frames, timelines.format.rate) }}</span
        >
        <GradeMark
          v-for="grade in [...grades].reverse()"
          :key="grade"
          :grade="grade"
          :count="timelines.check.countByGrade[grade]"
        />
        <label class="quiet asks"
          ><input
            type="checkbox"
            :checked="project.opened.project.onMismatch === 'ask'"
            @change="timelines.setAsking(($event.target as HTMLInputElement).checked)"
          />
          ask about mismatches</label
        >
      </div>
    </section>
    <section v-else class="empty">
      <h2>{{ project.format ? 'No timeline yet' : 'The project has no format yet' }}</h2>
      <p v-if="project.format">
        Make one: it runs in {{ formatName(project.format) }} and follows the project.
      </p>
      <p v-else>
        The Yard prices every format for your footage.
        <RouterLink :to="{ name: 'yard' }">To the Yard</RouterLink>
      </p>
    </section>
    <template #docket>
      <PlacementDocket
        v-if="timelines.current"
        :timeline="timelines.current"
        :placement="selected"
        :format="timelines.format"
      />
    </template>
    <template #sheets>
      <MismatchQuestion />
      <TimelineForm v-if="asking" :timeline="asking === 'new' ? null : asking" @close="asking = null" />
    </template>
  </PlaceLayout>
</template>

<style scoped>
.made {
  max-height: 250px;
  flex: none;
}
.from {
  padding-right: 58px;
}
.make {
  display: flex;
  gap: 6px;
  flex-wrap: wrap;
}
.small {
  font-size: 11.5px;
}
.main {
  padding: 12px 16px;
  display: flex;
  flex-direction: column;
  gap: 10px;
  min-height: 0;
  overflow: hidden;
}
.dropping {
  outline: 2px dashed var(--accent);
  outline-offset: -6px;
}
.bar,
.summary {
  display: flex;
  gap: 16px;
  align-items: center;
}
.clock {
  font-size: 17px;
}
.spacer {
  flex: 1;
}
.asks {
  margin-left: auto;
  display: flex;
  gap: 6px;
  align-items: center;
  min-height: 24px;
}
.summary {
  border-top: 1px solid var(--line);
  padding-top: 8px;
  flex-wrap: wrap;
}
.empty {
  margin: 80px auto;
  max-width: 46ch;
  display: flex;
  flex-direction: column;
  gap: 10px;
}
</style>
