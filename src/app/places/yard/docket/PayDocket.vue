<script setup lang="ts">
import { figure } from '../../../../core/words/figures'
import { Button } from 'ant-design-vue'
import { computed, ref, shallowRef, watch } from 'vue'
import { present } from '../../../../core/assert'
import { matchesOf } from '../../../../core/inspect/matches'
import { mismatches } from '../../../../core/check/mismatch'
import { formatOfClip } from '../../../../core/edit/placing'
import { type Clip } from '../../../../core/model/clip'
import { formatName } from '../../../../core/format/format'
import { pictureOf } from '../../../../core/picture/picture'
import { type FramingMode, treated } from '../../../../core/treatment/treatment'
import { rational } from '../../../../core/rational/rational'
import { notedOf } from '../../../../core/toll/noted'
import { sentence } from '../../../../core/toll/sentence'
import { tollOf } from '../../../../core/toll/toll'
import { useYard } from '../../../../stores/yard'
import GradeMark from '../../../components/GradeMark.vue'
import CadenceStrip from '../motion/CadenceStrip.vue'
import DetailPair from './DetailPair.vue'
import MotionDemo from '../motion/MotionDemo.vue'
import SizeDrawing from './SizeDrawing.vue'
import TermText from '../../../components/terms/TermText.vue'
import { useInHand } from '../../../components/terms/use-in-hand'
import TermMark from '../../../components/terms/TermMark.vue'

/** One clip at the candidate: what matches, what it pays, its size drawn to scale, its detail, its motion. */
const props = defineProps<{ clip: Clip }>()
defineEmits<{ leave: [] }>()
const yard = useYard()

const mode = shallowRef<FramingMode>({ kind: 'fit' })
/** The place that is looked at closely; null until one is found or chosen. */
const at = ref<{ x: number; y: number } | null>(null)
watch(
  () => props.clip.id,
  () => {
    mode.value = { kind: 'fit' }
    at.value = null
  },
)
const format = computed(() => present(yard.candidate, 'what a clip pays is shown at a candidate'))
useInHand(
  () => props.clip,
  () => format.value,
)
const reading = computed(() => present(props.clip.reading, 'only what was read pays'))
const video = computed(() => present(reading.value.video, 'only what has a picture pays'))
const matches = computed(() => matchesOf(reading.value, format.value))
const toll = computed(() =>
  tollOf(picture.value, format.value, treated([{ framing: { mode: mode.value } }]), yard.weights),
)
const noted = computed(() => notedOf(reading.value))
const own = computed(() => formatOfClip(props.clip, format.value.colour))
const picture = computed(() => pictureOf(video.value))
const isOwn = computed(() => own.value !== null && mismatches(picture.value, format.value).length === 0)
const rate = computed(() => (reading.value.kind === 'video' ? video.value.rate : null))
const fieldRate = computed(() =>
  video.value.scan === 'interlaced' && rate.value ? rational(rate.value.num * 2, rate.value.den) : null,
)
</script>

<template>
  <div class="head">
    <button class="word back" @click="$emit('leave')">‹ candidates</button>
    <h1 class="ellipsis" :title="clip.name">{{ clip.name }}</h1>
    <span
      >at <b class="figures">{{ formatName(format) }}</b></span
    >
  </div>
  <ul class="matches" aria-label="What matches">
    <li v-for="match in matches" :key="match.about">
      <span class="quiet"><TermText :text="match.about" /></span>
      <span
        ><span class="figures">{{ match.clip }}</span
        ><b v-if="match.matches === false">, not {{ match.format }}</b></span
      >
    </li>
  </ul>
  <div class="actions">
    <Button v-if="own" :disabled="isOwn" @click="yard.look(own, 'clip', clip.name)">Try its format</Button>
    <Button v-if="own" @click="yard.chooseFromClip(clip)">Set it as project format</Button>
    <p v-else class="quiet">
      {{
        reading.kind === 'still' ? 'A still never decides a format; it only pays.' : 'It has no rate to give.'
      }}
    </p>
  </div>
  <section aria-labelledby="pays">
    <h2 id="pays">It <TermMark term="toll">pays</TermMark> <GradeMark :grade="toll.grade" /></h2>
    <ul class="charges">
      <li v-if="toll.charges.length === 0">untouched: every pixel and every frame as recorded</li>
      <li v-for="charge in toll.charges" :key="charge.kind">
        <GradeMark :grade="charge.grade" /> <TermText :text="`${sentence(charge)} `" />
        <span class="quiet figures">{{ figure(charge.loss, 3) }}</span>
      </li>
      <li v-for="note in noted" :key="note.kind" class="quiet">noted: {{ note.text }}</li>
    </ul>
  </section>
  <section aria-labelledby="size">
    <h2 id="size">Size</h2>
    <SizeDrawing
      v-model:mode="mode"
      :at="at ?? { x: 0.5, y: 0.5 }"
      :clip="clip"
      :format="format"
      @update:at="at = $event"
    />
    <DetailPair :clip="clip" :format="format" :mode="mode" :at="at" @find="at = $event" />
  </section>
  <section v-if="rate" aria-labelledby="motion">
    <h2 id="motion"><TermMark term="cadence">Motion</TermMark></h2>
    <CadenceStrip :source="rate" :timeline="format.rate" />
    <CadenceStrip v-if="fieldRate" :source="fieldRate" :timeline="format.rate" :fields="true" />
    <MotionDemo :source="fieldRate ?? rate" :timeline="format.rate" />
  </section>
</template>

<style scoped>
.head {
  display: flex;
  gap: 10px;
  align-items: baseline;
}
.head h1 {
  min-width: 0;
}
.head > span {
  margin-left: auto;
  white-space: nowrap;
}
.back {
  margin-left: -6px;
  white-space: nowrap;
}
ul {
  list-style: none;
}
.matches li {
  min-height: 26px;
  line-height: 25px;
}
.matches {
  display: grid;
  grid-template-columns: 44px 1fr 68px 146px;
  font-size: 12px;
  border-top: 1px solid var(--ink);
  margin-top: 8px;
}
.matches li {
  display: grid;
  grid-template-columns: subgrid;
  grid-column: span 2;
  padding: 2px 0;
  border-bottom: 1px solid var(--line);
}
.actions {
  display: flex;
  gap: 6px;
  padding: 8px 0;
}
section {
  border-top: 1px solid var(--line);
  padding: 8px 0;
}
.charges li {
  padding: 2px 0;
}
</style>
