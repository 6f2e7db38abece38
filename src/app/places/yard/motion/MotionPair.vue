<script setup lang="ts">
import { Input } from 'ant-design-vue'
import { computed, ref, watch } from 'vue'
import { parseRate } from '../../../../core/rate/parse'
import { pictureKey } from '../../../../core/picture/picture'
import { uprightSize } from '../../../../core/picture/turn'
import { counted, speedWords, timesLonger } from '../../../../core/words/figures'
import { pixelSizeName } from '../../../../core/format/format'
import { type Rate, rateName, rateWithScan, standardRates } from '../../../../core/rate/rate'
import { equal, rational, toNumber } from '../../../../core/rational/rational'
import { useYard } from '../../../../stores/yard'
import CadenceStrip from './CadenceStrip.vue'
import MotionDemo from './MotionDemo.vue'

/** Any rate on any other: the pattern drawn, its figures, the motion watched, and what would help. */
const yard = useYard()

/** The rates of the footage, each once, the slowest first. */
const distinct = (rates: readonly Rate[]) =>
  rates
    .filter((rate, i) => rates.findIndex((other) => equal(other, rate)) === i)
    .sort((a, b) => toNumber(a) - toNumber(b))
const present = computed(() => distinct(yard.ballot.blocs.flatMap((bloc) => bloc.picture.rate ?? [])))
/** What interlaced clips can move at, deinterlaced to double rate. */
const fieldRates = computed(() =>
  distinct(
    yard.ballot.blocs.flatMap(({ picture: { rate, scan } }) =>
      rate && scan === 'interlaced' ? [rational(rate.num * 2, rate.den)] : [],
    ),
  ),
)
const others = computed(() =>
  present.value.filter((rate) => yard.candidate && !equal(rate, yard.candidate.rate)),
)

/** Clips with more frames a second than the timeline: every frame once is slow motion from real frames. */
const slow = computed(() => {
  const T = timeline.value
  if (!T) return []
  return yard.ballot.blocs
    .flatMap(({ picture, ids }) => {
      if (!picture.rate) return []
      // Interlaced clips have their fields to give.
      const rate =
        picture.scan === 'interlaced' ? rational(picture.rate.num * 2, picture.rate.den) : picture.rate
      return toNumber(rate) > 1.02 * toNumber(T)
        ? [
            {
              picture,
              name: rateWithScan(picture.rate, picture.scan),
              clips: ids.length,
              speed: toNumber(T) / toNumber(rate),
            },
          ]
        : []
    })
    .sort((a, b) => a.speed - b.speed)
})
/** The rate other than the candidate's that most of the footage has. */
const mostOther = computed(() => {
  const secondsAt = (rate: Rate) =>
    yard.ballot.blocs.reduce(
      (sum, { picture, seconds }) => sum + (picture.rate && equal(picture.rate, rate) ? seconds : 0),
      0,
    )
  return others.value.reduce<Rate | null>(
    (most, rate) => (!most || secondsAt(rate) > secondsAt(most) ? rate : most),
    null,
  )
})
/** Rates of the footage that are on neither side of the pair. */
const further = computed(() =>
  present.value.filter((rate) => ![source.value, timeline.value].some((side) => side && equal(rate, side))),
)
/** What is typed; without it, the most of the rest of the footage on the candidate's rate. */
const typed = ref({ source: '', timeline: '' })
const read = (text: string): Rate | null => (text.trim() ? (parseRate(text)?.rate ?? null) : null)
const source = computed(() => read(typed.value.source) ?? mostOther.value ?? present.value[0] ?? null)
const timeline = computed(() => read(typed.value.timeline) ?? yard.candidate?.rate ?? null)
const trouble = computed(() =>
  [typed.value.source, typed.value.timeline]
    .filter((text) => text.trim() && !read(text))
    .map((text) => `“${text}” is not a rate.`)
    .join(' '),
)
watch(
  () => yard.candidate?.rate,
  () => (typed.value.timeline = ''),
)
const pick = (rate: Rate) => (typed.value.source = rateName(rate))
</script>

<template>
  <div v-if="source && timeline" class="pair">
    <div class="choose">
      <label
        >filmed at <Input v-model:value="typed.source" :placeholder="rateName(source)" list="rates"
      /></label>
      <label
        >in a timeline of
        <Input v-model:value="typed.timeline" :placeholder="rateName(timeline)" list="rates"
      /></label>
      <datalist id="rates">
        <option v-for="rate in standardRates" :key="rateName(rate)" :value="rateName(rate)" />
      </datalist>
    </div>
    <p v-if="trouble" role="status" class="quiet">{{ trouble }}</p>
    <p class="present">
      <span class="quiet">in the footage</span>
      <button
        v-for="rate in present"
        :key="rateName(rate)"
        class="word figures"
        :aria-pressed="equal(rate, source)"
        @click="pick(rate)"
      >
        {{ rateName(rate) }}
      </button>
    </p>
    <CadenceStrip :source="source" :timeline="timeline" />
    <MotionDemo :source="source" :timeline="timeline" />
    <template v-if="slow.length">
      <h3>Slow motion from real frames, in {{ rateName(timeline) }}</h3>
      <ul>
        <li v-for="{ picture, name, clips, speed } in slow" :key="pictureKey(picture)">
          <span class="figures">{{ pixelSizeName(uprightSize(picture)) }} {{ name }}</span>
          <span class="quiet">{{ counted(clips, 'clip') }}</span>
          <span>{{ speedWords(speed) }}, {{ timesLonger(speed) }} times as long</span>
        </li>
      </ul>
    </template>
    <template v-if="others.length">
      <h3>The footage at {{ rateName(timeline) }}</h3>
      <CadenceStrip v-for="rate in further" :key="rateName(rate)" :source="rate" :timeline="timeline" />
      <CadenceStrip
        v-for="rate in fieldRates"
        :key="`fields ${rateName(rate)}`"
        :source="rate"
        :timeline="timeline"
        fields
      />
    </template>
  </div>
</template>

<style scoped>
.pair {
  display: flex;
  flex-direction: column;
  gap: 6px;
}
.choose {
  display: flex;
  gap: 14px;
}
label {
  display: flex;
  gap: 6px;
  align-items: center;
}
label :deep(input) {
  width: 86px;
  font-family: var(--mono);
}
h3 {
  padding-top: 8px;
}
ul {
  list-style: none;
  font-size: 12px;
}
li {
  display: grid;
  grid-template-columns: 180px 60px 1fr;
  padding: 2px 0;
  border-bottom: 1px solid var(--line);
}
</style>
