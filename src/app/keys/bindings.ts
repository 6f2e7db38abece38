import { type Action, type KeyScope, actions } from './actions'

/** Keys that an editor set: by action, the key, or nothing where it is turned off. */
export type OwnKeys = Readonly<Record<string, string>>

/** A key as the browser names it, letters small, so that Shift may mean “more of it”. */
export const keyOf = ({ key }: Pick<KeyboardEvent, 'key'>): string =>
  key.length === 1 ? key.toLowerCase() : key

/** The key that does something now; empty where it is turned off. */
export const keyFor = (action: Action, own: OwnKeys): string => own[action.id] ?? action.key

const changeable = actions.filter((action) => !action.fixed)

/**
 * What a key press means in a place: the key that usually does it, by which listeners know it; null where the editor gave
 * that key away.
 */
export function meant(
  where: KeyScope,
  event: Pick<KeyboardEvent, 'key' | 'ctrlKey' | 'metaKey'>,
  own: OwnKeys,
): string | null {
  // What goes with Ctrl or Cmd is every program's.
  if (event.ctrlKey || event.metaKey) return event.key
  const here = changeable.filter((action) => action.where === where)
  const pressed = keyOf(event)
  const does = here.find((action) => keyFor(action, own) === pressed)
  if (does) return does.key
  return here.some((action) => action.key === pressed) ? null : event.key
}

const named: Readonly<Record<string, string>> = {
  ' ': 'Space',
  ArrowUp: '↑',
  ArrowDown: '↓',
  ArrowLeft: '←',
  ArrowRight: '→',
  '-': '−',
}
/** A key for people: `Space`, `N`, `+`; a dash where it is turned off. */
export const keyName = (key: string): string =>
  key === '' ? '–' : (named[key] ?? (key.length === 1 ? key.toUpperCase() : key))

/** Keys of browsers and screen readers: they find, open, move focus or are the reader's own. */
const taken: Readonly<Record<string, string>> = {
  '/': 'the browser searches with it',
  "'": 'the browser searches with it',
  Tab: 'it moves on through the page',
  Enter: 'it presses what is in focus',
  Escape: 'it leaves sheets',
  Insert: 'screen readers listen to it',
  CapsLock: 'screen readers listen to it',
  NumLock: 'screen readers listen to it',
  ContextMenu: 'it opens the menu',
  PrintScreen: 'it belongs to the system',
}
const moves = /^(Arrow|Page|Home$|End$|Delete$|Backspace$|F\d+$)/

/** Why a key cannot do something; null where it can. */
export function objection(action: Action, key: string, own: OwnKeys): string | null {
  if (key === '') return null
  if (taken[key]) return `${keyName(key)} cannot be it: ${taken[key]}.`
  if (moves.test(key)) return `${keyName(key)} cannot be it: browser or place use it to move.`
  if (['Shift', 'Control', 'Alt', 'Meta', 'AltGraph', 'Dead', 'Unidentified', 'Process'].includes(key))
    return 'A key alone, please.'
  if (action.where === 'everywhere' && /^[\p{L}\p{N}_ ]$/u.test(key))
    return `${keyName(key)} cannot be it: lists find names with letters and figures.`
  const other = changeable.find(
    (pressed) =>
      pressed.id !== action.id &&
      (pressed.where === action.where || pressed.where === 'everywhere' || action.where === 'everywhere') &&
      keyFor(pressed, own) === key,
  )
  return other ? `${keyName(key)} is taken: ${other.does}.` : null
}
