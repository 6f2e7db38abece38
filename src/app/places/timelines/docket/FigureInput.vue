<script setup lang="ts">
import { ref, watch } from 'vue'

/** A figure that is typed, or stepped with the arrow keys; nothing where those in hand differ. It counts when it is left. */
const props = withDefaults(
  defineProps<{ label: string; value: number | null; unit?: string; step?: number; decimals?: number }>(),
  { unit: '', step: 1, decimals: 2 },
)
const emit = defineEmits<{ change: [value: number] }>()
const textOf = (value: number | null) => (value === null ? '' : String(Number(value.toFixed(props.decimals))))
const draft = ref(textOf(props.value))
watch(
  () => props.value,
  (value) => (draft.value = textOf(value)),
)
function commit() {
  const value = Number(draft.value.replace(',', '.'))
  if (draft.value.trim() !== '' && Number.isFinite(value) && draft.value !== textOf(props.value))
    emit('change', value)
  else draft.value = textOf(props.value)
}
function stepBy(by: number, event: KeyboardEvent) {
  event.preventDefault()
  const from = Number(draft.value) || 0
  emit('change', Number((from + by * props.step * (event.shiftKey ? 10 : 1)).toFixed(6)))
}
</script>

<template>
  <label class="figure">
    <span class="quiet">{{ label }}</span>
    <input
      v-model="draft"
      class="figures"
      inputmode="decimal"
      :placeholder="value === null ? 'differs' : ''"
      @blur="commit"
      @keydown.enter="commit"
      @keydown.esc.stop="draft = textOf(value)"
      @keydown.up="stepBy(1, $event)"
      @keydown.down="stepBy(-1, $event)"
    />
    <span v-if="unit" class="quiet">{{ unit }}</span>
  </label>
</template>

<style scoped>
.figure {
  display: inline-flex;
  align-items: center;
  gap: 4px;
  font-size: 12px;
}
input {
  width: 46px;
  height: 24px;
  padding: 0 4px;
  font-size: 12px;
  color: var(--ink);
  background: transparent;
  border: 0;
  border-bottom: 1px solid var(--quiet);
}
</style>
