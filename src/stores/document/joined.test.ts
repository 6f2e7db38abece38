import { type Patch, applyPatches, enablePatches, produceWithPatches } from 'immer'
import { describe, expect, it } from 'vitest'
import { joined } from './joined'

enablePatches()

interface Cut {
  name: string
  takes: { start: number; length: number }[]
}
const cut = (): Cut => ({
  name: 'Main',
  takes: [
    { start: 0, length: 5 },
    { start: 5, length: 3 },
  ],
})

/** Every recipe applied one after the other, with the patches of all of them, forward and back. */
function made(recipes: readonly ((draft: Cut) => void)[]) {
  let edited = cut()
  let [patches, inverse]: [Patch[], Patch[]] = [[], []]
  for (const recipe of recipes) {
    const [next, forward, back] = produceWithPatches(edited, recipe)
    edited = next
    patches = [...patches, ...forward]
    inverse = [...back, ...inverse]
  }
  return { edited, patches, inverse }
}

describe('patches of steps that were joined', () => {
  it('become one for each place, however often it was replaced', () => {
    const moves = Array.from({ length: 1000 }, (_, i) => (draft: Cut) => {
      draft.takes[1]!.start = 6 + i
      if (i % 2) draft.takes[0]!.length = i
    })
    const { edited, patches, inverse } = made(moves)
    expect(patches.length).toBe(1500)
    expect(joined(patches).length).toBe(2)
    expect(applyPatches(cut(), joined(patches))).toEqual(edited)
    expect(applyPatches(edited, joined(inverse))).toEqual(cut())
  })

  it('do the same, whatever was done', () => {
    // A small generator of numbers, so that each run is alike.
    let seed = 7
    const random = (n: number) => (seed = (seed * 1_103_515_245 + 12_345) % 2 ** 31) % n
    const kinds: ((draft: Cut) => void)[] = [
      (draft) => void draft.takes.push({ start: random(90), length: random(9) }),
      (draft) => void draft.takes.splice(random(draft.takes.length), 1),
      (draft) => void (draft.takes = draft.takes.map((take) => ({ ...take, length: random(9) }))),
      (draft) => void (draft.takes[0] = { start: random(90), length: 1 }),
      (draft) => void (draft.takes[0] && (draft.takes[0].start = random(90))),
      (draft) => void (draft.takes[1] && (draft.takes[1].start = random(90))),
      (draft) => void (draft.name = `cut ${random(4)}`),
    ]
    for (let run = 0; run < 500; run++) {
      // Some runs only replace: those are the ones that grow shorter.
      const from = run % 2 ? 0 : 3
      const recipes = Array.from({ length: 12 }, () => kinds[from + random(kinds.length - from)]!)
      const { edited, patches, inverse } = made(recipes)
      expect(applyPatches(cut(), joined(patches))).toEqual(edited)
      expect(applyPatches(edited, joined(inverse))).toEqual(cut())
    }
  })
})
