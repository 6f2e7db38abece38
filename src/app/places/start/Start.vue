<script setup lang="ts">
import FileButton from '../../components/FileButton.vue'
import { Button, Input } from 'ant-design-vue'
import { onMounted, ref } from 'vue'
import { loadingService } from '../../../workers/services'
import { useRouter } from 'vue-router'
import { usualRate } from '../../../core/model/preferences'
import { rateName } from '../../../core/rate/rate'
import { useTerms } from '../../components/terms/terms'
import { useArrivals } from '../../../stores/arrivals/arrivals'
import { useMedia } from '../../../stores/media'
import { usePreferences } from '../../../stores/preferences'
import { useProject } from '../../../stores/document/project'
import { useProjects } from '../../../stores/projects'
import { storageError } from '../../../storage/error'
import { useTour } from '../../../stores/tour'
import type { IncomingFile } from '../../../stores/media'
import { filesFromDrop, filesFromPicker } from '../arrivals/intake'
import About from './About.vue'
import KeptProjects from './KeptProjects.vue'
import StorageNotice from '../../components/StorageNotice.vue'
import LackNotice from '../../components/LackNotice.vue'
import VersionNotice from '../../components/VersionNotice.vue'
import TallyMarks from '../../components/TallyMarks.vue'

const router = useRouter()
const tour = useTour()
const terms = useTerms()
const project = useProject()
const projects = useProjects()
const habits = usePreferences()
const arrivals = useArrivals()
const media = useMedia()
const name = ref('')
const trouble = ref<string | null>(null)
const about = ref(false)

onMounted(() => {
  // Whoever looks at the list is about to open one: the worker that reads it starts meanwhile.
  loadingService()
  project.list().catch((error: unknown) => (trouble.value = storageError(error)))
  void countDemo()
})

/** How many files the demo's card has; null until it is known. */
const demoFiles = ref<number | null>(null)
async function countDemo() {
  const answer = await fetch('/api/demo').catch(() => null)
  if (answer?.ok) demoFiles.value = ((await answer.json()) as { files: unknown[] }).files.length
}

/** What each place answers, for one who begins. */
const places = [
  [
    'Arrivals',
    'What came in, and what is wrong with it? Every file is read by ranges; each fact knows its origin.',
  ],
  [
    'Yard',
    'Which format, and what does it cost? Sizes and rates are priced for every clip, before the first cut.',
  ],
  [
    'Timelines',
    'What happens to each clip, and does it look right? Placed clips that differ are asked about, with figures.',
  ],
  ['Dispatch', 'What goes out, and is it what was asked? The cut is checked and handed over.'],
] as const

const create = () => router.push({ name: 'new', query: name.value.trim() ? { name: name.value.trim() } : {} })

/** The demo is a project like any other: its clips come in from the siding as they arrive there. */
async function openDemo(walks = false) {
  const id = await project.create({ name: 'The Ninth Bell', habits: habits.habits, card: 'demo' })
  await media.openProject(id)
  arrivals.following = true
  tour.at = walks ? 0 : null
  await router.push({ name: 'arrivals', params: { id } })
}

/** Clips of one's own: a project called as their folder, whose files are read at once. */
const folder = ref<HTMLInputElement>()
const dropping = ref(false)
async function take(files: readonly IncomingFile[]) {
  const [first] = files
  if (!first) return void (trouble.value = 'There are no files in it.')
  const id = await project.create({ name: first.folder.split('/')[0] ?? '', habits: habits.habits })
  await media.openProject(id)
  void arrivals.takeFiles(files)
  await router.push({ name: 'arrivals', params: { id } })
}
async function picked(event: Event) {
  const input = event.target as HTMLInputElement
  const files = input.files ? filesFromPicker(input.files) : []
  input.value = ''
  await take(files)
}
async function drop(event: DragEvent) {
  dropping.value = false
  if (event.dataTransfer) await take(await filesFromDrop(event.dataTransfer))
}

async function importProject(file: File) {
  const result = await project.importFile(file)
  if (!result.ok) trouble.value = result.error
  else await router.push({ name: 'arrivals', params: { id: result.id } })
}
</script>

