import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { numberOf, numberedRuns } from './names'

const files = (names: readonly string[], folder = '') => names.map((name) => ({ name, folder }))
const runs = (names: readonly string[]) =>
  numberedRuns(files(names)).map(({ pictures }) => pictures.map(({ number }) => number))
const named = (numbers: readonly number[], digits = 4) =>
  numbers.map((n) => `strike.${String(n).padStart(digits, '0')}.dpx`)

describe('numbered pictures by their names', () => {
  it('count by the last number before the ending', () => {
    expect(numberOf('cast_v02.1001.exr')).toEqual({ before: 'cast_v02.', digits: '1001', after: '.exr' })
    expect(numberOf('cast_0007_left.png')).toEqual({ before: 'cast_', digits: '0007', after: '_left.png' })
    expect(numberOf('cast.mov')).toBeNull()
    expect(numberOf('cast0001.mov')).toBeNull()
  })

  it('are one run over noughts in front, and over lengths without', () => {
    expect(runs(named([998, 999, 1000, 1001]))).toEqual([[998, 999, 1000, 1001]])
    expect(runs(named([8, 9, 10, 11], 1))).toEqual([[8, 9, 10, 11]])
    // Filled up and not are two, whichever comes first.
    expect(runs(['a08.png', 'a09.png', 'a10.png', 'a8.png', 'a9.png'])).toEqual([[8, 9, 10]])
  })

  it('are no run where they are of two folders, names or endings', () => {
    const two = [...files(named([1, 2]), 'a'), ...files(named([3, 4]), 'b')]
    expect(numberedRuns(two)).toEqual([])
    expect(runs(['a1.png', 'a2.png', 'a3.jpg', 'a4.jpg'])).toEqual([])
    expect(runs(['a1.png', 'a2.png', 'b3.png', 'b4.png'])).toEqual([])
  })

  it('may lack some numbers; where many are missing, another run begins', () => {
    expect(runs(named([1, 3, 4, 5, 8, 9, 10, 11]))).toEqual([[1, 3, 4, 5, 8, 9, 10, 11]])
    expect(runs(named([1, 2, 3, 50, 51, 52]))).toEqual([
      [1, 2, 3],
      [50, 51, 52],
    ])
    expect(runs(named([1, 3, 5, 7, 9]))).toEqual([])
  })

  it('come out in order and each once, whatever the order they came in', () => {
    fc.assert(
      fc.property(fc.uniqueArray(fc.integer({ min: 1, max: 40 }), { maxLength: 40 }), (numbers) => {
        const found = runs(named(numbers))
        for (const run of found) {
          expect(run).toEqual([...run].sort((a, b) => a - b))
          // At least half of what a run spans is there: a gap is no longer than a third of what stands around it.
          expect(run.length * 2).toBeGreaterThan(run.at(-1)! - run[0]!)
        }
        const all = found.flat()
        expect(new Set(all).size).toBe(all.length)
        for (const n of all) expect(numbers).toContain(n)
        // Three that follow on each other are always in one.
        for (const n of numbers)
          if (numbers.includes(n + 1) && numbers.includes(n + 2)) expect(all).toContain(n + 1)
      }),
    )
  })

  it('are sorted out of a hundred thousand in no time that anyone notices', () => {
    const many = Array.from(
      { length: 100_000 },
      (_, i) => `run${i % 50}.${String(Math.floor(i / 50) * 2)}.png`,
    )
    expect(numberedRuns(files(many))).toEqual([])
    expect(
      numberedRuns(
        files(
          named(
            Array.from({ length: 100_000 }, (_, i) => i),
            6,
          ),
        ),
      ),
    ).toHaveLength(1)
  })
})
