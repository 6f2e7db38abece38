<script setup lang="ts">
import { Button } from 'ant-design-vue'
import type { Proposal } from '../../../../core/check/better'
import { wayWords } from '../../../../core/treatment/words'
import { figure } from '../../../../core/words/figures'
import { useTimelines } from '../../../../stores/timelines'
import { useTreating } from '../../../../stores/treating'
import TermText from '../../../components/terms/TermText.vue'

/** Treatments that lose less than those in force: what each changes, what that saves, and taking all of them in one step. */
defineProps<{ proposals: readonly Proposal[]; title: string; action: string; named: boolean }>()
const timelines = useTimelines()
const treating = useTreating()
/** No more are spelled out than fit the docket beside what else it says. */
const most = 8
</script>

<template>
  <section aria-label="Best treatment">
    <h3><TermText :text="title" /></h3>
    <ul>
      <li v-for="{ placement, now, toll, way } in proposals.slice(0, most)" :key="placement.id">
        <b v-if="named" class="name">{{ timelines.nameOf(placement) }}</b>
        {{ wayWords(now.way) }} → {{ wayWords(way) }}
        <span class="quiet figures loss"
          >loss {{ figure(now.toll.loss, 3) }} → {{ figure(toll.loss, 3) }}</span
        >
      </li>
    </ul>
    <p v-if="proposals.length > most" class="quiet">and {{ proposals.length - most }} more</p>
    <Button size="small" type="primary" @click="treating.takeBest(proposals)">{{ action }}</Button>
  </section>
</template>

<style scoped>
section {
  border-left: 3px solid var(--accent);
  padding: 2px 0 4px 8px;
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
