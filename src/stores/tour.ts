import { defineStore } from 'pinia'
import { ref } from 'vue'

/** The walk along the line: at which step it is; null while nobody walks. */
export const useTour = defineStore('tour', () => {
  const at = ref<number | null>(null)
  return { at }
})
