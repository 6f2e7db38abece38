<script setup lang="ts">
import { reasonOf } from '../core/words/reason'
import { defineAsyncComponent, ref, watch } from 'vue'
import { useIntervalFn, watchDebounced } from '@vueuse/core'
import { onBeforeRouteLeave, useRoute, useRouter } from 'vue-router'
import { useArrivals } from '../stores/arrivals/arrivals'
import { nextTurn } from '../media/turns'
import { useBackground } from '../stores/background'
import { useMedia } from '../stores/media'
import { useBrowserStorage } from '../stores/browser-storage'
import { useOffline } from './offline'
import { useProject } from '../stores/document/project'
import { useProjects } from '../stores/projects'
import { useTour } from '../stores/tour'
import { choiceService } from '../workers/services'
import AppHeader from './components/AppHeader.vue'
import HistorySheet from './components/HistorySheet.vue'
import NotDone from './components/NotDone.vue'
import OpenElsewhere from './components/OpenElsewhere.vue'
import PutAside from './components/PutAside.vue'
import StorageNotice from './components/StorageNotice.vue'
import SaveTrouble from './components/SaveTrouble.vue'
import VersionNotice from './components/VersionNotice.vue'
import WrongStart from './components/WrongStart.vue'
import { useHeldKey } from './keys/use-held-key'

const route = useRoute()
const router = useRouter()
const project = useProject()
const media = useMedia()
const arrivals = useArrivals()
const background = useBackground()
const projects = useProjects()
const browserStorage = useBrowserStorage()
const tour = useTour()
const TourCard = defineAsyncComponent(() => import('./tour/TourCard.vue'))
const offline = useOffline()
const trouble = ref<string | null>(null)
/** The header comes first and the place after it, in turns of their own: together they would hold the page up. */
const hasHeader = ref(false)
/** Whether the history is looked at. */
const history = ref(false)

watch(
  () => route.params.id,
  async (id) => {
    if (typeof id !== 'string') return
    trouble.value = null
    try {
      if (!(await project.open(id))) return await router.replace('/')
    } catch (error) {
      trouble.value = `The project cannot be opened. ${reasonOf(error)}`
      return
    }
    void browserStorage.ask()
    if (project.opened.project.card === 'demo') offline.keepDemo()
    await nextTurn()
    hasHeader.value = true
    await media.openProject(id)
    // The list is painted before its clips are gone through and its files looked for.
    await nextTurn()
    void projects.note()
    await nextTurn()
    await media.findFiles(project.clips)
    // A file that is replaced on the card is noticed wherever the editor works.
    if (project.clips.some(({ source }) => source.kind === 'siding')) arrivals.watchSiding()
    // Whoever opens a project will want it ranked: the worker starts meanwhile.
    choiceService()
    if (!arrivals.progress.running) void background.work()
  },
  { immediate: true },
)
// What came in meanwhile is told in the list of projects, and what changed is backed up where a folder was chosen.
void projects.findFolder()
const minutes = (count: number) => count * 60_000
useIntervalFn(() => void projects.backUpNow(), minutes(5))
watchDebounced(
  () => project.doc?.clips,
  () => void projects.note(),
  { debounce: 2000 },
)
useHeldKey({ begin: project.beginHold, end: project.endHold })
onBeforeRouteLeave(async () => {
  await projects.note()
  void projects.backUpNow()
})
</script>

<template>
  <p v-if="trouble" class="trouble" role="alert">
    {{ trouble }} <RouterLink to="/">All projects</RouterLink>
  </p>
  <div v-else-if="project.doc" class="house">
    <AppHeader v-model:history="history" />
    <div>
      <VersionNotice /><StorageNotice /><SaveTrouble /><NotDone /><OpenElsewhere /><PutAside /><WrongStart />
    </div>
    <main class="place">
      <RouterView v-if="hasHeader" />
      <TourCard v-if="hasHeader && tour.at !== null" />
      <HistorySheet v-if="history" @close="history = false" />
    </main>
  </div>
</template>

<style scoped>
.house {
  height: 100%;
  min-width: 1000px;
  min-height: 600px;
  display: grid;
  grid-template: 60px auto minmax(0, 1fr) / minmax(0, 1fr);
}
.place {
  position: relative;
  min-height: 0;
}
.trouble {
  padding: 40px;
}
</style>
