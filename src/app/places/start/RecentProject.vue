<script setup lang="ts">
import dayjs from 'dayjs'
import { computed } from 'vue'
import { useObjectUrl } from '@vueuse/core'
import { formatName, tradeName } from '../../../core/format/format'
import type { ProjectEntry } from '../../../storage/projects'
import { counted } from '../../../core/words/figures'

/** A project in the list: a picture of it, what it holds, and what is decided. */
const { entry } = defineProps<{ entry: ProjectEntry }>()
const picture = useObjectUrl(() => entry.picture ?? undefined)
/** As large as it goes in its box, in the shape in which it is meant to be seen. */
const shape = computed(() => {
  const width = Math.min(112, 63 * entry.aspect)
  return { width: `${width}px`, height: `${width / entry.aspect}px` }
})
</script>

<template>
  <RouterLink class="recent" :to="{ name: 'arrivals', params: { id: entry.id } }" :aria-label="entry.name">
    <span class="picture"><img v-if="picture" :src="picture" alt="" :style="shape" /></span>
    <span class="what">
      <b>{{ entry.name }}</b>
      <span class="quiet">{{ dayjs(entry.createdAt).format('YYYY-MM-DD HH:mm') }}</span>
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
      <span>{{ counted(entry.clips, 'clip') }}</span>
      <span class="quiet">{{
        entry.timelines ? counted(entry.timelines, 'timeline') : 'no timeline yet'
      }}</span>
    </span>
  </RouterLink>
</template>

<style scoped>
.recent {
  display: grid;
  grid-template-columns: 112px minmax(0, 1fr) 220px 160px;
  gap: 16px;
  align-items: center;
  padding: 8px 0;
  color: var(--ink);
  text-decoration: none;
}
.recent:hover b {
  text-decoration: underline;
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
</style>
