<script setup lang="ts">
import { useLocalStorage } from '@vueuse/core'
import { Button } from 'ant-design-vue'
import { computed, onMounted, ref, shallowRef, toRaw } from 'vue'
import { type Clip } from '../../../core/model/clip'
import { timesPlaced } from '../../../core/edit/parts'
import { counted, runningTime } from '../../../core/words/figures'
import { takeOut } from '../../../core/edit/operations'
import { useArrivals } from '../../../stores/arrivals/arrivals'
import { useCard } from '../../../stores/card'
import { useRelinking } from '../../../stores/relinking'
import { useMeasuring } from '../../../stores/measuring'
import { useMedia } from '../../../stores/media'
import { useProject } from '../../../stores/document/project'
import { useListKeys } from '../../components/list-keys'
import { csvOf } from '../../../core/inspect/csv'
import { fileNameOf } from '../../../core/words/file-name'
import { download } from '../../download'
import ArrivalProgress from './ArrivalProgress.vue'
import ClipDocket from './ClipDocket.vue'
import ClipList from './ClipList.vue'
import CompareSheet from './CompareSheet.vue'
import CorrectSheet from './CorrectSheet.vue'
import LeftAside from './LeftAside.vue'
import ListBar from './ListBar.vue'
import PlaceLayout from '../../components/PlaceLayout.vue'
import TakeOutSheet from './TakeOutSheet.vue'
import LookCloser from './closer/LookCloser.vue'
import RelinkSheet from './RelinkSheet.vue'
import ReplaceSheet from './ReplaceSheet.vue'
import WatchFolderSheet from './WatchFolderSheet.vue'
import StillOffers from './StillOffers.vue'
import {
  type Grouping,
  type Sorting,
  defaultColumns,
  grouped,
  sortedClips,
} from '../../../core/inspect/columns'
import { matches } from '../../../core/inspect/filter'
import { inspectionRows } from '../../../core/inspect/inspection'
import { filesFromDrop, filesFromPicker } from './intake'
import { majorities } from '../../../core/inspect/majority'

const project = useProject()
const arrivals = useArrivals()
const card = useCard()
const media = useMedia()
const measuring = useMeasuring()
const relinking = useRelinking()
/** More names are told by their count. */
const mostNames = 3
const namesChanged = computed(() => {
  const names = relinking.changedClips.map(({ clip }) => clip.name)
  const more = names.length - mostNames
  return `${names.slice(0, mostNames).join(', ')}${more > 0 ? ` and ${more} more` : ''}`
})
const query = ref('')
const dialog = ref<'siding' | 'correct' | 'compare' | 'closer' | 'relink' | null>(null)
const dropping = ref(false)
const sorting = ref<Sorting | null>(null)
const grouping = ref<Grouping | ''>('')
const chosenColumns = useLocalStorage<string[]>('arrivals-columns', [...defaultColumns])
const files = ref<HTMLInputElement>()
const folder = ref<HTMLInputElement>()
const list = ref<InstanceType<typeof ClipList>>()

onMounted(() => arrivals.watchSiding())
/** The list stands first; what surrounds it follows with the next frame, so that neither holds the page up for long. */
const listed = ref(false)
onMounted(() => requestAnimationFrame(() => setTimeout(() => (listed.value = true))))

