<script setup lang="ts">
import { computed, ref } from 'vue'
import { useProject } from '../../../stores/document/project'
import { counted } from '../../../core/words/figures'

/** One quiet line for files of a card that are no clips; their kinds and names are there on demand. */
const project = useProject()
const open = ref(false)

const words: Record<string, string> = {
  description: 'descriptions',
  index: 'indexes and other data',
  thumbnail: 'thumbnails',
  mark: 'marks, empty',
  text: 'texts',
}
const files = computed(() => Object.values(project.opened.leftAside))
const kinds = computed(() => {
  const byKind = new Map<string, string[]>()
  for (const { id, kind } of files.value) {
    const names = byKind.get(kind)
    // The slash that leads a place is for the store, not for the eye.
    if (names) names.push(id.slice(1))
    else byKind.set(kind, [id.slice(1)])
  }
  return [...byKind].sort((a, b) => b[1].length - a[1].length)
})
/** More names are told by their count. */
const mostNames = 40
</script>

<template>
  <div v-if="files.length" class="aside">
    <button class="word" :aria-expanded="open" @click="open = !open">
      {{ counted(files.length, 'file') }} left aside
    </button>
    <span v-if="!open" class="quiet">no clips: what a card keeps beside them</span>
    <dl v-else>
      <template v-for="[kind, names] in kinds" :key="kind">
        <dt>
          <span class="figures">{{ names.length }}</span> {{ words[kind] ?? kind }}
        </dt>
        <dd class="quiet">
          {{ names.slice(0, mostNames).join(', ')
          }}{{ names.length > mostNames ? ` and ${names.length - mostNames} more` : '' }}
        </dd>
      </template>
    </dl>
  </div>
</template>

<style scoped>
.aside {
  padding-right: 16px;
  font-size: 12px;
}
.word {
  padding-left: 0;
}
dl {
  display: grid;
  grid-template-columns: 170px minmax(0, 1fr);
  gap: 3px 12px;
  max-height: 150px;
  overflow: auto;
  border-top: 1px solid var(--line);
  padding-top: 4px;
}
dd {
  overflow-wrap: anywhere;
}
</style>
