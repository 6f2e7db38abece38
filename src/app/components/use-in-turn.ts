import { type Ref, ref } from 'vue'
import { nextTurn } from '../../media/turns'

/** A part of more things than this comes in a turn of its own, so that the rest of a place does not wait for it. */
const mostAtOnce = 4000

/** Whether a part of so many things is there: at once, or where they are many, in a turn of its own. */
export function useInTurn(things: number): Ref<boolean> {
  const isThere = ref(things <= mostAtOnce)
  if (!isThere.value) void nextTurn().then(() => (isThere.value = true))
  return isThere
}
