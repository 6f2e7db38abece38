<script setup lang="ts">
import { Button } from 'ant-design-vue'
import { computed, ref } from 'vue'
import { type Format, formatText } from '../../../../core/format/format'
import { parseFormat } from '../../../../core/format/parse'
import { toNumber } from '../../../../core/rational/rational'
import { useCut } from '../../../../stores/cut'

/** A test figure of any size, pixel shape, rate and scan, placed at the playhead for five seconds. */
const props = defineProps<{ format: Format }>()
const emit = defineEmits<{ close: [] }>()
const cut = useCut()
const text = ref(formatText(props.format))
const parsed = computed(() => parseFormat(text.value))
const seconds = 5
function place() {
  const format = parsed.value?.format
  if (!format) return
  const { width, height, pixelAspect, rate, scan } = format
  cut.placeFigure(
    { kind: 'figure', size: { width, height, pixelAspect }, rate, scan },
    Math.round(seconds * toNumber(props.format.rate)),
  )
  emit('close')
}
const vFocus = { mounted: (element: HTMLInputElement) => element.select() }
</script>

<template>
  <form class="figure" @submit.prevent="place" @keydown.stop @keydown.esc="emit('close')">
    <label
      >test figure of
      <input
        v-model="text"
        v-focus
        class="figures"
        aria-label="Format of the test figure"
        placeholder="1440x1080/4:3@50i"
    /></label>
    <Button size="small" type="primary" html-type="submit" :disabled="!parsed">Place it</Button>
    <Button size="small" @click="emit('close')">Leave it</Button>
    <span v-if="!parsed" class="quiet">size, pixel shape, rate and scan, as in 1440x1080/4:3@50i</span>
  </form>
</template>

<style scoped>
.figure {
  display: flex;
  gap: 8px;
  align-items: center;
  padding: 2px 0 4px;
  font-size: 12px;
}
input {
  width: 170px;
  height: 24px;
  border: 1px solid var(--quiet);
  background: var(--sheet);
  color: var(--ink);
}
</style>
