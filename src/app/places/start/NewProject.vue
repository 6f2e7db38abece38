<script setup lang="ts">
import { figure } from '../../../core/words/figures'
import { type FrameSize, displayAspect } from '../../../core/picture/size'
import { Button, Input } from 'ant-design-vue'
import { computed, ref, shallowRef } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { type Format, formatName, shapeName } from '../../../core/format/format'
import { sizesInShape } from '../../../core/format/shape'
import { objections, standardSizes } from '../../../core/format/standard'
import { rateFraction, rateName } from '../../../core/rate/rate'
import { useTerms } from '../../components/terms/terms'
import { usePreferences } from '../../../stores/preferences'
import { useProject } from '../../../stores/document/project'
import DeliverySteps from './DeliverySteps.vue'
import SizesToScale from './SizesToScale.vue'

/** A project from what is to be delivered: shape first, then size, then rate; or openly not known yet. */
const route = useRoute()
const terms = useTerms()
const router = useRouter()
const project = useProject()
const habits = usePreferences()

const name = ref(typeof route.query.name === 'string' ? route.query.name : '')
const known = ref(false)
const decided = ref(false)
/** What the steps come to, and which own format is taken instead. */
const stepped = shallowRef<Format | null>(null)
const own = ref('')
const delivery = computed<Format | null>(
  () => habits.ownFormats.find((f) => f.id === own.value)?.format ?? stepped.value,
)
const against = computed(() => (delivery.value ? objections(delivery.value) : []))
const ready = computed(() => !known.value || (delivery.value !== null && against.value.length === 0))
/** The sizes of the shape that is delivered, and those that footage mostly has. */
const sizesLike = computed(() =>
  delivery.value
    ? sizesInShape({ name: '', aspect: displayAspect(delivery.value) }).filter(hasSquarePixels)
    : [],
)
const hasSquarePixels = ({ pixelAspect }: FrameSize) => pixelAspect.num === pixelAspect.den
const usualSizes = standardSizes.filter(({ name }) =>
  ['HD', 'UHD', 'DCI 4K', 'HD 720', 'HD portrait'].includes(name),
)

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
      <button class="word" :aria-pressed="terms.listed" @click="terms.listed = !terms.listed">terms</button>
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
        <DeliverySteps v-show="known && !own" v-model="stepped" />
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
            {{ shapeName(delivery) }}; exactly {{ rateFraction(delivery.rate) }} frames a second
          </p>
          <SizesToScale :sizes="sizesLike" :chosen="delivery" />
          <p v-for="said in against" :key="said" role="alert" class="against">{{ said }}</p>
          <p v-if="delivery.rate.den === 1001" class="quiet">
            {{ rateName(delivery.rate) }} and {{ Math.round(delivery.rate.num / 1000) }} are two rates: mixed,
            one frame slips every {{ figure((1001 * 1000) / delivery.rate.num) }} s.
          </p>
        </template>
        <p v-else-if="known" class="quiet">A shape, a size and a rate make a format.</p>
        <template v-else>
          <p class="quiet">The format stays openly undecided until the Yard has weighed the footage.</p>
          <SizesToScale :sizes="usualSizes" :chosen="null" />
        </template>
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
.steps :deep(.step) {
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
.steps :deep(.step > legend),
.step > b {
  position: absolute;
  left: 0;
  top: 16px;
  padding: 0;
  font-weight: 600;
}
.steps :deep(.step > label) {
  min-height: 26px;
  display: flex;
  gap: 6px;
  align-items: center;
}
label.step :deep(input) {
  max-width: 360px;
}
.steps :deep(.step p) {
  width: 100%;
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
.against {
  color: var(--severe);
}
</style>
