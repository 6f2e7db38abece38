<script setup lang="ts">
import { computed, defineAsyncComponent, ref } from 'vue'
import { counted, runningTime } from '../../../core/words/figures'
import { useProject } from '../../../stores/document/project'
import { useYard } from '../../../stores/yard'
import Candidates from './Candidates.vue'
import DecisionList from './DecisionList.vue'
import MotionPair from './motion/MotionPair.vue'
import PayDocket from './docket/PayDocket.vue'
import TollTable from './tolls/TollTable.vue'
import PlaceLayout from '../../components/PlaceLayout.vue'
import { useInTurn } from '../../components/use-in-turn'
import Trying from './Trying.vue'
import WeightsForm from './WeightsForm.vue'
import YardPicture from './picture/YardPicture.vue'

const ChartSheet = defineAsyncComponent(() => import('./ChartSheet.vue'))

const project = useProject()
/** The table of thousands of clips comes after the drawing. */
const isTabled = useInTurn(project.clips.length)
const yard = useYard()

const seconds = computed(() => yard.ballot.blocs.reduce((sum, bloc) => sum + bloc.seconds, 0))
const votes = computed(() => yard.ballot.blocs.reduce((sum, bloc) => sum + bloc.ids.length, 0))
const silent = computed(() => {
  const count = (why: string) => yard.ballot.excluded.filter((e) => e.why === why).length
  const parts = [
    counted(count('still'), 'still'),
    counted(count('sound'), 'sound'),
    counted(count('not-read') + count('no-duration'), 'unread file'),
    `${count('left-out')} left out`,
  ].filter((part) => !part.startsWith('0 '))
  return parts.length ? `; ${parts.join(', ')} do not vote` : ''
})

const views = ['candidates', 'motion', 'charts', 'weights', 'log'] as const
const view = ref<(typeof views)[number]>('candidates')
const opened = ref<string | null>(null)
const clip = computed(() => (opened.value ? (project.doc?.clips[opened.value] ?? null) : null))
</script>

<template>
  <div v-if="yard.ballot.blocs.length === 0 && yard.ranking.length === 0" class="empty">
    <h1>No footage stands in the yard yet</h1>
    <p>The format is chosen from what the clips are. Take clips in first.</p>
    <RouterLink :to="{ name: 'arrivals' }">To Arrivals</RouterLink>
  </div>
  <PlaceLayout v-else :docket-width="470">
    <section class="left">
      <div class="title">
        <h1>Where the footage stands</h1>
        <span v-if="votes" class="quiet"
          >{{ runningTime(seconds) }} in {{ counted(votes, 'clip') }}{{ silent }}</span
        >
        <span v-else class="quiet">
          Stills and sound never decide a format: what is delivered does, or what the region has.</span
        >
      </div>
      <YardPicture />
      <TollTable v-if="isTabled" v-model:opened="opened" />
    </section>
    <template #docket>
      <aside v-if="clip" class="sheet" aria-label="Docket" @keydown.esc="opened = null">
        <PayDocket :clip="clip" @leave="opened = null" />
      </aside>
      <aside v-else class="sheet" aria-label="Candidates">
        <Trying />
        <div class="views" role="group" aria-label="What is shown">
          <button
            v-for="name in views"
            :key="name"
            class="word"
            :aria-pressed="view === name"
            @click="view = name"
          >
            {{ name
            }}<template v-if="name === 'log' && project.opened.project.decisions.length">
              &nbsp;{{ project.opened.project.decisions.length }}</template
            >
          </button>
        </div>
        <Candidates v-if="view === 'candidates'" />
        <MotionPair v-else-if="view === 'motion'" />
        <ChartSheet v-else-if="view === 'charts'" />
        <WeightsForm v-else-if="view === 'weights'" />
        <DecisionList v-else><RouterLink :to="{ name: 'log' }">as a sheet to print</RouterLink></DecisionList>
      </aside>
    </template>
  </PlaceLayout>
</template>

<style scoped>
.left {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  grid-template-rows: auto minmax(0, 1.6fr) minmax(0, 1fr);
  padding: 14px 20px 0;
  min-height: 0;
}
.title {
  display: flex;
  gap: 14px;
  align-items: baseline;
}
.views {
  display: flex;
  margin: 6px -6px 4px;
}
.views .word {
  padding: 0 5px;
}
.empty {
  max-width: 50ch;
  margin: 80px auto;
  display: flex;
  flex-direction: column;
  gap: 12px;
}
</style>
