import { describe, expect, it } from 'vitest'
import { coded, ofCode } from './shown-code'

const index = (shown: ReturnType<typeof coded>) => (shown.kind === 'frame' ? ofCode(shown.index) : null)

describe('what playing counts', () => {
  it('is a frame, or one of its fields, by a number of its own', () => {
    expect(index(coded({ kind: 'frame', index: 7 }))).toEqual({ index: 7, field: null })
    const field = { kind: 'field', frame: 7, method: 'adaptive' } as const
    expect(index(coded({ ...field, parity: 'top' }))).toEqual({ index: 7, field: 'top' })
    expect(index(coded({ ...field, parity: 'bottom' }))).toEqual({ index: 7, field: 'bottom' })
    // Both fields averaged are the frame as a small picture has it.
    expect(index(coded({ ...field, method: 'blend', parity: 'top' }))).toEqual({ index: 7, field: null })
    expect(coded({ kind: 'nothing' })).toEqual({ kind: 'nothing' })
  })

  it('tells fields of two frames together, and mixtures by their weight', () => {
    const pair = coded({
      kind: 'fields',
      top: { frame: 3, parity: 'top' },
      bottom: { frame: 2, parity: 'bottom' },
    })
    expect(pair).toMatchObject({ kind: 'mix', a: { index: 13 }, b: { index: 10 }, weightOfB: 0.5 })
    const mix = coded(
      { kind: 'mix', a: { kind: 'frame', index: 1 }, b: { kind: 'frame', index: 2 }, weightOfB: 0.3 },
      (stored) => stored + 100,
    )
    expect(mix).toMatchObject({ a: { index: 404 }, b: { index: 408 }, weightOfB: 0.3 })
  })
})
