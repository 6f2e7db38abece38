import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { rational } from '../../rational/rational'
import type { ReadResult } from '../read'
import { type StillFacts, stillReading } from '../still/still'
import { type NumberedPicture, leftOutWords, numberedFacts, picturesToRead } from './facts'

const hd: StillFacts = { width: 1920, height: 1080, bitDepth: 10, chroma: '4:4:4', alpha: false }
const good = (facts: Partial<StillFacts> = {}): ReadResult => ({
  ok: true,
  reading: stillReading('DPX', 1000, { ...hd, ...facts }),
  origins: {},
})
const torn: ReadResult = { ok: false, error: { code: 'truncated', message: 'It ends too early.' } }
const picture = (number: number, result: ReadResult | null = good()): NumberedPicture => ({
  number,
  name: `strike.${number}.dpx`,
  sizeBytes: 1000,
  result,
})
const at24 = rational(24)

describe('numbered pictures as one clip', () => {
  it('have the rate of their headers where all agree that state one, else the one that is proposed', () => {
    const rates = (...each: (number | null)[]) =>
      numberedFacts(
        each.map((rate, i) => picture(i + 1, good(rate === null ? {} : { rate: rational(rate) }))),
        at24,
      )!
    expect(rates(25, 25, null)).toMatchObject({
      isRateStated: true,
      reading: { video: { rate: rational(25) } },
    })
    expect(rates(25, 30, 25)).toMatchObject({ isRateStated: false, reading: { video: { rate: at24 } } })
    expect(rates(null, null)).toMatchObject({ isRateStated: false, reading: { durationSec: 2 / 24 } })
  })

  it('begin with the number and the timecode of the first, reckoned where that one cannot be read', () => {
    const coded = (start: string) => good({ timecode: { start, dropFrame: false }, rate: at24 })
    const facts = numberedFacts(
      [picture(1001, coded('01:00:00:00')), picture(1002, coded('01:00:00:01'))],
      at24,
    )!
    expect(facts.reading).toMatchObject({
      timecode: { start: '01:00:00:00' },
      video: { numbered: { first: 1001, last: 1002, leftOut: [] }, frameCount: 2 },
    })
    const later = [picture(1001, null), picture(1002, null), picture(1003, coded('01:00:00:02'))]
    expect(numberedFacts(later, at24)!.reading.timecode!.start).toBe('01:00:00:00')
  })

  it('leave out what is missing, torn, of another size and of other bits, and say so', () => {
    const facts = numberedFacts(
      [
        ...[1, 2, 3].map((n) => picture(n)),
        picture(6, good({ width: 1280, height: 720 })),
        picture(7, torn),
        ...[8, 9].map((n) => picture(n)),
        picture(10, good({ bitDepth: 16 })),
        picture(11),
      ],
      at24,
    )!
    expect(facts.reading.video!.numbered).toEqual({
      first: 1,
      last: 11,
      leftOut: [
        { from: 4, to: 5, why: 'missing' },
        { from: 6, to: 6, why: '1280×720' },
        { from: 7, to: 7, why: 'damaged' },
        { from: 10, to: 10, why: '16 bit' },
      ],
    })
    expect(facts.reading.video!.frameCount).toBe(11)
    expect(facts.shown.map(({ index, frames }) => [index, frames])).toEqual([
      [0, 1],
      [1, 1],
      [2, 5],
      [5, 1],
      [6, 2],
      [8, 1],
    ])
    expect(facts.reading.notes.at(-1)!.message).toBe(
      '4–5 missing; 6 of 1280×720; 7 damaged; 10 of 16 bit: the picture before is shown instead, for 5 frames.',
    )
  })

  it('name six stretches, and count the rest', () => {
    const leftOut = Array.from({ length: 9 }, (_, i) => ({ from: i * 3, to: i * 3 + 1, why: 'missing' }))
    expect(leftOutWords(leftOut)).toBe('0–1, 3–4, 6–7, 9–10, 12–13, 15–16 missing; 6 more')
  })

  it('are no clip where most of those looked at are not alike, or none can be read', () => {
    expect(numberedFacts([picture(1, torn), picture(2, torn), picture(3, torn)], at24)).toBeNull()
    const unlike = [1, 2, 3].map((n) => picture(n, good({ width: 1000 + n })))
    expect(numberedFacts(unlike, at24)).toBeNull()
  })

  it('show at each number the picture of that number, or the last before it that can be shown', () => {
    const kindOfPicture = fc.constantFrom('good', 'unread', 'torn', 'missing', 'small' as const)
    fc.assert(
      fc.property(fc.array(kindOfPicture, { minLength: 3, maxLength: 60 }), (kinds) => {
        const all = kinds.map((kind, i) => ({ kind, number: 1001 + i }))
        const there = all
          .filter(({ kind }) => kind !== 'missing')
          .map(({ kind, number }) =>
            picture(
              number,
              kind === 'unread'
                ? null
                : kind === 'torn'
                  ? torn
                  : good(kind === 'small' ? { width: 640, height: 480 } : {}),
            ),
          )
        const facts = numberedFacts(there, at24)
        const count = (kind: string) => kinds.filter((pictureKind) => pictureKind === kind).length
        // Most of what was looked at decides the size.
        if (count('good') * 2 <= count('good') + count('torn') + count('small')) return
        const shows = ({ kind }: (typeof all)[number]) => kind === 'good' || kind === 'unread'
        const first = all.find(shows)!.number
        const last = all.findLast(shows)!.number
        const expected = Array.from({ length: last - first + 1 }, (_, i) => {
          const upTo = all.filter((picture) => picture.number <= first + i && shows(picture))
          return upTo.at(-1)!.number
        })
        const shown = facts!.shown.flatMap(({ index, frames }) =>
          Array.from({ length: frames }, () => there[index]!.number),
        )
        expect(shown).toEqual(expected)
        const out = facts!.reading.video!.numbered!.leftOut
        const left = out.flatMap(({ from, to }) => Array.from({ length: to - from + 1 }, (_, i) => from + i))
        expect(left).toEqual(expected.flatMap((n, i) => (n === first + i ? [] : [first + i])))
      }),
    )
  })
})

describe('which of many pictures are read', () => {
  it('are both ends, a spread, and those of another length than the rest', () => {
    const sizes = Array.from({ length: 10_000 }, () => 8_000_000)
    sizes[4711] = 100
    sizes[17] = 9_000_000
    const picked = picturesToRead(sizes)
    expect(picked).toEqual(expect.arrayContaining([0, 17, 4711, 9999]))
    expect(picked.length).toBeLessThanOrEqual(32)
    expect(picked).toEqual([...picked].sort((a, b) => a - b))
  })
  it('are of compressed ones those of less than half the length, or more than double', () => {
    const sizes = Array.from({ length: 1000 }, (_, i) => 1000 + (i % 100))
    sizes[500] = 400
    sizes[501] = 3000
    expect(picturesToRead(sizes)).toEqual(expect.arrayContaining([500, 501]))
    expect(picturesToRead(sizes).length).toBeLessThanOrEqual(32)
  })
  it('are all of a few, and never more than a bounded number', () => {
    expect(picturesToRead([1, 2, 3])).toEqual([0, 1, 2])
    expect(picturesToRead([])).toEqual([])
    const wild = Array.from({ length: 20_000 }, (_, i) => 2 ** (i % 20))
    expect(picturesToRead(wild).length).toBeLessThanOrEqual(150)
  })
})
