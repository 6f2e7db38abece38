import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { settledTimes } from './matroska'

/** Pictures as an encoder stores them: an anchor, then those that are shown before it, in any order of a pyramid. */
const stored = fc
  .array(fc.integer({ min: 0, max: 7 }), { minLength: 1, maxLength: 30 })
  .chain((groups) => fc.tuple(fc.constant(groups), fc.infiniteStream(fc.nat())))
  .map(([groups, chance]) => {
    const times: number[] = [0]
    let shown = 0
    for (const between of groups) {
      times.push(shown + between + 1)
      const rest = Array.from({ length: between }, (_, i) => shown + 1 + i)
      while (rest.length) times.push(...rest.splice((chance.next().value ?? 0) % rest.length, 1))
      shown += between + 1
    }
    return times
  })

describe('times of a stream that was left somewhere', () => {
  it('are kept as far as nothing is missing between them, and nearly all are', () => {
    fc.assert(
      fc.property(stored, fc.nat(), (times, cut) => {
        const seen = times.slice(0, 1 + (cut % times.length))
        const settled = settledTimes(seen).sort((a, b) => a - b)
        expect(settled).toEqual(settled.map((_, i) => i))
        // No more is given up than the last anchor and what is shown just before it.
        expect(settled.length).toBeGreaterThanOrEqual(seen.length - 9)
      }),
    )
  })
})
