<script setup lang="ts">
import { InputNumber } from 'ant-design-vue'

/** One weight: a number from 0 to 1, or to `most`. */
const { value, most = 1 } = defineProps<{ value: number; most?: number; label?: string }>()
const emit = defineEmits<{ set: [number] }>()

/** A comma is a point as well. */
const point = (text: string) => text.replace(',', '.')
function take(typed: unknown) {
  const number = Number(typed)
  if (typed !== null && typed !== '' && number >= 0 && number <= most) emit('set', number)
}
</script>

<template>
  <InputNumber
    class="weight"
    :value="value"
    :min="0"
    :max="most"
    :step="0.01"
    :parser="point"
    :aria-label="label"
    size="small"
    @change="take"
  />
</template>

<style scoped>
.weight {
  flex: none;
  width: 66px;
}
.weight :deep(input) {
  font-family: var(--mono);
}
</style>
