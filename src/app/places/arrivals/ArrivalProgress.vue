<script setup lang="ts">
import { Button } from 'ant-design-vue'
import { computed } from 'vue'
import { useArrivals } from '../../../stores/arrivals/arrivals'
import { fileSize } from '../../../core/words/figures'

/** What is on its way: files that grow on the siding, and the reading of those that came. */
const arrivals = useArrivals()
const left = computed(() => {
  const { read, total, startedAt } = arrivals.progress
  const perFile = (Date.now() - startedAt) / Math.max(1, read)
  return read > 0 ? `about ${Math.ceil(((total - read) * perFile) / 1000)} s left` : ''
})
</script>

<template>
  <div v-for="file in arrivals.growing" :key="file.id" class="progress">
    <b>{{ file.name }}</b> is arriving on the siding:
    <span class="figures"
      >{{ fileSize(file.sizeBytes)
      }}{{ file.expectedBytes ? ` of ${fileSize(file.expectedBytes)}` : ' so far' }}</span
    >
    <progress
      v-if="file.expectedBytes"
      :value="file.sizeBytes"
      :max="file.expectedBytes"
      :aria-label="`${file.name} arriving`"
    />
    <span class="quiet">read when it rests</span>
  </div>
  <div v-if="arrivals.progress.running" class="progress" role="status">
    Reading <b class="figures">{{ arrivals.progress.read }} of {{ arrivals.progress.total }}</b
    >, {{ fileSize(arrivals.progress.bytes) }}
    <progress :value="arrivals.progress.read" :max="arrivals.progress.total" aria-label="Files read" />
    <span class="quiet">{{ left }}</span>
    <Button size="small" @click="arrivals.cancel">Stop</Button>
  </div>
</template>

<style scoped>
.progress {
  border: 1px dashed var(--line);
  padding: 8px 14px;
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
