import { describe, expect, it } from 'vitest'
import { readFormatFile, writeFormatFile } from '../stored/format-file'
import { parseFormat } from '../format/parse'
import { rateName } from '../rate/rate'
import { rational } from '../rational/rational'
import { Preferences, defaultPreferences, mayFlicker, ratesInOrder, usualRate } from './preferences'

describe('habits', () => {
  it('begin with the rate of the mains region, unless one is set', () => {
    expect(rateName(usualRate(defaultPreferences))).toBe('25')
    expect(rateName(usualRate({ ...defaultPreferences, mains: 60 }))).toBe('29.97')
    expect(rateName(usualRate({ ...defaultPreferences, rate: rational(24) }))).toBe('24')
    expect(
      ratesInOrder({ ...defaultPreferences, mains: 60 })
        .slice(0, 4)
        .map(rateName),
    ).toEqual(['29.97', '59.94', '23.976', '119.88'])
    expect(ratesInOrder(defaultPreferences)).toHaveLength(13)
  })
  it('know which rates beat with the lamps', () => {
    expect([25, 50, 100].map((n) => mayFlicker(rational(n), 50))).toEqual([false, false, false])
    expect(mayFlicker(rational(24), 50)).toBe(true)
    expect(mayFlicker(rational(30000, 1001), 50)).toBe(true)
    expect(mayFlicker(rational(30000, 1001), 60)).toBe(false)
    expect(mayFlicker(rational(24000, 1001), 60)).toBe(false)
    expect(mayFlicker(rational(25), 60)).toBe(true)
  })
  it('are whole even where little is kept', () => {
    expect(Preferences.parse({ mains: 60 })).toEqual({ ...defaultPreferences, mains: 60 })
    expect(Preferences.safeParse({ mains: 55 }).success).toBe(false)
  })
})

describe('a file of own formats', () => {
  const own = ['1920x1080@50i', '1080x1350@29.97p'].map((text, i) => ({
    name: `Foundry ${i}`,
    format: parseFormat(text)!.format,
  }))
  it('comes back as it was written', () => {
    expect(readFormatFile(writeFormatFile(own))).toEqual({ ok: true, value: own })
  })
  it.each([
    ['{', /not JSON/],
    ['{"kind":"yard-tally-project","version":1}', /not a list of formats/],
    ['{"kind":"yard-tally-formats","version":7,"formats":[]}', /version 7/],
    ['{"kind":"yard-tally-formats","version":1,"formats":[{"name":"x"}]}', /damaged at formats\.0\.format/],
    [
      writeFormatFile([{ name: 'odd', format: { ...own[0]!.format, height: 1079 } }]),
      /“odd” cannot be used: .*odd side/,
    ],
  ])('is refused with the reason: %s', (text, reason) => {
    const result = readFormatFile(text)
    expect(result.ok).toBe(false)
    if (!result.ok) expect(result.error).toMatch(reason)
  })
})
