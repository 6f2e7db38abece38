import { describe, expect, it } from 'vitest'
import { actions, actionsIn, keyScopes } from './actions'
import { keyFor, keyName, meant, objection } from './bindings'

const action = (id: string) => actions.find((action) => action.id === id)!
const press = (key: string, more = {}) => ({ key, ctrlKey: false, metaKey: false, ...more })

describe('the usual keys', () => {
  it('clash with nothing: no other of their place, no key of browser or screen reader', () => {
    for (const action of actions.filter(({ fixed }) => !fixed))
      expect(objection(action, action.key, {}), action.id).toBeNull()
  })
  it('have an action each, and every place shows its own and those of everywhere', () => {
    expect(new Set(actions.map(({ id }) => id)).size).toBe(actions.length)
    expect(actionsIn('timelines').some(({ where }) => where === 'cut')).toBe(true)
    expect(actionsIn('timelines').some(({ where }) => where === 'yard')).toBe(false)
    for (const place of ['arrivals', 'yard', 'timelines', 'dispatch', null] as const)
      expect(actionsIn(place).some(({ id }) => id === 'everywhere.keys')).toBe(true)
    for (const { where } of actions) expect(keyScopes[where]).toBeDefined()
  })
})

describe('own keys', () => {
  it('do what the usual one did, and the usual one does nothing any more', () => {
    const own = { 'cut.cut': 'k' }
    expect(meant('cut', press('k'), own)).toBe('n')
    expect(meant('cut', press('K'), own)).toBe('n')
    expect(meant('cut', press('n'), own)).toBeNull()
    expect(meant('cut', press('n'), {})).toBe('n')
    // In another place nothing changed.
    expect(meant('toPlace', press('n'), own)).toBe('n')
  })
  it('may change places', () => {
    const own = { 'cut.in': '-', 'cut.out': '+' }
    expect(meant('cut', press('+'), own)).toBe('-')
    expect(meant('cut', press('-'), own)).toBe('+')
  })
  it('may be turned off, and leave what goes with Ctrl alone', () => {
    const own = { 'everywhere.keys': '' }
    expect(keyFor(action('everywhere.keys'), own)).toBe('')
    expect(meant('everywhere', press('?'), own)).toBeNull()
    expect(meant('cut', press('c', { ctrlKey: true }), { 'cut.next': 'c' })).toBe('c')
    expect(keyName('')).toBe('–')
  })
  it('are refused with the reason where they would clash', () => {
    expect(objection(action('cut.cut'), 'p', {})).toBe('P is taken: play what is in hand.')
    expect(objection(action('cut.cut'), 'p', { 'cut.play-hand': 'k' })).toBeNull()
    expect(objection(action('cut.cut'), '?', {})).toBe('? is taken: these keys.')
    expect(objection(action('everywhere.terms'), 'k', {})).toMatch(/lists find names/)
    expect(objection(action('cut.cut'), '/', {})).toMatch(/browser searches/)
    expect(objection(action('cut.cut'), 'F5', {})).toMatch(/move/)
    expect(objection(action('cut.cut'), 'Shift', {})).toMatch(/alone/)
  })
})
