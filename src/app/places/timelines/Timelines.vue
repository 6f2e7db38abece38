<script setup lang="ts">
import { Button } from 'ant-design-vue'
import { computed, ref, shallowRef, watch } from 'vue'
import { type Timeline, timecodeAt } from '../../../core/model/timeline'
import { formatOf } from '../../../core/model/project'
import { formatName } from '../../../core/format/format'
import { grades } from '../../../core/toll/grade'
import { percent } from '../../../core/words/figures'
import { frameToTimecode } from '../../../core/rate/timecode'
import { originWords } from '../../../core/exchange/log'
import { useCarrying } from '../../../stores/carrying'
import { useSelection } from '../../../stores/selection'
import { type PlayedRange, usePlaying } from '../../../stores/playing'
import { useProject } from '../../../stores/document/project'
import { useTimelines } from '../../../stores/timelines'
import GradeMark from '../../components/GradeMark.vue'
import PlaceLayout from '../../components/PlaceLayout.vue'
import TimelineList from '../../components/TimelineList.vue'
import CarrySheet from './carrying/CarrySheet.vue'
import PlacementDocket from './docket/PlacementDocket.vue'
import ClipsToPlace from './left/ClipsToPlace.vue'
import { droppedClip } from './left/drag'
import FindingList from './left/FindingList.vue'
import RuleList from './left/RuleList.vue'
import PlaybackList from './left/PlaybackList.vue'
import SoundList from './left/SoundList.vue'
import MismatchQuestion from './MismatchQuestion.vue'
import type { StripAct } from './strip/strip-keys'
import TimelineStrip from './strip/TimelineStrip.vue'
import TimelineForm from './TimelineForm.vue'
import AchievedLine from './viewer/AchievedLine.vue'
import PlayBar from './viewer/PlayBar.vue'
import MotionLine from './viewer/MotionLine.vue'
import TimelineViewer from './viewer/TimelineViewer.vue'

const project = useProject()
const timelines = useTimelines()
const selection = useSelection()
const carrying = useCarrying()
const playing = usePlaying()
const dropping = ref(false)
/** The timeline whose format is being changed. */
const asking = shallowRef<Timeline | 'new' | null>(null)
/** Whether clips are being placed: their list takes the place of what is found. */
const placing = ref(selection.all.length === 0)
watch(
  () => timelines.current?.id,
  () => (placing.value = selection.all.length === 0),
)
/** What stands in the place of both. */
const beside = ref<'sound' | 'playback' | null>(null)
function turnTo(panel: 'sound' | 'playback') {
  beside.value = beside.value === panel ? null : panel
}
const viewer = ref<InstanceType<typeof TimelineViewer> | null>(null)
const findings = ref<InstanceType<typeof FindingList> | null>(null)

const formatLabel = (id: string) => {
  const timeline = project.doc?.timelines[id]
  const format = project.doc && timeline ? formatOf(project.doc, timeline) : null
  return format ? formatName(format) : 'no format yet'
}
/** What the playhead stands inside of: what is in hand, or all where none is. */
const cuttable = computed(() => {
  const { playhead } = selection
  const inside = selection.all.filter((p) => playhead > p.start && playhead < p.start + p.length)
  const hit = inside.filter(({ id }) => selection.selectedIds.has(id))
  const meant = hit.length ? hit : inside
  return meant.length ? meant.map(({ id }) => id) : null
})

