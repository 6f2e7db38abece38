import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { Cursor } from '../bytes/cursor'
import { ReadingFault } from '../fault'
import { begunIn } from './payloads'

const little = (value: number, bytes: number) =>
  Array.from({ length: bytes }, (_, i) => (value / 256 ** i) & 255)
/** Lengths in a byte and two bytes: of replicated data, of an offset of four, of a number of one. */
const properties = 0b01011101
interface Payload {
  readonly stream: number
  readonly offset: number
  readonly time: number
  readonly bytes: number
}
const payload = ({ stream, offset, time, bytes }: Payload, isSeveral: boolean) => [
  stream,
  7,
  ...little(offset, 4),
  8,
  ...little(bytes, 4),
  ...little(time, 4),
  ...(isSeveral ? little(bytes, 2) : []),
  ...Array.from({ length: bytes }, () => 0x55),
]
/** A packet by the published layout: with error correction or without, of one payload or several. */
const packet = (payloads: readonly Payload[], isCorrected: boolean, isSeveral: boolean) =>
  new Cursor(
    Uint8Array.from([
      ...(isCorrected ? [0x82, 0, 0] : []),
      isSeveral ? 1 : 0,
      properties,
      ...little(123, 4),
      ...little(40, 2),
      ...(isSeveral ? [payloads.length | 0x80] : []),
      ...payloads.flatMap((packet) => payload(packet, isSeveral)),
    ]),
  )

const payloads = fc.array(
  fc.record({
    stream: fc.integer({ min: 1, max: 3 }),
    offset: fc.constantFrom(0, 0, 900),
    time: fc.nat(1_000_000),
    bytes: fc.integer({ min: 0, max: 40 }),
  }),
  { minLength: 1, maxLength: 12 },
)

describe('the packets of an ASF', () => {
  it('tell when each object of a stream begins, and nothing of what goes on in them or of other streams', () => {
    fc.assert(
      fc.property(payloads, fc.boolean(), fc.boolean(), (all, isCorrected, isSeveral) => {
        const held = isSeveral ? all : all.slice(0, 1)
        const times = held
          .filter(({ stream, offset }) => stream === 2 && offset === 0)
          .map(({ time }) => time)
        expect(begunIn(packet(held, isCorrected, isSeveral), 2)).toEqual(
          times.map((time) => ({ time, number: 7, wraps: 256 })),
        )
      }),
    )
  })

  it('that are torn end in a fault, never otherwise', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 200 }), (bytes) => {
        try {
          expect(begunIn(new Cursor(bytes), 1).every(({ time }) => Number.isFinite(time))).toBe(true)
        } catch (error) {
          expect(error).toBeInstanceOf(ReadingFault)
        }
      }),
      { numRuns: 2000 },
    )
  })
})