<template>
  <main class="start">
    <VersionNotice />
    <LackNotice />
    <StorageNotice />
    <h1><TallyMarks :count="5" :height="26" /> Yard Tally</h1>
    <p class="lead">
      Clips from many cameras, one film. Read every file, see what each frame size and rate would cost,
      choose, place, check, hand over.
    </p>
    <section class="begin">
      <div
        :class="{ dropping }"
        @dragover.prevent="dropping = true"
        @dragleave.self="dropping = false"
        @drop.prevent="drop"
      >
        <h2>A folder of clips</h2>
        <p class="quiet">
          Choose it, or drop it here. Nothing in it is changed or copied; files are read where they are.
        </p>
        <Button type="primary" @click="folder?.click()">Choose your clips…</Button>
        <input
          ref="folder"
          class="visually-hidden"
          type="file"
          webkitdirectory
          multiple
          tabindex="-1"
          aria-label="A folder of clips"
          @change="picked"
        />
      </div>
      <form @submit.prevent="create">
        <h2>A delivery</h2>
        <div class="row">
          <Input v-model:value="name" placeholder="its name" aria-label="Name of the new project" />
          <Button html-type="submit">Begin…</Button>
        </div>
        <p class="quiet">
          Begun with <RouterLink :to="{ name: 'habits' }">your habits</RouterLink>:
          {{ habits.habits.mains ? `${habits.habits.mains} Hz` : 'region not known' }},
          {{ habits.habits.shape }}, {{ rateName(usualRate(habits.habits)) }} frames a second.
        </p>
      </form>
      <div>
        <h2>The demo</h2>
        <p class="quiet">
          A short film about a bell foundry: {{ demoFiles ?? 'some' }} files from many cameras and recorders.
        </p>
        <div class="row">
          <Button @click="openDemo()">Open the demo</Button>
          <Button @click="openDemo(true)">Walk along the line</Button>
        </div>
      </div>
    </section>
    <p v-if="trouble" role="alert" class="trouble">{{ trouble }}</p>
    <KeptProjects v-if="project.entries.length || projects.deleted" />
    <dl v-else class="line" aria-label="The four places">
      <div v-for="[place, asks] in places" :key="place">
        <dt>{{ place }}</dt>
        <dd class="quiet">{{ asks }}</dd>
      </div>
    </dl>
    <p class="quiet foot">
      <FileButton accept=".json,application/json" name="Project file" @file="importProject"
        >Import a project file…</FileButton
      >
      <span>It comes back as it was written; nothing here is overwritten.</span>
    </p>
    <p class="quiet">
      Free software: GPL-3.0-or-later. <Button size="small" type="text" @click="about = true">About…</Button>
      <Button size="small" type="text" @click="terms.list()">Terms explained…</Button>
    </p>
    <About v-model:open="about" />
  </main>
</template>

<style scoped>
.start {
  height: 100%;
  overflow: auto;
  max-width: 980px;
  margin: 0 auto;
  padding: 48px 24px;
  display: flex;
  flex-direction: column;
  gap: 28px;
}
h1 {
  font-size: 26px;
  display: flex;
  gap: 12px;
  align-items: center;
}
.lead {
  font-size: 16px;
  max-width: 60ch;
}
.begin {
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  border-top: 1px solid var(--ink);
  border-bottom: 1px solid var(--line);
}
.begin > * {
  padding: 18px 20px 22px 0;
  display: flex;
  flex-direction: column;
  gap: 10px;
  align-items: flex-start;
}
.begin > * + * {
  padding-left: 20px;
  border-left: 1px solid var(--line);
}
.row {
  display: flex;
  gap: 8px;
  width: 100%;
}
.line {
  display: grid;
  grid-template-columns: repeat(4, 1fr);
  gap: 20px;
}
.line div {
  border-top: 1px solid var(--line);
  padding-top: 10px;
}
.line dt {
  font-weight: 600;
  margin-bottom: 4px;
}
@media (max-width: 860px) {
  .begin,
  .line {
    grid-template-columns: 1fr;
  }
  .begin > * + * {
    border-left: 0;
    border-top: 1px solid var(--line);
    padding-left: 0;
  }
}
/* The words of a way stand over its controls. */
.foot {
  display: flex;
  gap: 12px;
  align-items: center;
}
.dropping {
  background: var(--sheet);
}
.trouble {
  color: var(--severe);
}
</style>
