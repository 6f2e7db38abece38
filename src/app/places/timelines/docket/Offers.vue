<script setup lang="ts">
import { Button } from 'ant-design-vue'
import { computed } from 'vue'
import { type PlacementProposal, type Taken, takenWords } from '../../../../core/check/proposals'
import type { Toll } from '../../../../core/toll/charge'
import { figure } from '../../../../core/words/figures'
import { useTimelines } from '../../../../stores/timelines'
import { useCut } from '../../../../stores/cut'

/** What is offered for what is in hand: what is usual, with its reason, and what loses least where that is another. */
const props = defineProps<{ proposals: readonly PlacementProposal[] }>()
const timelines = useTimelines()
const cut = useCut()
/** No more are spelled out than fit the docket beside what else it says. */
const most = 6

interface Line {
  readonly taken: Taken
  readonly words: string
  readonly inForce: Toll
  readonly then: Toll
}
const usual = computed<Line[]>(() =>
  props.proposals.flatMap(({ placement, inForce: settled, first }) =>
    first
      ? [{ taken: { placement, ...first }, words: first.reason, inForce: settled.toll, then: first.toll }]
      : [],
  ),
)
const least = computed<Line[]>(() =>
  props.proposals.flatMap(({ placement, inForce: settled, less }) =>
    less && less.toll.loss < settled.toll.loss - 1e-9
      ? [{ taken: { placement, ...less }, words: takenWords(less), inForce: settled.toll, then: less.toll }]
      : [],
  ),
)
const offers = computed(() =>
  [
    { title: 'Usual', action: 'Treat so', type: 'primary' as const, lines: usual.value },
    { title: 'Loses less', action: 'Treat so instead', type: 'default' as const, lines: least.value },
  ].filter(({ lines }) => lines.length > 0),
)
const take = (lines: readonly Line[]) => cut.treatAsProposed(lines.map(({ taken }) => taken))
</script>

<template>
  <section v-for="{ title, action, type, lines } in offers" :key="title" :aria-label="title">
    <h3>{{ title }}</h3>
    <ul>
      <li v-for="{ taken, words, inForce: tollNow, then } in lines.slice(0, most)" :key="taken.placement.id">
        <b v-if="proposals.length > 1" class="name">{{ timelines.nameOf(taken.placement) }}</b>
        {{ words }}
        <span class="quiet figures loss"
          >loss {{ figure(tollNow.loss, 3) }} → {{ figure(then.loss, 3) }}</span
        >
      </li>
    </ul>
    <p v-if="lines.length > most" class="quiet">and {{ lines.length - most }} more</p>
    <Button size="small" :type="type" @click="take(lines)">{{ action }}</Button>
  </section>
</template>

<style scoped>
section {
  border-left: 3px solid var(--accent);
  padding: 2px 0 4px 8px;
}
section + section {
  border-left-color: var(--line);
  margin-top: 6px;
}
h3 {
  margin: 0;
}
.name,
.loss {
  display: block;
  overflow-wrap: anywhere;
}
ul {
  list-style: none;
  padding: 0;
  margin: 0 0 6px;
}
li {
  padding: 3px 0;
}
</style>
