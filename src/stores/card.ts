import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { type BadEntry, CardChange, type ListedFile } from '../core/card/listing'

/** What stands on a card, as its events tell it: first all that is there, then what changes. */
export const useCard = defineStore('card', () => {
  const byId = shallowRef<ReadonlyMap<string, ListedFile>>(new Map())
  const files = computed<readonly ListedFile[]>(() => [...byId.value.values()])
  /** Entries that are not listed, and why. */
  const bad = shallowRef<readonly BadEntry[]>([])
  const trouble = ref<string | null>(null)

  let stream: EventSource | null = null
  let followed = ''

  /**
   * Follows a card; called again for the same it goes on as it is.
   * @param copy who follows: the stand-in for a card plays its arrival anew for each
   */
  function follow(card: string, copy: string): void {
    const url = `/api/${card}/events?copy=${encodeURIComponent(copy)}`
    if (stream && followed === url) return
    stream?.close()
    byId.value = new Map()
    bad.value = []
    trouble.value = null
    followed = url
    stream = new EventSource(url)
    // After a break all is told anew.
    let anew = true
    stream.onopen = () => {
      anew = true
      trouble.value = null
    }
    stream.onerror = () => (trouble.value = 'The siding cannot be reached; it is tried again.')
    stream.onmessage = ({ data }: MessageEvent<string>) => {
      const change = CardChange.safeParse(JSON.parse(data))
      if (!change.success) return
      const next = anew ? new Map<string, ListedFile>() : new Map(byId.value)
      anew = false
      for (const file of change.data.files) next.set(file.id, file)
      for (const id of change.data.gone) next.delete(id)
      byId.value = next
      if (change.data.bad) bad.value = change.data.bad
    }
  }

  return { files, bad, trouble, follow }
})
