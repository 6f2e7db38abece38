<script setup lang="ts">
import { Button, Input } from 'ant-design-vue'
import { computed, onMounted, ref } from 'vue'
import { runningTime } from '../../../core/choice/reason'
import { takeOut } from '../../../core/edit/operations'
import { useArrivals } from '../../../stores/arrivals'
import { useProject } from '../../../stores/project'
import { fileSize } from '../../figures'
import { useListKeys } from '../../components/list-keys'
import ClipDocket from './ClipDocket.vue'
import ClipList from './ClipList.vue'
import SidingSheet from './SidingSheet.vue'
import { filesFromDrop, filesFromPicker } from './intake'
import { matches } from './filter'
import { majorities } from './majority'

const project = useProject()
const arrivals = useArrivals()
const query = ref('')
const sidingOpen = ref(false)
const dropping = ref(false)
const files = ref<HTMLInputElement>()
const folder = ref<HTMLInputElement>()
const list = ref<InstanceType<typeof ClipList>>()

onMounted(() => arrivals.lookAtSiding())

const shown = computed(() => project.clips.filter((clip) => matches(clip, query.value, project.format)))
const keys = useListKeys(() => shown.value, {
  move: (index) => list.value?.reveal(index),
})
const chosen = computed(() => {
  const clip = shown.value[keys.at.value]
  return clip && (keys.selected.value.size === 0 || keys.selected.value.has(clip.id)) ? clip : null
})
const summary = computed(() => {
  const clips = shown.value.filter((clip) => clip.reading)
  const video = clips.filter((clip) => clip.reading!.kind === 'video' && !clip.fault)
  const seconds = video.reduce((sum, clip) => sum + (clip.reading!.durationSec ?? 0), 0)
  return `${video.length} clips, ${runningTime(seconds)}${majorities(video)}`
})
const left = computed(() => {
  const { read, total, startedAt } = arrivals.progress
  const perFile = (Date.now() - startedAt) / Math.max(1, read)
  return read > 0 ? `about ${Math.ceil(((total - read) * perFile) / 1000)} s left` : ''
})

async function drop(event: DragEvent) {
  dropping.value = false
  if (event.dataTransfer) await arrivals.takeFiles(await filesFromDrop(event.dataTransfer))
}
async function pick(event: Event) {
  const input = event.target as HTMLInputElement
  const picked = filesFromPicker(input.files!)
  input.value = ''
  await arrivals.takeFiles(picked)
}
function takeOutSelected() {
  const ids = [...keys.selected.value]
  if (ids.length)
    project.edit(`take out ${ids.length === 1 ? '1 clip' : `${ids.length} clips`}`, (doc) =>
      takeOut(doc, ids),
    )
}
</script>

<template>
  <div
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
        <span class="quiet summary">{{ summary }}</span>
        <Button type="primary" @click="files?.click()">Take in files…</Button>
        <Button @click="folder?.click()">A folder…</Button>
        <Button @click="sidingOpen = true"
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
      <div class="bar">
        <Input
          v-model:value="query"
          allow-clear
          placeholder="find by name or fact: 50p, interlaced, 10 bit, alpha …"
          aria-label="Find clips by name or fact"
        />
        <Button :disabled="keys.selected.value.size === 0" @click="takeOutSelected">Take out</Button>
      </div>
      <ClipList
        v-if="project.clips.length"
        ref="list"
        :clips="shown"
        :keys="keys"
        @remove="takeOutSelected"
      />
      <div v-else class="empty">
        <h2>Nothing has arrived yet</h2>
        <p>
          Drop files or folders here, pick them, or take them from the siding:
          {{ arrivals.siding.length }} files wait there.
        </p>
        <Button
          v-if="arrivals.waiting.length"
          type="primary"
          @click="arrivals.takeFromSiding(arrivals.waiting)"
          >Take in all {{ arrivals.waiting.length }} from the siding</Button
        >
        <p v-if="arrivals.sidingTrouble" role="alert">{{ arrivals.sidingTrouble }}</p>
      </div>
      <div v-if="arrivals.progress.running" class="progress" role="status">
        Reading <b class="figures">{{ arrivals.progress.read }} of {{ arrivals.progress.total }}</b
        >, {{ fileSize(arrivals.progress.bytes) }}
        <progress :value="arrivals.progress.read" :max="arrivals.progress.total" aria-label="Files read" />
        <span class="quiet">{{ left }}</span>
        <Button size="small" @click="arrivals.cancel">Stop</Button>
      </div>
    </section>
    <ClipDocket :clip="chosen" />
    <SidingSheet v-model:open="sidingOpen" />
  </div>
</template>

<style scoped>
.arrivals {
  height: 100%;
  display: grid;
  grid-template-columns: minmax(0, 1fr) 372px;
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
.bar {
  display: flex;
  gap: 10px;
  align-items: center;
  padding-right: 16px;
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
}
.progress {
  border: 1px dashed var(--line);
  padding: 10px 14px;
  margin-right: 16px;
  display: flex;
  gap: 12px;
  align-items: center;
}
progress {
  height: 6px;
  width: 180px;
  accent-color: var(--accent);
}
</style>
