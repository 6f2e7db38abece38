<script setup lang="ts">
import { Button } from 'ant-design-vue'
import { computed, ref } from 'vue'
import { runningTime } from '../../../core/choice/reason'
import { type Format, formatName, formatText, sameFormat, tradeName } from '../../../core/format/format'
import { logText } from '../../../core/exchange/log'
import { rateName } from '../../../core/rate/rate'
import { equal, toNumber } from '../../../core/rational/rational'
import { Lean } from '../../../core/toll/policy'
import { percent } from '../../../core/toll/sentence'
import { useProject } from '../../../stores/project'
import { useYard } from '../../../stores/yard'
import CadenceStrip from './CadenceStrip.vue'
import FormatForm from './FormatForm.vue'
import WeightsForm from './WeightsForm.vue'
import ShareBar from '../../components/ShareBar.vue'
import TollTable from './TollTable.vue'
import YardPicture from './YardPicture.vue'

const project = useProject()
const yard = useYard()

const seconds = computed(() => yard.ballot.blocs.reduce((sum, bloc) => sum + bloc.seconds, 0))
const votes = computed(() => yard.ballot.blocs.reduce((sum, bloc) => sum + bloc.ids.length, 0))
const silent = computed(() => {
  const count = (why: string) => yard.ballot.excluded.filter((e) => e.why === why).length
  const parts = [
    [count('still'), 'still', 'stills'],
    [count('sound'), 'sound', 'sounds'],
    [count('not-read') + count('no-duration'), 'unread file', 'unread files'],
  ].flatMap(([n, one, many]) => (n ? [`${n} ${n === 1 ? one : many}`] : []))
  return parts.length ? `; ${parts.join(', ')} do not vote` : ''
})
const otherRates = computed(() => {
  const at = yard.candidate?.rate
  const rates = yard.ballot.blocs.flatMap((bloc) => bloc.picture.rate ?? [])
  const others = rates.filter(
    (rate, i) => at && !equal(rate, at) && rates.findIndex((r) => equal(r, rate)) === i,
  )
  return others.sort((a, b) => toNumber(a) - toNumber(b))
})
const shown = computed(() => yard.ranking.slice(0, 5))
const isLooked = (format: Format) =>
  yard.candidate !== null && formatText(format) === formatText(yard.candidate)
const inList = computed(() => shown.value.some((c) => isLooked(c.format)))
const settled = computed(
  () => project.format !== null && yard.candidate !== null && sameFormat(project.format, yard.candidate),
)

const consequence = computed(() => {
  const following = project.timelines.filter((t) => !t.ownFormat)
  const own = project.timelines.filter((t) => t.ownFormat)
  const names = own.map((t) => `“${t.name}”`).join(', ')
  const changes = following.length
    ? `Setting it changes ${following.length === 1 ? 'the timeline that follows' : `${following.length} timelines that follow`} the project.`
    : ''
  const stays = own.length
    ? ` ${names} ${own.length === 1 ? 'has its own format and stays' : 'have their own and stay'}.`
    : ''
  return `${changes}${stays} The rate is costly to change once clips are placed; the size is not.`
})

/** How the format that is looked at came to be: the last way of trying one, else the ranking. */
const triedBy = ref<{ text: string; setBy: 'typed' | 'standard' } | null>(null)
function tryFormat(format: Format, setBy: 'typed' | 'standard') {
  yard.looked = format
  triedBy.value = { text: formatText(format), setBy }
}
function set() {
  const format = yard.candidate
  if (format)
    yard.choose(
      format,
      triedBy.value?.text === formatText(format) ? triedBy.value.setBy : yard.originOf(format),
    )
}

const copied = ref(false)
async function copyLog() {
  await navigator.clipboard.writeText(logText(project.doc!.project.name, project.doc!.project.decisions))
  copied.value = true
}
</script>

