<script setup lang="ts">
import { type Clip } from '../../../core/model/clip'
import { Button } from 'ant-design-vue'
import { computed } from 'vue'
import { differencesFrom, oddities } from '../../../core/inspect/marks'
import { takeApart, timesPlaced } from '../../../core/edit/parts'
import { weightsOf } from '../../../core/model/project'
import { formatName } from '../../../core/format/format'
import { pictureOf } from '../../../core/picture/picture'
import { clockTime, counted } from '../../../core/words/figures'
import { tollSentence } from '../../../core/toll/sentence'
import { tollOf } from '../../../core/toll/toll'
import { contradictionsOf } from '../../../core/inspect/contradictions'
import { useMeasuring } from '../../../stores/measuring'
import { useMedia } from '../../../stores/media'
import { useProject } from '../../../stores/document/project'
import { useRelinking } from '../../../stores/relinking'
import GradeMark from '../../components/GradeMark.vue'
import PosterPicture from '../../components/PosterPicture.vue'
import ContradictionCard from './ContradictionCard.vue'
import FilmStrip from './FilmStrip.vue'
import MeasuringBar from './MeasuringBar.vue'
import TermText from '../../components/terms/TermText.vue'
import { useInHand } from '../../components/terms/use-in-hand'
import { factsOf } from '../../../core/inspect/facts'

const props = defineProps<{ clip: Clip | null }>()
defineEmits<{ correct: []; closer: []; remove: [] }>()
const project = useProject()
const media = useMedia()
const measuring = useMeasuring()
const relinking = useRelinking()
useInHand(
  () => props.clip,
  () => project.format,
)

const placed = computed(() => (props.clip && project.doc ? timesPlaced(project.doc, props.clip.id) : 0))
function apart() {
  if (!props.clip) return
  const { id, name } = props.clip
  project.edit(`take ${name} apart`, (doc) => takeApart(doc, id))
}

const isRaw = computed(() => props.clip?.reading?.video?.colour.transfer === 'raw')
const contradictions = computed(() => (props.clip ? contradictionsOf(props.clip) : []))
const facts = computed(() => (props.clip ? factsOf(props.clip) : []))
const marks = computed(() => {
  const reading = props.clip?.reading
  if (!reading) return []
  return [...(project.format ? differencesFrom(reading, project.format) : []), ...oddities(reading)]
})
const toll = computed(() => {
  const reading = props.clip?.reading
  if (!reading?.video || reading.kind !== 'video' || !project.format || !project.doc) return null
  return tollOf(pictureOf(reading.video), project.format, undefined, weightsOf(project.doc.project))
})
</script>

<template>
  <aside class="sheet" aria-label="Docket">
    <p v-if="!clip" class="quiet">Select a clip: its docket stands here.</p>
    <template v-else>
      <h2 class="ellipsis" :title="clip.name">{{ clip.name }}</h2>
      <p v-if="clip.fault" class="fault" role="note">{{ clip.fault.message }}</p>
      <template v-if="clip.reading?.video">
        <PosterPicture :clip="clip" />
        <p v-if="media.troubles.get(clip.id)" class="quiet small">{{ media.troubles.get(clip.id) }}</p>
        <FilmStrip v-else-if="clip.reading.kind === 'video'" :clip="clip" />
      </template>
      <ContradictionCard
        v-for="contradiction in contradictions"
        :key="contradiction.about"
        :clip="clip"
        :contradiction="contradiction"
      />
      <div class="actions">
        <Button size="small" :disabled="!clip.reading?.video" @click="$emit('correct')">Correct…</Button>
        <Button size="small" :disabled="!clip.reading?.video" @click="$emit('closer')">Look closer</Button>
        <Button size="small" @click="$emit('remove')">Take out</Button>
        <Button v-if="clip.parts.length === 0" size="small" @click="relinking.choosing = clip"
          >Another in its place…</Button
        >
        <Button
          v-if="clip.parts.length"
          size="small"
          :disabled="placed > 0"
          :title="placed ? `Placed ${counted(placed, 'time')}: take it off the timelines first` : undefined"
          @click="apart"
          >Take apart</Button
        >
      </div>
      <p v-if="clip.evidence" class="quiet small">
        {{ counted(clip.evidence.frames, 'frame') }} of it were looked at.
      </p>
      <p v-else-if="clip.reading?.kind === 'video' && clip.reading.video" class="quiet small">
        {{
          isRaw
            ? 'Raw is not developed here: its preview says nothing of its samples.'
            : (measuring.errors.get(clip.id) ?? 'Its picture is not measured yet.')
        }}
        <Button v-if="!isRaw" size="small" type="text" @click="measuring.measureNow([clip.id])"
          >measure now</Button
        >
      </p>
      <details v-if="clip.parts.length">
        <summary class="quiet">{{ counted(clip.parts.length, 'file') }} in order</summary>
        <ol class="parts small">
          <li v-for="part in clip.parts.slice(0, 200)" :key="part.id">
            {{ part.name }}
            <span v-if="part.reading?.durationSec" class="quiet figures">{{
              clockTime(part.reading.durationSec)
            }}</span>
          </li>
        </ol>
      </details>
      <dl>
        <template v-for="fact in facts" :key="fact.name + fact.value">
          <dt class="quiet"><TermText :text="fact.name" /></dt>
          <dd :class="{ overruled: fact.overruled, counts: fact.counts }">{{ fact.value }}</dd>
          <dd class="quiet origin">{{ fact.origin }}</dd>
        </template>
      </dl>
      <details v-if="clip.reading?.video">
        <summary class="quiet">wrapper and codec are two things</summary>
        <p class="small">
          The wrapper ({{ clip.reading.container }}) holds the streams and their times. The codec ({{
            clip.reading.video.codec
          }}) is how the picture inside is coded. The same codec comes in many wrappers; a new wrapper leaves
          the picture untouched, a new codec does not.
        </p>
      </details>
      <ul v-if="marks.length" class="marks">
        <li v-for="mark in marks" :key="mark.sentence"><TermText :text="mark.sentence" /></li>
      </ul>
      <p v-if="toll && project.format">
        In <span class="figures">{{ formatName(project.format) }}</span>: <GradeMark :grade="toll.grade" />
        {{ tollSentence(toll) }}.
      </p>
    </template>
    <MeasuringBar />
  </aside>
</template>

<style scoped>
aside {
  display: flex;
  flex-direction: column;
  gap: 8px;
}
aside > * {
  flex: none;
}
dl {
  display: grid;
  grid-template-columns: 60px minmax(0, 1fr) auto;
}
dt,
dd {
  padding: 3px 8px 3px 0;
  border-bottom: 1px solid var(--line);
}
.origin,
.small {
  font-size: 12px;
}
.origin {
  text-align: right;
  padding-right: 0;
  max-width: 92px;
}
.counts {
  font-weight: 600;
}
.overruled {
  color: var(--quiet);
  text-decoration: line-through;
}
.fault {
  color: var(--severe);
}
.marks {
  padding-left: 16px;
}
.parts {
  padding-left: 26px;
  max-height: 120px;
  overflow: auto;
}
.actions {
  display: flex;
  gap: 8px;
  flex-wrap: wrap;
}
</style>
