import { defineStore } from 'pinia'
import { ref, shallowRef } from 'vue'
import { type Room, type StorageState, askToKeep, roomNow, watchState } from '../storage/state'

/** How the browser keeps what is made here: whether it can, how much, and for how long. */
export const useBrowserStorage = defineStore('browser-storage', () => {
  const state = ref<StorageState>('open')
  const room = shallowRef<Room | null>(null)
  watchState((storageState) => (state.value = storageState))

  async function measure(): Promise<void> {
    room.value = await roomNow().catch(() => null)
  }
  /** Asks for what is kept to stay; browsers that decide by themselves ask nobody. */
  async function ask(): Promise<void> {
    await askToKeep().catch(() => false)
    await measure()
  }
  return { state, room, measure, ask }
})
