import { useLocalStorage, usePreferredDark } from '@vueuse/core'
import { computed } from 'vue'
import type { Edition } from './tokens'

/** Light or night: as the editor chose, else as the system is set. */
export function useEdition() {
  const chosen = useLocalStorage<Edition | ''>('edition', '')
  const dark = usePreferredDark()
  const edition = computed<Edition>(() => chosen.value || (dark.value ? 'night' : 'light'))
  const turn = () => (chosen.value = edition.value === 'night' ? 'light' : 'night')
  return { edition, turn }
}
