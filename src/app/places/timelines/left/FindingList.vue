<script setup lang="ts">
import { watchDebounced } from '@vueuse/core'
import { Button } from 'ant-design-vue'
import { ref, shallowRef, watch } from 'vue'
import { RouterLink } from 'vue-router'
import type { Check } from '../../../../core/check/check'
import { type Becomes, type FindingGroup, findingGroups } from '../../../../core/check/findings'
import { outputsThatDiffer } from '../../../../core/dispatch/outputs'
import { type Timeline, placementsIn } from '../../../../core/model/timeline'
import { toNumber } from '../../../../core/rational/rational'
import { clockTime, figure, percent } from '../../../../core/words/figures'
import { useSelection } from '../../../../stores/selection'
import { useProject } from '../../../../stores/document/project'
import { useCut } from '../../../../stores/cut'
import GradeMark from '../../../components/GradeMark.vue'
import { useInTurn } from '../../../components/use-in-turn'

/** What happens on the timeline, by kind, the worst first: each with one action that says before what becomes of the whole. */
const props = defineProps<{ timeline: Timeline; check: Check }>()
const project = useProject()
const selection = useSelection()
const cut = useCut()

const groups = shallowRef<readonly FindingGroup[] | null>(null)
const outputs = shallowRef<ReturnType<typeof outputsThatDiffer>>([])
function gather() {
  groups.value = findingGroups(project.opened, props.timeline, props.check)
  outputs.value = outputsThatDiffer(project.opened, props.timeline, props.check)
}
const isTime = useInTurn(placementsIn(props.timeline).length)
watch(isTime, (is) => is && gather(), { immediate: true })
/** They follow a moment behind an edit: whoever trims on and on does not wait for them. */
watchDebounced(() => props.check, gather, { debounce: 60, maxWait: 400 })
const seconds = (frames: number) => frames / toNumber(props.check.format.rate)
/** The kind that is in hand. */
const at = ref<string | null>(null)
/** The kind that is being accepted, and the word with which. */
const accepting = ref<string | null>(null)
const word = ref('')

/** What changes of the whole, in as few words as say it. */
function becomesWords({ untouched, severe, heavy, loss }: Becomes): string {
  const sentenceFor = (name: string, [before, after]: readonly [number, number]) =>
    before === after ? '' : `${name} ${before} → ${after}`
  const share =
    percent(untouched[0]) === percent(untouched[1])
      ? ''
      : `untouched ${percent(untouched[0])} → ${percent(untouched[1])}`
  const parts = [share, sentenceFor('severe', severe), sentenceFor('heavy', heavy)].filter(Boolean)
  return parts.join(', ') || `loss ${figure(loss[0], 3)} → ${figure(loss[1], 3)}`
}

/** Takes all of a kind into hand, the playhead on the first. */
function show({ kind, placements }: FindingGroup) {
  at.value = kind
  selection.select(placements.map(({ id }) => id))
  const [first] = placements
  if (first) selection.goTo(first.start)
}
/** The next place at which something is found that is not accepted, after the playhead, and round again. */
function next() {
  const open = (groups.value ?? [])
    .filter(({ accepted }) => accepted === null)
    .flatMap(({ placements }) => placements)
  const sorted = [...new Map(open.map((placement) => [placement.id, placement])).values()].sort(
    (a, b) => a.start - b.start,
  )
  const there = sorted.find(({ start }) => start > selection.playhead) ?? sorted[0]
  if (!there) return
  selection.select([there.id])
  selection.goTo(there.start)
}
function accept(group: FindingGroup) {
  cut.accept(group, word.value.trim())
  accepting.value = null
  word.value = ''
}
defineExpose({ next })
</script>

<template>
  <div class="head">
    <h2 class="heading">what happens · untouched {{ percent(check.untouchedShare) }}</h2>
    <button v-if="groups?.length" class="word" aria-label="next finding" @click="next">›</button>
  </div>
  <ul class="ruled" aria-label="What happens">
    <li v-if="groups === null" class="quiet">What happens is gathered…</li>
    <li v-else-if="groups.length === 0 && outputs.length === 0" class="quiet">
      Nothing: every clip runs as it was recorded.
    </li>
    <li v-for="output in outputs" :key="output.deliverableId" class="finding">
      <b>Output differs</b>
      <p class="small">“{{ output.name }}” {{ output.says }}.</p>
      <p class="small quiet">with its format here: {{ becomesWords(output.becomes) }}</p>
      <Button class="wraps" size="small" @click="cut.runAs(output.format)"
        >Give the timeline its format</Button
      >
      <RouterLink class="word" :to="{ name: 'dispatch' }">to Dispatch</RouterLink>
    </li>
    <li
      v-for="group in groups"
      :key="group.kind"
      class="finding"
      :class="{ at: at === group.kind, accepted: group.accepted !== null }"
    >
      <button class="what" @click="show(group)">
        <span class="title"
          ><GradeMark :grade="group.grade" shape-only /> <b>{{ group.title }}</b></span
        >
        <span class="figures quiet">{{ clockTime(seconds(group.frames)) }}</span>
        <span class="small says">{{ group.says }}</span>
      </button>
      <p v-if="group.accepted !== null" class="small quiet">
        accepted{{ group.accepted ? `: ${group.accepted}` : '' }}
        <button class="word" @click="cut.accept(group, null)">open again</button>
      </p>
      <template v-else>
        <button
          v-for="help in [group.cure, group.less].filter((one) => one !== null)"
          :key="help.does"
          class="cure"
          @click="cut.cure(group, help)"
        >
          <template v-if="help === group.less">loses less: </template><b>{{ help.does }}</b
          >: {{ becomesWords(help.becomes) }}
        </button>
        <form v-if="accepting === group.kind" class="accept" @submit.prevent="accept(group)">
          <input
            v-model="word"
            aria-label="Why it is accepted"
            placeholder="why"
            @keydown.esc.stop="accepting = null"
          />
          <Button size="small" html-type="submit">Accept</Button>
        </form>
        <button v-else class="word" @click="accepting = group.kind">accept…</button>
      </template>
    </li>
  </ul>
</template>

<style scoped>
.head {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
  width: 100%;
  box-sizing: border-box;
  padding-right: 8px;
}
ul {
  flex: 3;
}
.wraps {
  height: auto;
  white-space: normal;
  text-align: left;
}
.what {
  all: unset;
  box-sizing: border-box;
  width: 100%;
  display: grid;
  grid-template-columns: 1fr auto;
  column-gap: 8px;
  cursor: pointer;
  min-height: 24px;
}
.what:focus-visible,
.cure:focus-visible {
  outline: 2px solid var(--accent);
  outline-offset: -2px;
}
.says {
  grid-column: 1 / -1;
}
.at {
  box-shadow: inset 3px 0 var(--accent);
  padding-left: 7px;
}
.accepted {
  opacity: 0.75;
}
.cure {
  all: unset;
  display: block;
  color: var(--accent);
  font-size: 12px;
  line-height: 1.3;
  padding: 3px 0;
  min-height: 18px;
  cursor: pointer;
}
.cure:hover {
  text-decoration: underline;
}
.accept {
  display: flex;
  gap: 4px;
}
.accept input {
  flex: 1;
  min-width: 0;
  height: 24px;
  font: inherit;
  font-size: 12px;
  border: 1px solid var(--quiet);
  background: var(--sheet);
  color: var(--ink);
}
.finding > .word {
  padding: 0;
  font-size: 11.5px;
}
</style>
