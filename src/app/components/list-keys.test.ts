import { describe, expect, it, vi } from 'vitest'
import { shallowRef } from 'vue'
import { useListKeys } from './list-keys'

const names = ['archive', 'bell', 'bench', 'casting', 'hall']
function list() {
  const on = { move: vi.fn(), open: vi.fn(), leave: vi.fn() }
  const keys = useListKeys(() => names.map((name) => ({ id: name, name })), on)
  const press = (key: string, more: Partial<KeyboardEvent> = {}) => {
    const event = { key, preventDefault: vi.fn(), ...more } as unknown as KeyboardEvent
    keys.onKey(event)
    return event
  }
  return { keys, on, press, selected: () => [...keys.selected.value] }
}
const click = (more: Partial<MouseEvent> = {}) => more as MouseEvent

describe('a list under the keyboard', () => {
  it('moves within its ends, one row selected', () => {
    const { keys, press, selected, on } = list()
    press('ArrowDown')
    press('ArrowDown')
    expect([keys.at.value, selected()]).toEqual([2, ['bench']])
    press('End')
    press('ArrowDown')
    expect(keys.at.value).toBe(4)
    press('Home')
    press('ArrowUp')
    expect([keys.at.value, selected()]).toEqual([0, ['archive']])
    press('PageDown')
    expect(keys.at.value).toBe(4)
    expect(on.move).toHaveBeenLastCalledWith(4)
  })

  it('grows the selection from where Shift was first held, both ways', () => {
    const { press, selected } = list()
    press('ArrowDown')
    press('ArrowDown', { shiftKey: true })
    press('ArrowDown', { shiftKey: true })
    expect(selected()).toEqual(['bell', 'bench', 'casting'])
    press('Home', { shiftKey: true })
    expect(selected()).toEqual(['archive', 'bell'])
  })

  it('finds by typing, goes on from the last find, and starts again after a pause', () => {
    vi.useFakeTimers()
    const { keys, press } = list()
    press('b')
    expect(keys.at.value).toBe(1)
    press('e')
    press('n')
    expect(keys.at.value).toBe(2)
    vi.advanceTimersByTime(2000)
    press('b')
    expect(keys.at.value).toBe(1)
    vi.advanceTimersByTime(2000)
    press('z')
    expect(keys.at.value).toBe(1)
    vi.useRealTimers()
  })

  it('opens, leaves, and selects all', () => {
    const { on, press, selected } = list()
    press('Enter')
    expect(on.open).toHaveBeenCalledOnce()
    press('a', { ctrlKey: true })
    expect(selected()).toEqual(names)
    press('Escape')
    expect(selected()).toEqual([])
    expect(on.leave).toHaveBeenCalledOnce()
  })

  it('leaves keys alone that are not its own', () => {
    const { press } = list()
    for (const [key, more] of [
      ['?', {}],
      [' ', {}],
      ['z', { ctrlKey: true }],
      ['Tab', {}],
      ['b', { altKey: true }],
    ] as const)
      expect(press(key, more).preventDefault).not.toHaveBeenCalled()
    expect(press('ArrowDown').preventDefault).toHaveBeenCalled()
  })
})

describe('a list under the mouse', () => {
  it('selects one, adds and takes away with Ctrl, and reaches to with Shift', () => {
    const { keys, selected } = list()
    keys.onClick(1, click())
    expect(selected()).toEqual(['bell'])
    keys.onClick(3, click({ ctrlKey: true }))
    expect(selected()).toEqual(['bell', 'casting'])
    keys.onClick(1, click({ metaKey: true }))
    expect(selected()).toEqual(['casting'])
    keys.onClick(4, click())
    keys.onClick(2, click({ shiftKey: true }))
    expect(selected()).toEqual(['bench', 'casting', 'hall'])
    keys.select([])
    expect(selected()).toEqual([])
  })

  it('stays with its row where rows come in another order, and extends from there', () => {
    const shown = shallowRef(names)
    const keys = useListKeys(() => shown.value.map((name) => ({ id: name, name })))
    keys.onClick(1, click())
    expect(keys.at.value).toBe(1)
    shown.value = ['hall', 'casting', 'bench', 'bell', 'archive']
    expect(keys.at.value).toBe(3)
    keys.onClick(4, click({ shiftKey: true }))
    expect([...keys.selected.value]).toEqual(['bell', 'archive'])
    // A row that is gone leaves the place to the one that stands there now.
    shown.value = ['hall', 'casting']
    expect(keys.at.value).toBe(1)
  })
})
