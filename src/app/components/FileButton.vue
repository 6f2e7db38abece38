<script setup lang="ts">
import { Button } from 'ant-design-vue'
import { ref } from 'vue'

/** A button that lets a file be chosen. The same file may be chosen twice. */
defineProps<{ accept: string; name: string; small?: boolean }>()
const emit = defineEmits<{ file: [file: File] }>()
const input = ref<HTMLInputElement>()
function pick() {
  if (!input.value) return
  const file = input.value.files?.[0]
  input.value.value = ''
  if (file) emit('file', file)
}
</script>

<template>
  <Button :size="small ? 'small' : 'middle'" @click="input?.click()"><slot /></Button>
  <input
    ref="input"
    class="visually-hidden"
    type="file"
    :accept="accept"
    :aria-label="name"
    tabindex="-1"
    @change="pick"
  />
</template>
