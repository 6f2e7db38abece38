<script setup lang="ts">
import { Button } from 'ant-design-vue'
import { computed, ref, shallowRef, watch } from 'vue'
import { consequenceSentence, consequencesOf, costlyLater } from '../../../core/check/consequence'
import { formatName, formatKey, sameFormat, shapeName } from '../../../core/format/format'
import { turnedSize } from '../../../core/picture/turn'
import { figure, percent } from '../../../core/words/figures'
import { usePreferences } from '../../../stores/preferences'
import { useProject } from '../../../stores/document/project'
import { useTimelines } from '../../../stores/timelines'
import { useYard } from '../../../stores/yard'
import { goesWith } from '../../../core/edit/delivering'
import type { Deliverable } from '../../../core/model/deliverable'
import { useDispatching } from '../../../stores/dispatching'
import FormatPicker from '../../components/FormatPicker.vue'
import ShareBar from '../../components/ShareBar.vue'

/** The format that is tried: what it is, what setting it would do to every timeline, and the ways to another. */
const project = useProject()
const yard = useYard()
const habits = usePreferences()
const timelines = useTimelines()
const dispatching = useDispatching()

const settled = computed(
  () => project.format !== null && yard.candidate !== null && sameFormat(project.format, yard.candidate),
)
/** Where each format stands among all that are ranked. */
const places = computed(() => new Map(yard.ranking.map((c, i) => [formatKey(c.format), i + 1])))
const what = computed(() => {
  if (!yard.candidate) return ''
  const place = places.value.get(formatKey(yard.candidate))
  const ranked = place && `${place} of ${yard.ranking.length}`
  return `${[shapeName(yard.candidate), ranked].filter(Boolean).join(', ')}.`
})
const consequences = computed(() =>
  yard.candidate && !settled.value ? consequencesOf(project.opened, yard.candidate, timelines.checkOnce) : [],
)
const changing = computed(() => consequences.value.filter((c) => c.changes))
const staying = computed(() => consequences.value.filter((c) => !c.changes))
const costly = computed(() => costlyLater(project.opened))

function turn() {
  const format = yard.candidate
  if (format) yard.look({ ...format, ...turnedSize(format), scan: 'progressive', fieldOrder: null }, 'tried')
}
const isDelivered = computed(() =>
  dispatching.all.some(({ format }) => yard.candidate && sameFormat(format, yard.candidate)),
)
/** The deliverable that is to be taken out, and with it what somebody has set or proven. */
const asked = shallowRef<Deliverable | null>(null)
function outOf(deliverable: Deliverable): string {
  const more = goesWith(deliverable)
  return `Do not deliver ${deliverable.name}${more ? `: ${more} would go with it` : ''}`
}
function takeOut(deliverable: Deliverable) {
  if (goesWith(deliverable)) asked.value = deliverable
  else dispatching.remove(deliverable.id)
}
watch(
  () => dispatching.all,
  () => (asked.value = null),
)
const kept = ref('')
watch(
  () => yard.candidate,
  () => (kept.value = ''),
)
</script>

<template>
  <section v-if="yard.candidate" class="trying" aria-label="The format that is tried">
    <div class="line">
      <b class="figures name">{{ formatName(yard.candidate) }}</b>
      <span v-if="yard.price" class="quiet end"
        >untouched <b class="figures">{{ percent(yard.price.untouchedShare) }}</b> · loss
        <b class="figures">{{ figure(yard.price.loss, 2) }}</b></span
      >
    </div>
    <template v-if="yard.price">
      <ShareBar :shares="yard.price.shareByGrade" />
      <p class="reason">
        <span class="quiet">{{ what }}</span>
        {{ yard.price.reason }}
      </p>
    </template>
    <div class="actions">
      <Button type="primary" :disabled="settled" @click="yard.chooseCandidate">{{
        settled ? 'This is the project’s format' : 'Set as project format'
      }}</Button>
      <Button :disabled="isDelivered" @click="dispatching.add(yard.candidate)">Is delivered</Button>
      <Button :disabled="kept !== ''" @click="kept = habits.keep(yard.candidate)">{{
        kept ? 'Kept' : 'Keep as own'
      }}</Button>
    </div>
    <ul v-if="consequences.length" class="small" aria-label="What setting it does">
      <li v-for="c in changing.slice(0, 3)" :key="c.timeline.id">{{ consequenceSentence(c) }}</li>
      <li v-if="changing.length > 3" class="quiet">
        {{ changing.length - 3 }} more timelines follow:
        {{
          changing
            .slice(3)
            .map((c) => c.timeline.name)
            .join(', ')
        }}.
      </li>
      <li v-for="c in staying.slice(0, 2)" :key="c.timeline.id" class="quiet">
        {{ consequenceSentence(c) }}
      </li>
      <li v-if="staying.length > 2" class="quiet">{{ staying.length - 2 }} more have their own and stay.</li>
    </ul>
    <p v-if="!settled" class="quiet small">{{ costly }}</p>
    <FormatPicker :base="yard.candidate" verb="Try" name="Another format" @pick="yard.look">
      <Button title="Landscape to portrait and back" @click="turn">Turn</Button>
    </FormatPicker>
    <p v-if="dispatching.all.length" class="small">
      delivered:
      <span v-for="deliverable in dispatching.all" :key="deliverable.id" class="figures"
        >{{ deliverable.name }}
        <button
          class="word"
          :title="outOf(deliverable)"
          :aria-label="outOf(deliverable)"
          @click="takeOut(deliverable)"
        >
          ×
        </button></span
      >
    </p>
    <p v-if="asked" class="small" role="alert">
      {{ outOf(asked) }}.
      <button class="word" @click="dispatching.remove(asked.id)">Do not deliver it</button>
      <button class="word" @click="asked = null">keep it</button>
    </p>
  </section>
</template>

<style scoped>
.trying {
  display: flex;
  flex-direction: column;
  gap: 7px;
  padding-bottom: 10px;
  border-bottom: 1px solid var(--ink);
}
.line {
  display: flex;
  gap: 10px;
  align-items: baseline;
}
.name {
  font-size: 17px;
  white-space: nowrap;
}
/* Three lines: what stands below does not jump while the candidate moves. */
.reason {
  min-height: 4.2em;
  line-height: 1.4;
}
.end {
  margin-left: auto;
  white-space: nowrap;
}
.end b {
  color: var(--ink);
}
.actions {
  display: flex;
  gap: 6px;
  flex-wrap: wrap;
}
ul {
  list-style: none;
}
.small {
  font-size: 12px;
}
</style>
