<script setup lang="ts">
import { Button, Modal } from 'ant-design-vue'
import { onMounted, ref, shallowRef } from 'vue'
import { counted } from '../../../core/words/figures'
import { type Restorable, useProjects } from '../../../stores/projects'

/** What is in a backup beside what is here: the same, other, not here; and which of it comes back. */
const props = defineProps<{ file: File }>()
const emit = defineEmits<{ close: [] }>()
const projects = useProjects()
const offered = shallowRef<readonly Restorable[] | null>(null)
const taken = ref<Set<number>>(new Set())
onMounted(async () => {
  offered.value = await projects.open(props.file)
  if (offered.value.length === 0) return emit('close')
  // What is here already need not come twice.
  taken.value = new Set(offered.value.flatMap(({ state }, i) => (state === 'not-here' ? [i] : [])))
})
const words: Record<Restorable['state'], string> = {
  same: 'the same is here',
  differs: 'here it is another',
  'not-here': 'not here',
  unreadable: 'cannot be read',
}
function toggle(i: number) {
  const next = new Set(taken.value)
  if (!next.delete(i)) next.add(i)
  taken.value = next
}
async function restore() {
  await projects.restore((offered.value ?? []).filter((_, i) => taken.value.has(i)))
  emit('close')
}
</script>

<template>
  <Modal v-if="offered" open :footer="null" :width="620" :title="`In ${file.name}`" @cancel="emit('close')">
    <ul>
      <li v-for="(restorable, i) in offered" :key="i">
        <label>
          <input
            type="checkbox"
            :checked="taken.has(i)"
            :disabled="restorable.state === 'unreadable'"
            @change="toggle(i)"
          />
          <b>{{ restorable.name }}</b>
          <span class="quiet">{{ words[restorable.state] }}</span>
        </label>
        <ul v-if="restorable.says.length" class="says quiet">
          <li v-for="line in restorable.says.slice(0, 6)" :key="line">{{ line }}</li>
          <li v-if="restorable.says.length > 6">and {{ restorable.says.length - 6 }} more</li>
        </ul>
      </li>
    </ul>
    <p class="quiet">Each comes back as a project of its own: nothing here is overwritten.</p>
    <div class="foot">
      <Button type="primary" :disabled="taken.size === 0" @click="restore"
        >Bring back {{ counted(taken.size, 'project') }}</Button
      >
      <Button @click="emit('close')">Leave it</Button>
    </div>
  </Modal>
</template>

<style scoped>
ul {
  list-style: none;
}
li {
  border-bottom: 1px solid var(--line);
  padding: 5px 0;
}
label {
  display: flex;
  gap: 8px;
  align-items: center;
}
.says {
  padding-left: 24px;
  font-size: 12px;
}
.says li {
  border: 0;
  padding: 0;
}
.foot {
  display: flex;
  gap: 8px;
  padding-top: 14px;
}
</style>