const found = computed(() =>
  query.value.trim()
    ? project.clips.filter((clip) => matches(clip, query.value, project.format))
    : project.clips,
)
const ordered = computed(() => sortedClips(found.value, sorting.value))
const groups = computed(() =>
  grouping.value ? grouped(ordered.value, grouping.value) : [{ title: '', clips: ordered.value, seconds: 0 }],
)
const shown = computed(() => groups.value.flatMap((group) => group.clips))
const keys = useListKeys(() => shown.value, {
  move: (index) => list.value?.reveal(index),
  open: () => (dialog.value = chosen.value?.reading?.video ? 'closer' : null),
})
const chosen = computed(() => {
  const clip = shown.value[keys.at.value]
  return clip && (keys.selected.value.size === 0 || keys.selected.value.has(clip.id)) ? clip : null
})
const selectedClips = computed(() => shown.value.filter((clip) => keys.selected.value.has(clip.id)))
/** Whether anything came in that a format can be weighed by: who is new is told where to go on. */
const moves = computed(() => project.clips.some((clip) => clip.reading?.kind === 'video' && !clip.fault))
const correctable = computed(() => selectedClips.value.filter((clip) => clip.reading?.video))
const summary = computed(() => {
  const video = shown.value.filter((clip) => clip.reading?.kind === 'video' && !clip.fault)
  const seconds = video.reduce((sum, clip) => sum + (clip.reading?.durationSec ?? 0), 0)
  return `${counted(video.length, 'clip')}, ${runningTime(seconds)}${majorities(video)}`
})
/** Looked up, not watched one by one: of ten thousands each would be. */
const missing = computed(() => {
  const { doc } = project
  if (!media.missing.size || !doc) return 0
  return [...toRaw(media.missing)].filter((id) => doc.clips[id] && !relinking.isChanged(id)).length
})

async function drop(event: DragEvent) {
  dropping.value = false
  if (event.dataTransfer) await arrivals.takeFiles(await filesFromDrop(event.dataTransfer))
}
async function pick(event: Event) {
  const input = event.target as HTMLInputElement
  const picked = input.files ? filesFromPicker(input.files) : []
  input.value = ''
  await arrivals.takeFiles(picked)
}
function takeOutSelected() {
  const clips = project.clips.filter(({ id }) => keys.selected.value.has(id))
  const ids = clips.map(({ id }) => id)
  // What is placed goes along: that is told, and asked, before.
  if (clips.some(({ id }) => timesPlaced(project.opened, id) > 0)) leaving.value = clips
  else if (ids.length)
    project.edit(`take out ${counted(ids.length, 'clip')}`, (doc) => takeOut(doc, ids, true))
}
/** Clips that are placed and about to be taken out. */
const leaving = shallowRef<readonly Clip[]>([])
function saveCsv() {
  download(
    `${fileNameOf(project.opened.project.name)}_arrivals.csv`,
    csvOf(inspectionRows(shown.value, project.format)),
    'text/csv',
  )
}
</script>

