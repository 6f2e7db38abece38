<script setup lang="ts">
import { Modal } from 'ant-design-vue'
import { computed } from 'vue'
import type { Clip } from '../../../core/model/clip'
import { useProject } from '../../../stores/document/project'
import { useRelinking } from '../../../stores/relinking'
import FileButton from '../../components/FileButton.vue'
import { rateLabel, uprightSizeName } from '../../../core/inspect/labels'

/** What is to stand in the place of a clip: a file, or a clip that is here, those of its kind and of the likest names first. */
const props = defineProps<{ clip: Clip }>()
const emit = defineEmits<{ close: [] }>()
const relinking = useRelinking()
const project = useProject()
const mostOffered = 100

const others = computed(() => {
  const { clip } = props
  const alike = ({ name }: Clip) => {
    let i = 0
    while (i < name.length && name[i] === clip.name[i]) i++
    return i
  }
  return project.clips
    .filter(
      ({ id, reading, parts }) =>
        id !== clip.id && parts.length === 0 && reading?.kind === clip.reading?.kind,
    )
    .map((other) => ({ other, alike: alike(other) }))
    .sort((a, b) => b.alike - a.alike)
    .slice(0, mostOffered)
    .map(({ other }) => other)
})
</script>

<template>
  <Modal
    open
    :footer="null"
    :width="520"
    :title="`Another in the place of ${clip.name}`"
    @cancel="emit('close')"
  >
    <p class="quiet">
      The graded one, the one of higher resolution: placements stay, and what changes is told first.
    </p>
    <FileButton
      accept="*"
      :name="`A file for the place of ${clip.name}`"
      @file="(file) => relinking.priceFile(clip, { file, folder: '' })"
      >A file…</FileButton
    >
    <ul v-if="others.length" aria-label="Or a clip that is here">
      <li v-for="other in others" :key="other.id">
        <button class="word" @click="relinking.price(clip, other, null)">{{ other.name }}</button>
        <span class="quiet figures">{{ uprightSizeName(other) }} · {{ rateLabel(other) }}</span>
      </li>
    </ul>
  </Modal>
</template>

<style scoped>
ul {
  list-style: none;
  max-height: 320px;
  overflow: auto;
  margin-top: 10px;
  border-top: 1px solid var(--line);
}
li {
  display: flex;
  justify-content: space-between;
  border-bottom: 1px solid var(--line);
}
</style>
