import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { endLength, endsHead, endsOfSize, readEnds } from './ends'
import { byteRangeOf } from './range'

describe('a stretch that a Range header asks for', () => {
  const size = fc.nat({ max: 300 })
  const bytes = (count: number) => Array.from({ length: count }, (_, i) => i)
  const sent = (header: string, count: number) => {
    const range = byteRangeOf(header, count)
    if (range === null || range === 'unsatisfiable') return range
    return bytes(count).slice(range.first, range.last + 1)
  }

  it('is from the first to the last byte that is named, as far as there are any', () =>
    fc.assert(
      fc.property(size, fc.nat({ max: 400 }), fc.nat({ max: 400 }), (count, first, more) => {
        const wanted = bytes(count).slice(first, first + more + 1)
        expect(sent(`bytes=${first}-${first + more}`, count)).toEqual(
          wanted.length ? wanted : 'unsatisfiable',
        )
        const rest = bytes(count).slice(first)
        expect(sent(`bytes=${first}-`, count)).toEqual(rest.length ? rest : 'unsatisfiable')
      }),
    ))

  it('is the last bytes where only their number is named', () =>
    fc.assert(
      fc.property(size, fc.nat({ max: 400 }), (count, last) => {
        const wanted = last === 0 ? [] : bytes(count).slice(-last)
        expect(sent(`bytes=-${last}`, count)).toEqual(wanted.length ? wanted : 'unsatisfiable')
      }),
    ))

  it('is the whole where no single stretch of bytes is asked for', () => {
    for (const header of ['', 'bytes=-', 'bytes=9-3', 'bytes=0-1,4-5', 'lines=1-2', 'bytes=a-b'])
      expect(byteRangeOf(header, 10)).toBeNull()
    for (const header of [undefined, null]) expect(byteRangeOf(header, 10)).toBeNull()
  })
})

describe('the ends of several files in one answer', () => {
  it('come out as they went in', () =>
    fc.assert(
      fc.property(
        fc.array(
          fc.record({ size: fc.nat({ max: 3 * endLength }), status: fc.constantFrom(200, 404, 409) }),
          {
            maxLength: 5,
          },
        ),
        (files) => {
          const parts = files.map(({ size, status }, n) => {
            const whole = Uint8Array.from({ length: status === 200 ? size : 0 }, (_, i) => (i + n) & 255)
            const { headLength, tailStart } = endsOfSize(whole.length)
            return { whole, status, head: whole.slice(0, headLength), tail: whole.slice(tailStart) }
          })
          const answer = Uint8Array.from(
            parts.flatMap(({ status, head, tail }) => [
              ...endsHead(status, head.length, tail.length),
              ...head,
              ...tail,
            ]),
          )
          readEnds(answer, files.length).forEach((ends, i) => {
            const { status, whole } = parts[i]!
            if (status !== 200) return expect(ends).toBeNull()
            if (whole.length <= 2 * endLength) expect([...ends!.head, ...ends!.tail]).toEqual([...whole])
            else {
              expect(ends!.head).toEqual(whole.subarray(0, endLength))
              expect(ends!.tail).toEqual(whole.subarray(-endLength))
            }
          })
        },
      ),
      { numRuns: 20 },
    ))

  it('is refused where it is shorter than it says', () => {
    const [head] = [endsHead(200, 4, 4)]
    expect(() => readEnds(Uint8Array.from([...head, 1, 2, 3, 4, 5]), 1)).toThrow(RangeError)
  })
})