<template>
  <PlaceLayout
    :docket-width="372"
    class="arrivals"
    :class="{ dropping }"
    @dragover.prevent="dropping = true"
    @dragleave.self="dropping = false"
    @drop.prevent="drop"
  >
    <section class="main" aria-label="Clips that arrived">
      <div class="bar">
        <h1>
          {{
            shown.length === project.clips.length
              ? `${shown.length} arrived`
              : `${shown.length} of ${project.clips.length}`
          }}
        </h1>
        <span class="quiet summary">{{ listed ? summary : '' }}</span>
        <RouterLink v-if="listed && !project.format && moves" class="on" :to="{ name: 'yard' }"
          >Which format? To the Yard</RouterLink
        >
        <Button type="primary" @click="files?.click()">Take in files…</Button>
        <Button @click="folder?.click()">A folder…</Button>
        <Button @click="dialog = 'siding'"
          >Siding
          <b v-if="arrivals.waiting.length" class="figures">&nbsp;{{ arrivals.waiting.length }}</b></Button
        >
        <input
          ref="files"
          data-test="files"
          class="visually-hidden"
          type="file"
          multiple
          aria-label="Files to take in"
          tabindex="-1"
          @change="pick"
        />
        <input
          ref="folder"
          class="visually-hidden"
          type="file"
          multiple
          webkitdirectory
          aria-label="Folder to take in"
          tabindex="-1"
          @change="pick"
        />
      </div>
      <ListBar
        v-model:query="query"
        v-model:grouping="grouping"
        v-model:chosen="chosenColumns"
        @csv="saveCsv"
      />
      <div v-if="relinking.changedClips.length" class="notice" role="status">
        <span
          ><b class="figures">{{ counted(relinking.changedClips.length, 'file') }}</b> changed on disk:
          {{ namesChanged }}. What was read of the old copy stands until it is read again; placements and
          corrections stay.</span
        >
        <Button
          size="small"
          :disabled="relinking.restedClips.length === 0"
          :loading="relinking.isReadingAgain"
          @click="relinking.readAgain()"
          >{{
            relinking.restedClips.length ? `Read ${relinking.restedClips.length} again` : 'Still being copied'
          }}</Button
        >
      </div>
      <div v-if="missing" class="notice" role="status">
        <span
          ><b class="figures">{{ missing }}</b> {{ missing === 1 ? 'file is' : 'files are' }} not at hand: the
          facts stand, the pictures need the files.</span
        >
        <Button size="small" @click="files?.click()">Show them again…</Button>
        <Button size="small" @click="dialog = 'relink'">Find them in a folder…</Button>
      </div>
      <StillOffers v-if="listed" />
      <ClipList
        v-if="project.clips.length"
        ref="list"
        v-model:sorting="sorting"
        :groups="groups"
        :clips="shown"
        :keys="keys"
        :shown-columns="chosenColumns"
        @remove="takeOutSelected"
      />
      <div v-else class="empty">
        <h2>Nothing has arrived yet</h2>
        <p>
          Drop files or folders here – clips, stills, numbered pictures, sound –, pick them, or take them from
          the siding:
          {{ arrivals.waiting.length }} files wait there.
        </p>
        <Button
          v-if="arrivals.waiting.length"
          type="primary"
          @click="arrivals.takeFromSiding(arrivals.waiting)"
          >Take in all {{ arrivals.waiting.length }} from the siding</Button
        >
        <p v-if="card.trouble" role="alert">{{ card.trouble }}</p>
      </div>
      <div v-if="selectedClips.length > 1" class="actions">
        <span
          ><b class="figures">{{ selectedClips.length }}</b> selected</span
        >
        <Button :disabled="correctable.length === 0" @click="dialog = 'correct'"
          >Correct {{ correctable.length }}…</Button
        >
        <Button :disabled="selectedClips.length > 6" @click="dialog = 'compare'">{{
          selectedClips.length > 6 ? 'Compare up to six' : `Compare ${selectedClips.length}`
        }}</Button>
        <Button
          :disabled="correctable.length === 0"
          @click="measuring.measureNow(correctable.map(({ id }) => id))"
          >Measure now</Button
        >
        <Button @click="takeOutSelected">Take out {{ selectedClips.length }}</Button>
      </div>
      <LeftAside v-if="listed" />
      <ArrivalProgress />
    </section>
    <template #docket>
      <ClipDocket
        v-if="listed"
        :clip="chosen"
        @correct="dialog = 'correct'"
        @closer="dialog = 'closer'"
        @remove="takeOutSelected"
      />
      <aside v-else class="sheet" aria-label="Docket" />
    </template>
    <template #sheets>
      <WatchFolderSheet :open="dialog === 'siding'" @update:open="dialog = null" />
      <CorrectSheet
        v-if="dialog === 'correct'"
        :clips="correctable.length ? correctable : chosen ? [chosen] : []"
        @close="dialog = null"
      />
      <CompareSheet v-if="dialog === 'compare'" :clips="selectedClips" @close="dialog = null" />
      <LookCloser v-if="dialog === 'closer' && chosen" :clip="chosen" @close="dialog = null" />
      <RelinkSheet v-if="dialog === 'relink'" @close="dialog = null" />
      <ReplaceSheet />
      <TakeOutSheet v-if="leaving.length" :clips="leaving" @close="leaving = []" />
    </template>
  </PlaceLayout>
</template>

<style scoped>
.on {
  white-space: nowrap;
}
.dropping {
  outline: 2px dashed var(--accent);
  outline-offset: -6px;
}
.main {
  display: flex;
  flex-direction: column;
  gap: 10px;
  padding: 14px 0 12px 20px;
  min-height: 0;
}
.bar,
.actions,
.notice {
  display: flex;
  gap: 10px;
  align-items: center;
  padding-right: 16px;
}
.notice span {
  flex: 1;
}
.summary {
  flex: 1;
}
.empty {
  margin: 60px auto;
  max-width: 46ch;
  display: flex;
  flex-direction: column;
  gap: 12px;
  align-items: flex-start;
  flex: 1;
}
</style>