function dropClip(event: DragEvent) {
  dropping.value = false
  const clip = project.doc?.clips[droppedClip(event) ?? '']
  if (clip) timelines.place([clip])
}
/** Plays a stretch, or stops; the whole where no stretch is in hand. */
function playOrHalt(stretch: PlayedRange | null) {
  if (playing.isOn) return playing.halt()
  const whole = { from: 0, to: selection.length }
  // From the last frame on, it begins anew.
  if (!stretch || selection.playhead >= (stretch ?? whole).to - 1) selection.goTo((stretch ?? whole).from)
  return viewer.value?.play(stretch ?? whole)
}
const does: Record<StripAct, () => void> = {
  cut: () => cuttable.value && timelines.cut(cuttable.value, selection.playhead),
  remove: () => selection.placements.length && timelines.remove(selection.placements.map(({ id }) => id)),
  'next-finding': () => {
    placing.value = false
    findings.value?.next()
  },
  play: () => void playOrHalt({ from: 0, to: selection.length }),
  loop: () => (playing.loops = !playing.loops),
  'play-selection': () => void playOrHalt(selection.stretch),
  loupe: () => viewer.value?.toggleLoupe(),
  ways: () => viewer.value?.nextWays(),
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
            v-if="formatOf(project.opened, timeline)"
            class="word"
            :aria-label="`Carry “${timeline.name}” over`"
            @click="carrying.begin(timeline)"
          >
            carry…
          </button>
          <button
            v-if="carrying.canPlace(timeline)"
            class="word"
            :aria-label="`Place “${timeline.name}” in “${timelines.current?.name}”`"
            @click="carrying.placeTimeline(timeline)"
          >
            place
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
      <template v-if="timelines.current">
        <SoundList v-if="beside === 'sound'" :timeline="timelines.current" />
        <PlaybackList v-else-if="beside === 'playback'" :timeline="timelines.current" />
        <template v-else-if="!placing && timelines.check">
          <FindingList ref="findings" :timeline="timelines.current" :check="timelines.check" />
          <RuleList :timeline="timelines.current" />
        </template>
        <ClipsToPlace v-else />
        <span class="make">
          <button
            class="word toggle"
            :aria-pressed="placing"
            @click="((placing = beside ? placing : !placing), (beside = null))"
          >
            {{ placing === (beside === null) ? 'show what happens' : 'place clips…' }}
          </button>
          <button class="word toggle" :aria-pressed="beside === 'sound'" @click="turnTo('sound')">
            sound…
          </button>
          <button class="word toggle" :aria-pressed="beside === 'playback'" @click="turnTo('playback')">
            playback…
          </button>
        </span>
      </template>
    </template>
    <CarrySheet v-if="carrying.timeline" class="wide" />
    <section
      v-else-if="timelines.current && timelines.format"
      class="main"
      :class="{ dropping }"
      :aria-label="timelines.current.name"
      @dragover.prevent="dropping = true"
      @dragleave.self="dropping = false"
      @drop.prevent="dropClip"
    >
      <TimelineViewer ref="viewer" :timeline="timelines.current" :format="timelines.format">
        <AchievedLine :rate="timelines.format.rate" />
      </TimelineViewer>
      <MotionLine :timeline="timelines.current" />
      <div class="bar">
        <b class="figures clock">{{ timecodeAt(timelines.current, selection.playhead) }}</b>
        <span class="quiet nowrap">frame {{ selection.playhead }} of {{ selection.length }}</span>
        <PlayBar @play="does.play" @play-selection="does['play-selection']" />
        <span class="spacer" />
        <button class="word" :disabled="!cuttable" @click="does.cut">Cut here</button>
        <button class="word" :disabled="selection.placements.length === 0" @click="does.remove">
          Take out
        </button>
        <label class="quiet asks"><input v-model="timelines.closesUp" type="checkbox" /> close gap</label>
      </div>
      <TimelineStrip :timeline="timelines.current" :format="timelines.format" @act="does[$event]()" />
      <div v-if="timelines.check" class="summary">
        <span
          >{{ frameToTimecode(timelines.check.frames, timelines.format.rate) }} long, untouched
          <b class="figures">{{ percent(timelines.check.untouchedShare) }}</b> of
          {{ frameToTimecode(timelines.check.placedFrames, timelines.format.rate) }} of placed pictures</span
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
        v-if="timelines.current && !carrying.timeline"
        :timeline="timelines.current"
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
.wide {
  grid-column: 2 / -1;
}
.made {
  max-height: 190px;
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
.toggle {
  padding: 0;
  color: var(--accent);
}
.main {
  padding: 8px 16px;
  display: flex;
  flex-direction: column;
  gap: 6px;
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
  gap: 6px;
  align-items: center;
  flex-wrap: wrap;
}
.bar > * {
  white-space: nowrap;
}
.nowrap {
  white-space: nowrap;
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
