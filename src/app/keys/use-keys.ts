import { ref } from 'vue'
import { usePreferences } from '../../stores/preferences'
import type { KeyScope } from './actions'
import { meant } from './bindings'

/** Whether the sheet of keys is looked at: the key that opens it may be turned off, so buttons do too. */
export const keysListed = ref(false)

/** What key presses mean in a place, with the editor's own keys. */
export function useKeys(where: KeyScope): (event: KeyboardEvent) => string | null {
  const habits = usePreferences()
  return (event) => meant(where, event, habits.habits.keys)
}
