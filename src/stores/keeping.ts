import { defineStore } from 'pinia'
import { ref, shallowRef } from 'vue'
import { type Room, type Standing, askToKeep, roomNow, watchStanding } from '../storage/state'

/** How the browser keeps what is made here: whether it can, how much, and for how long. */
export const useKeeping = defineStore('keeping', () => {
  const standing = ref<Standing>('open')
  const room = shallowRef<Room | null>(null)
  watchStanding((now) => (standing.value = now))

  async function measure(): Promise<void> {
    room.value = await roomNow().catch(() => null)
  }
  /** Asks for what is kept to stay; browsers that decide by themselves ask nobody. */
  async function ask(): Promise<void> {
    await askToKeep().catch(() => false)
    await measure()
  }
  return { standing, room, measure, ask }
})