<template>
  <div v-if="yard.ballot.blocs.length === 0" class="empty">
    <h1>No footage stands in the yard yet</h1>
    <p>
      The format is chosen from what the clips are.
      {{
        project.clips.length
          ? 'Stills and sound never decide it: take in a clip with moving pictures.'
          : 'Take clips in first.'
      }}
    </p>
    <RouterLink :to="{ name: 'arrivals' }">To Arrivals</RouterLink>
  </div>
  <div v-else class="place">
    <section class="left">
      <div class="title">
        <h1>Where the footage stands</h1>
        <span class="quiet">{{ runningTime(seconds) }} in {{ votes }} clips{{ silent }}</span>
      </div>
      <YardPicture />
      <TollTable />
    </section>
    <aside class="sheet" aria-label="Candidates">
      <div class="title">
        <h1>Candidates</h1>
        <span class="leans">
          <span class="quiet">lean</span>
          <button
            v-for="lean in Lean.options"
            :key="lean"
            class="word"
            :aria-pressed="yard.lean === lean"
            @click="yard.setLean(lean)"
          >
            {{ lean }}
          </button>
        </span>
      </div>
      <div class="actions">
        <Button type="primary" :disabled="!yard.candidate || settled" @click="set">{{
          settled ? 'This is the project’s format' : 'Set as project format'
        }}</Button>
        <FormatForm :looked="yard.candidate" @try="tryFormat" @deliver="yard.deliver" />
      </div>
      <p v-if="project.doc!.project.deliverables.length" class="delivered">
        delivered:
        <span v-for="format in project.doc!.project.deliverables" :key="formatText(format)" class="figures"
          >{{ formatName(format) }}
          <button
            class="word"
            :aria-label="`Do not deliver ${formatName(format)}`"
            @click="yard.deliverNot(format)"
          >
            ×
          </button></span
        >
      </p>
      <p class="quiet small">{{ consequence }}</p>
      <ol>
        <li v-if="!inList && yard.price" class="looked">
          <button class="candidate" aria-current="true">
            <span class="line"
              ><b class="figures">{{ formatName(yard.price.format) }}</b
              ><span class="quiet"
                >untouched <b class="figures">{{ percent(yard.price.untouchedShare) }}</b> score
                <b class="figures">{{ yard.price.score.toFixed(2) }}</b></span
              ></span
            >
            <ShareBar :shares="yard.price.shareByGrade" />
            <span class="reason">{{ yard.price.reason }}</span>
          </button>
        </li>
        <li
          v-for="candidate in shown"
          :key="formatText(candidate.format)"
          :class="{ looked: isLooked(candidate.format) }"
        >
          <button
            class="candidate"
            :aria-current="isLooked(candidate.format)"
            @click="yard.looked = candidate.format"
          >
            <span class="line">
              <b class="figures" :title="tradeName(candidate.format) ?? undefined">{{
                formatName(candidate.format)
              }}</b>
              <span class="quiet"
                >untouched <b class="figures">{{ percent(candidate.untouchedShare) }}</b> score
                <b class="figures">{{ candidate.score.toFixed(2) }}</b></span
              >
            </span>
            <ShareBar :shares="candidate.shareByGrade" />
            <span class="reason">{{ candidate.reason }}</span>
          </button>
        </li>
      </ol>
      <details v-if="yard.candidate && otherRates.length">
        <summary>
          Cadence: how {{ otherRates.length }} other
          {{ otherRates.length === 1 ? 'rate lands' : 'rates land' }} on {{ rateName(yard.candidate.rate) }}
        </summary>
        <CadenceStrip
          v-for="rate in otherRates"
          :key="rateName(rate)"
          :source="rate"
          :timeline="yard.candidate.rate"
        />
      </details>
      <WeightsForm />
      <details v-if="project.doc!.project.decisions.length">
        <summary>Decision log, {{ project.doc!.project.decisions.length }}</summary>
        <p v-for="decision in [...project.doc!.project.decisions].reverse()" :key="decision.at" class="small">
          <span class="figures">{{ decision.at.slice(0, 16).replace('T', ' ') }}</span>
          {{ formatName(decision.format) }}, {{ decision.setBy }}. {{ decision.reason }}
        </p>
        <Button size="small" @click="copyLog">{{ copied ? 'Copied' : 'Copy the log' }}</Button>
      </details>
    </aside>
  </div>
</template>

<style scoped>
.place {
  height: 100%;
  display: grid;
  grid-template-columns: minmax(0, 1fr) 470px;
}
.left {
  display: grid;
  grid-template-rows: auto minmax(0, 1.6fr) minmax(0, 1fr);
  padding: 14px 20px 0;
  min-height: 0;
}
.title {
  display: flex;
  gap: 14px;
  align-items: baseline;
}
.leans {
  margin-left: auto;
}
ol {
  list-style: none;
  padding: 0;
  margin-top: 8px;
  border-top: 1px solid var(--ink);
}
li {
  border-bottom: 1px solid var(--line);
}
.candidate {
  all: unset;
  display: flex;
  flex-direction: column;
  gap: 5px;
  width: 100%;
  box-sizing: border-box;
  padding: 8px 0 8px 12px;
  cursor: pointer;
}
.candidate:focus-visible {
  outline: 2px solid var(--accent);
}
.looked {
  box-shadow: inset 3px 0 var(--accent);
  background: var(--paper);
}
.line {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
}
.line > b {
  font-size: 15px;
}
.line .quiet b {
  color: var(--ink);
}
.actions {
  display: flex;
  gap: 8px;
  padding: 10px 0 4px;
  flex-wrap: wrap;
}
.delivered {
  padding-top: 4px;
}
.small {
  font-size: 12px;
  padding-top: 4px;
}
.empty {
  max-width: 50ch;
  margin: 80px auto;
  display: flex;
  flex-direction: column;
  gap: 12px;
}
summary {
  cursor: pointer;
  padding-top: 8px;
}
</style>
