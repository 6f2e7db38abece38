<script setup lang="ts">
import { Input } from 'ant-design-vue'
import { nextTick, ref, watch } from 'vue'

/**
 * A field whose text counts when it is left or Enter is pressed, not at every letter; Escape puts the old text back. Text that was not
 * taken does not stay: the field shows what is set.
 */
const props = defineProps<{ text: string; label: string; placeholder?: string }>()
const emit = defineEmits<{ commit: [text: string] }>()
const draft = ref(props.text)
watch(
  () => props.text,
  (text) => (draft.value = text),
)
function commit() {
  if (draft.value === props.text) return
  emit('commit', draft.value)
  void nextTick(() => (draft.value = props.text))
}
</script>

<template>
  <Input
    v-model:value="draft"
    :aria-label="label"
    :placeholder="placeholder"
    @blur="commit"
    @press-enter="commit"
    @keydown.esc="draft = text"
  />
</template>
