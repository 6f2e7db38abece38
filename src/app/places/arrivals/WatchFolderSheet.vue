<script setup lang="ts">
import { Button, Checkbox, Modal } from 'ant-design-vue'
import { computed, ref, watch } from 'vue'
import { useArrivals } from '../../../stores/arrivals/arrivals'
import { useCard } from '../../../stores/card'
import { counted, fileSize } from '../../../core/words/figures'

const open = defineModel<boolean>('open', { required: true })
const arrivals = useArrivals()
const card = useCard()

/** What rests is chosen unless the editor says otherwise; what comes to rest meanwhile joins. */
const declined = ref<Set<string>>(new Set())
watch(open, (isOpen) => {
  if (!isOpen) return
  declined.value = new Set()
  arrivals.watchSiding()
})
/** A card of thousands is taken in as a whole; so many are there to be left out by hand. */
const mostShown = 500
const wanted = computed(() => arrivals.waiting.filter((file) => !declined.value.has(file.id)))
const bytes = computed(() => wanted.value.reduce((sum, file) => sum + file.sizeBytes, 0))

function toggle(id: string) {
  if (!declined.value.delete(id)) declined.value.add(id)
}
function takeIn() {
  open.value = false
  void arrivals.takeFromSiding(wanted.value)
}
</script>

<template>
  <Modal v-model:open="open" title="The siding" :footer="null" :width="560">
    <p v-if="card.trouble" role="alert">{{ card.trouble }}</p>
    <Checkbox v-model:checked="arrivals.following">Take files in as soon as they rest on the siding</Checkbox>
    <p v-if="!card.trouble && arrivals.waiting.length === 0" class="quiet">
      Everything on the siding has been taken in: {{ card.files.length }} files.
    </p>
    <details v-if="card.bad.length">
      <summary>{{ counted(card.bad.length, 'entry', 'entries') }} of the card not listed</summary>
      <ul class="bad">
        <li v-for="entry in card.bad" :key="entry.place">
          <span>{{ entry.place === '.' ? 'the card' : entry.place }}</span>
          <span class="quiet">{{ entry.why }}</span>
        </li>
      </ul>
    </details>
    <template v-if="arrivals.waiting.length">
      <ul>
        <li v-for="file in arrivals.waiting.slice(0, mostShown)" :key="file.id">
          <Checkbox :checked="!declined.has(file.id)" @change="toggle(file.id)"
            >{{ file.folder ? `${file.folder}/` : '' }}{{ file.name }}</Checkbox
          >
          <span class="figures quiet">{{ fileSize(file.sizeBytes) }}</span>
        </li>
      </ul>
      <p v-if="arrivals.waiting.length > mostShown" class="quiet">
        and {{ arrivals.waiting.length - mostShown }} more
      </p>
      <div class="actions">
        <span class="quiet">{{ wanted.length }} of {{ arrivals.waiting.length }}, {{ fileSize(bytes) }}</span>
        <Button type="primary" :disabled="wanted.length === 0" @click="takeIn"
          >Take in {{ wanted.length }}</Button
        >
      </div>
    </template>
  </Modal>
</template>

<style scoped>
details {
  margin: 6px 0 12px;
}
.bad {
  border-top: 1px solid var(--line);
  padding-left: 14px;
  font-size: 12px;
}
ul {
  list-style: none;
  max-height: 420px;
  overflow: auto;
}
li {
  display: flex;
  justify-content: space-between;
  padding: 3px 4px;
  border-bottom: 1px solid var(--line);
}
.actions {
  display: flex;
  justify-content: space-between;
  align-items: center;
  padding-top: 12px;
}
</style>
