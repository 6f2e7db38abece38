<script setup lang="ts">
import { dayAndClock } from '../../dates'
import { computed, nextTick, ref } from 'vue'
import { useObjectUrl } from '@vueuse/core'
import { formatName, tradeName } from '../../../core/format/format'
import type { ProjectEntry } from '../../../storage/projects'
import { counted, fileSize, runningTime } from '../../../core/words/figures'

/** A project in the list: a picture of it, what it holds, what is decided, when it was opened, and what can be done with it. */
const { entry } = defineProps<{ entry: ProjectEntry }>()
const emit = defineEmits<{ rename: [name: string]; duplicate: []; backUp: []; remove: [] }>()
const picture = useObjectUrl(() => entry.picture ?? undefined)
/** As large as it goes in its box, in the shape in which it is meant to be seen. */
const shape = computed(() => {
  const width = Math.min(112, 63 * entry.aspect)
  return { width: `${width}px`, height: `${width / entry.aspect}px` }
})
const naming = ref<string | null>(null)
const field = ref<HTMLInputElement>()
async function beginNaming() {
  naming.value = entry.name
  await nextTick()
  field.value?.select()
}
function named() {
  if (naming.value !== null && naming.value.trim() && naming.value !== entry.name)
    emit('rename', naming.value)
  naming.value = null
}
const opened = computed(() => {
  const at = entry.opening?.openedAt
  return at ? `opened ${dayAndClock(at)}` : `made ${dayAndClock(entry.createdAt)}`
})
const footage = computed(() =>
  entry.opening?.seconds ? `${runningTime(entry.opening.seconds)} · ${fileSize(entry.opening.bytes)}` : '',
)
</script>

<template>
  <div class="recent">
    <RouterLink class="open" :to="{ name: 'arrivals', params: { id: entry.id } }">
      <span class="picture"><img v-if="picture" :src="picture" alt="" :style="shape" /></span>
      <span class="what">
        <b v-if="naming === null" class="ellipsis">{{ entry.name }}</b>
        <input
          v-else
          ref="field"
          v-model="naming"
          :aria-label="`Name of ${entry.name}`"
          @click.prevent
          @keydown.enter.prevent="named"
          @keydown.escape="naming = null"
          @blur="named"
        />
        <span class="quiet">{{ opened }}</span>
      </span>
      <span class="what">
        <span v-if="entry.format" class="figures" :title="tradeName(entry.format) ?? undefined">{{
          formatName(entry.format)
        }}</span>
        <span v-else>format not chosen</span>
        <span class="quiet">{{
          entry.format ? 'decided' : entry.clips ? 'the Yard can price it' : 'nothing arrived yet'
        }}</span>
      </span>
      <span class="what">
        <span
          >{{ counted(entry.clips, 'clip') }},
          {{ entry.timelines ? counted(entry.timelines, 'timeline') : 'no timeline' }}</span
        >
        <span class="quiet figures">{{ footage }}</span>
      </span>
    </RouterLink>
    <span class="ways">
      <button class="word" :aria-label="`Rename ${entry.name}`" @click="beginNaming">rename</button>
      <button class="word" :aria-label="`Duplicate ${entry.name}`" @click="emit('duplicate')">
        duplicate
      </button>
      <button class="word" :aria-label="`Back up ${entry.name}`" @click="emit('backUp')">back up</button>
      <button class="word" :aria-label="`Delete ${entry.name}`" @click="emit('remove')">delete</button>
    </span>
  </div>
</template>

<style scoped>
.recent {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 128px;
  gap: 16px;
  align-items: center;
  padding: 8px 0;
}
.open {
  display: grid;
  grid-template-columns: 112px minmax(0, 1fr) 180px 190px;
  gap: 16px;
  align-items: center;
  color: var(--ink);
  text-decoration: none;
}
.open:hover b {
  text-decoration: underline;
}
.ways {
  display: grid;
  grid-template-columns: auto auto;
  justify-items: start;
  font-size: 12.5px;
}
.picture {
  height: 63px;
  background: var(--ground);
  display: flex;
  align-items: center;
  justify-content: center;
  overflow: hidden;
}
.what {
  display: flex;
  flex-direction: column;
  gap: 2px;
  min-width: 0;
}
input {
  font: inherit;
  font-weight: 600;
  color: var(--ink);
  background: var(--sheet);
  border: 1px solid var(--accent);
}
</style>
