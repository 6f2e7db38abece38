import { describe, expect, it } from 'vitest'
import { leanWords, shareWords, weightGroups } from './weights'
import { defaultPolicy, leaning } from './policy'

describe('the weights in words', () => {
  it('are each named once, in a group with a title', () => {
    const named = weightGroups.flatMap(({ words }) => Object.keys(words))
    const { leans, shares, ...flat } = defaultPolicy
    expect([...named].sort()).toEqual(Object.keys(flat).sort())
    expect(new Set(named).size).toBe(named.length)
    expect(Object.keys(leanWords).sort()).toEqual(Object.keys(leans.balanced).sort())
    expect(Object.keys(shareWords).sort()).toEqual(Object.keys(shares).sort())
    const words = weightGroups.flatMap(({ title, words }) => [title, ...Object.values(words)])
    for (const word of [...words, ...Object.values(leanWords), ...Object.values(shareWords)])
      expect(word).toMatch(/^\S.{3,}$/)
  })

  it('of the majority are the balanced ones', () => {
    expect(leaning(defaultPolicy, 'majority')).toEqual(leaning(defaultPolicy, 'balanced'))
    expect(leaning(defaultPolicy, 'detail')).toMatchObject({
      unused: 1,
      invented: 0.25,
      bars: 0.25,
      blend: 0.1,
    })
    expect(leaning(defaultPolicy, 'motion')).toEqual({ ...leaning(defaultPolicy, 'balanced'), skip: 0.3 })
    expect(leaning(defaultPolicy, 'sharp')).toMatchObject({ unused: 0.12, invented: 1, bars: 0.5 })
  })
})
