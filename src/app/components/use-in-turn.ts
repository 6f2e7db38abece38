import { type Ref, ref } from 'vue'
import { nextTurn } from '../../media/turns'

/** Whether a part is shown: at once, or where it is much, in a turn of its own, so that the rest does not wait for it. */
export function useInTurn(isMuch: boolean): Ref<boolean> {
  const isShown = ref(!isMuch)
  if (isMuch) void nextTurn().then(() => (isShown.value = true))
  return isShown
}
