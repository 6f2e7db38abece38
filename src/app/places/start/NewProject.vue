<script setup lang="ts">
import { Button, Input } from 'ant-design-vue'
import { computed, ref, shallowRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { mayFlicker, ratesInOrder, usualRate } from '../../../core/edit/habits'
import {
  type Format,
  type FrameSize,
  aspectName,
  formatName,
  makeFormat,
  pixelSizeName,
  sizeText,
  tradeName,
} from '../../../core/format/format'
import { parseSize } from '../../../core/format/parse'
import { parseShape, shapes, sizesInShape } from '../../../core/format/shape'
import { objections, turned } from '../../../core/format/standard'
import { parseRate } from '../../../core/rate/parse'
import { rateName, rateWithScan } from '../../../core/rate/rate'
import { rational } from '../../../core/rational/rational'
import { useHabits } from '../../../stores/habits'
import { useProject } from '../../../stores/project'

/** A project from what is to be delivered: shape first, then size, then rate; or openly not known yet. */
const route = useRoute()
const router = useRouter()
const project = useProject()
const habits = useHabits()

const name = ref(typeof route.query.name === 'string' ? route.query.name : '')
const known = ref(false)
const decided = ref(false)
const shapeText = ref('16:9')
const size = shallowRef<FrameSize | null>(null)
const sizeTyped = ref('')
const rateText = ref('25')
const scan = ref<Format['scan']>('progressive')
const own = ref('')

void habits.ready.then(() => {
  shapeText.value = habits.habits.shape
  rateText.value = rateName(usualRate(habits.habits))
})

const shape = computed(() => parseShape(shapeText.value))
const sizes = computed(() => (shape.value ? sizesInShape(shape.value) : []))
watch(
  sizes,
  (list) => {
    if (!size.value || !list.some((s) => sizeText(s) === sizeText(size.value!))) size.value = list[0] ?? null
    // HD before everything else, where the shape has it.
    size.value = list.find((s) => Math.min(s.width, s.height) === 1080 && tradeName(s)) ?? size.value
  },
  { immediate: true },
)
function typeSize() {
  const typed = parseSize(sizeTyped.value)
  if (typed) size.value = typed
}
const sizeTrouble = computed(() =>
  sizeTyped.value.trim() && !parseSize(sizeTyped.value) ? 'Write it as 1920x1080 or 1440x1080/4:3.' : '',
)
function turn() {
  const upright = shapeText.value
  const is = size.value
  const back = shapes.find(
    (s) => shape.value && s.aspect.num === shape.value.aspect.den && s.aspect.den === shape.value.aspect.num,
  )
  shapeText.value = back?.name ?? upright.split(':').reverse().join(':')
  if (is) size.value = turned(is)
}

const typedRate = computed(() => parseRate(rateText.value))
watch(typedRate, (typed) => {
  if (typed?.scan) scan.value = typed.scan
})
const rates = computed(() => ratesInOrder(habits.habits))
/** An interlaced format counts its fields: 50i is 25 frames. */
const delivery = computed<Format | null>(() => {
  const kept = habits.ownFormats.find((f) => f.id === own.value)
  if (kept) return kept.format
  return size.value && typedRate.value ? makeFormat(size.value, typedRate.value.rate, scan.value) : null
})
const against = computed(() => (delivery.value ? objections(delivery.value) : []))
const ready = computed(() => !known.value || (delivery.value !== null && against.value.length === 0))
const flickers = (text: string) => {
  const typed = parseRate(text)
  return typed ? mayFlicker(typed.rate, habits.habits.mains) : false
}

async function begin() {
  const id = await project.create({
    name: name.value,
    delivery: (known.value && delivery.value) || undefined,
    decided: decided.value,
    habits: habits.habits,
  })
  await router.push({ name: 'arrivals', params: { id } })
}
</script>

<template>
  <main class="new">
    <div class="head">
      <RouterLink to="/">all projects</RouterLink>
      <h1>A new project</h1>
    </div>
    <form @submit.prevent="begin">
      <div class="steps">
        <label class="step">
          <b>Name</b>
          <Input v-model:value="name" placeholder="Untitled" aria-label="Name of the project" />
        </label>
        <fieldset class="step">
          <legend>What is delivered</legend>
          <label
            ><input v-model="known" type="radio" :value="false" name="known" /> not known yet: the Yard weighs
            the footage</label
          >
          <label><input v-model="known" type="radio" :value="true" name="known" /> known</label>
          <label v-if="known && habits.ownFormats.length" class="own"
            >an own format
            <select v-model="own" aria-label="An own format">
              <option value="">none of them</option>
              <option v-for="f in habits.ownFormats" :key="f.id" :value="f.id">
                {{ f.name }}: {{ formatName(f.format) }}
              </option>
            </select></label
          >
        </fieldset>
        <template v-if="known && !own">
          <fieldset class="step">
            <legend>Shape</legend>
            <label v-for="s in shapes" :key="s.name"
              ><input v-model="shapeText" type="radio" :value="s.name" name="shape" /> {{ s.name }}</label
            >
            <Input v-model:value="shapeText" class="short" aria-label="Another shape" />
            <Button @click="turn">Turn on its side</Button>
            <p v-if="!shape" class="quiet" role="status">Write it as 16:9, 2.39:1 or 1.85.</p>
          </fieldset>
          <fieldset class="step">
            <legend>Size</legend>
            <div class="sizes">
              <label v-for="s in sizes" :key="sizeText(s)"
                ><input
                  type="radio"
                  name="size"
                  :checked="size !== null && sizeText(s) === sizeText(size)"
                  @change="size = s"
                />
                <span class="figures">{{ pixelSizeName(s) }}</span>
                <span class="quiet">{{ tradeName(s) ?? '' }}</span></label
              >
            </div>
            <Input
              v-model:value="sizeTyped"
              class="short"
              placeholder="1920x1080"
              aria-label="Another size"
              @change="typeSize"
            />
            <p v-if="sizeTrouble" class="quiet" role="status">{{ sizeTrouble }}</p>
          </fieldset>
          <fieldset class="step">
            <legend>Rate and scan</legend>
            <label v-for="rate in rates" :key="rateName(rate)"
              ><input v-model="rateText" type="radio" :value="rateName(rate)" name="rate" />
              <span class="figures">{{ rateName(rate) }}</span></label
            >
            <Input v-model:value="rateText" class="short" aria-label="Another rate" />
            <label><input v-model="scan" type="radio" value="progressive" name="scan" /> progressive</label>
            <label
              ><input v-model="scan" type="radio" value="interlaced" name="scan" /> interlaced{{
                typedRate
                  ? `, ${rateWithScan(rational(typedRate.rate.num, typedRate.rate.den), 'interlaced')}`
                  : ''
              }}</label
            >
            <p v-if="!typedRate" class="quiet" role="status">Write it as 25, 23.976, 30000/1001 or 50i.</p>
            <p v-else-if="typedRate.message" class="quiet" role="status">{{ typedRate.message }}</p>
            <p v-if="flickers(rateText)" class="quiet">
              Under {{ habits.habits.mains }} Hz lamps {{ rateName(typedRate!.rate) }} frames a second may
              flicker.
            </p>
          </fieldset>
        </template>
        <fieldset v-if="known" class="step">
          <legend>The project works in</legend>
          <label
            ><input v-model="decided" type="radio" :value="false" name="decided" /> nothing yet: the Yard
            prices every format for this delivery</label
          >
          <label
            ><input v-model="decided" type="radio" :value="true" name="decided" /> what is delivered, from the
            start</label
          >
        </fieldset>
      </div>
      <aside class="sheet" aria-label="What it comes to">
        <h2>What it comes to</h2>
        <p>
          <b>{{ name.trim() || 'Untitled' }}</b>
        </p>
        <template v-if="known && delivery">
          <p class="figures large">{{ formatName(delivery) }}</p>
          <p class="quiet">
            {{ [tradeName(delivery), `shape ${aspectName(delivery)}`].filter(Boolean).join(', ') }}; exactly
            {{ delivery.rate.num }}/{{ delivery.rate.den }} frames a second
          </p>
          <svg viewBox="0 0 200 120" class="shape" aria-hidden="true">
            <rect
              v-bind="
                (() => {
                  const a =
                    (delivery.width * delivery.pixelAspect.num) / delivery.pixelAspect.den / delivery.height
                  const w = Math.min(196, 116 * a)
                  return { x: 100 - w / 2, y: 60 - w / a / 2, width: w, height: w / a }
                })()
              "
            />
          </svg>
          <p v-for="said in against" :key="said" role="alert" class="against">{{ said }}</p>
          <p v-if="delivery.rate.den === 1001" class="quiet">
            {{ rateName(delivery.rate) }} and {{ Math.round(delivery.rate.num / 1000) }} are two rates: mixed,
            one frame slips every {{ ((1001 * 1000) / delivery.rate.num).toFixed(1) }} s.
          </p>
        </template>
        <p v-else-if="known" class="quiet">A shape, a size and a rate make a format.</p>
        <p v-else class="quiet">The format stays openly undecided until the Yard has weighed the footage.</p>
        <p class="quiet">
          Before the first clip is placed everything can still change. Later the rate is the costly one: every
          cut has to move. The size stays cheap.
        </p>
        <p class="quiet">
          A clip that does not match:
          {{ habits.habits.onMismatch === 'ask' ? 'asked about, with figures' : 'treated without asking' }}.
          <RouterLink :to="{ name: 'habits' }">Habits</RouterLink>
        </p>
        <Button type="primary" html-type="submit" :disabled="!ready">Begin the project</Button>
      </aside>
    </form>
  </main>
</template>

<style scoped>
.new {
  height: 100%;
  display: grid;
  grid-template-rows: auto minmax(0, 1fr);
}
.head {
  display: flex;
  gap: 20px;
  align-items: baseline;
  padding: 18px 32px 12px;
  border-bottom: 1px solid var(--ink);
}
form {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 380px;
  min-height: 0;
}
.steps {
  overflow: auto;
  padding: 4px 32px 20px;
}
.step {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 18px;
  align-items: center;
  border: 0;
  border-bottom: 1px solid var(--line);
  margin: 0;
  padding: 14px 0 14px 150px;
  position: relative;
}
.step > legend,
.step > b {
  position: absolute;
  left: 0;
  top: 16px;
  padding: 0;
  font-weight: 600;
}
.step > label {
  min-height: 26px;
  display: flex;
  gap: 6px;
  align-items: center;
}
label.step :deep(input) {
  max-width: 360px;
}
.step p {
  width: 100%;
}
.sizes {
  display: grid;
  grid-template-columns: repeat(3, auto);
  gap: 4px 22px;
  width: 100%;
}
.sizes label {
  display: flex;
  gap: 6px;
  align-items: center;
  min-height: 24px;
}
.short {
  width: 104px;
  font-family: var(--mono);
}
select {
  font: inherit;
  height: 28px;
  color: var(--ink);
  background: var(--sheet);
  border: 1px solid var(--ink);
  border-radius: 2px;
}
aside {
  display: flex;
  flex-direction: column;
  gap: 10px;
  align-items: flex-start;
}
.large {
  font-size: 19px;
  font-weight: 600;
}
.shape {
  width: 200px;
  height: 120px;
}
.shape rect {
  fill: none;
  stroke: var(--accent);
  stroke-width: 2;
}
.against {
  color: var(--severe);
}
</style>
