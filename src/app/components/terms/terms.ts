import { defineStore } from 'pinia'
import { ref, shallowRef } from 'vue'
import type { ClipInHand } from '../../../core/terms/term'

/** Where a term was asked for: what to stand beside, and where the keyboard goes back to. */
export interface TermRequest {
  readonly id: string
  readonly mark: HTMLElement
  /** By pointing it goes with the pointer; asked for, it stays. */
  readonly stays: boolean
}

/** The terms that are looked up: one beside its mark, all of them in a list, and the clip that they are told of. */
export const useTerms = defineStore('terms', () => {
  const asked = shallowRef<TermRequest | null>(null)
  const listed = ref(false)
  /** The entry that is open in the list. */
  const chosen = ref<string | null>(null)
  const inHand = shallowRef<ClipInHand | null>(null)

  function list(id: string | null = null): void {
    chosen.value = id
    listed.value = true
    asked.value = null
  }
  return { asked, listed, chosen, inHand, list }
})
