import { describe, expect, it } from 'vitest'
import { rankingWords, shareWords, weightGroups } from './weights'
import { defaultPolicy, weightsForRanking } from './policy'

describe('the weights in words', () => {
  it('are each named once, in a group with a title', () => {
    const named = weightGroups.flatMap(({ words }) => Object.keys(words))
    const { leans, shares, ...flat } = defaultPolicy
    expect([...named].sort()).toEqual(Object.keys(flat).sort())
    expect(new Set(named).size).toBe(named.length)
    expect(Object.keys(rankingWords).sort()).toEqual(Object.keys(leans.balanced).sort())
    expect(Object.keys(shareWords).sort()).toEqual(Object.keys(shares).sort())
    const words = weightGroups.flatMap(({ title, words }) => [title, ...Object.values(words)])
    for (const word of [...words, ...Object.values(rankingWords), ...Object.values(shareWords)])
      expect(word).toMatch(/^\S.{3,}$/)
  })

  it('of the majority are the balanced ones', () => {
    expect(weightsForRanking(defaultPolicy, 'majority')).toEqual(weightsForRanking(defaultPolicy, 'balanced'))
    expect(weightsForRanking(defaultPolicy, 'detail')).toMatchObject({
      unused: 1,
      invented: 0.25,
      bars: 0.25,
      blend: 0.1,
    })
    expect(weightsForRanking(defaultPolicy, 'motion')).toEqual({
      ...weightsForRanking(defaultPolicy, 'balanced'),
      skip: 0.3,
    })
    expect(weightsForRanking(defaultPolicy, 'sharp')).toMatchObject({ unused: 0.12, invented: 1, bars: 0.5 })
  })
})
