import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { parseFormat } from '../format/parse'
import { defaultPolicy } from '../toll/policy'
import { pictureOfFormat } from '../format/format'
import { lossParts } from './parts'
import { priceOf } from './rank'
import type { Bloc } from './bloc'

const format = (text: string) => parseFormat(text)!.format
const bloc = (text: string, weight: number): Bloc => ({
  picture: pictureOfFormat(format(text)),
  ids: [text],
  seconds: weight,
  weight,
})

describe('the parts of a loss', () => {
  it('name what costs, the largest first', () => {
    const parts = lossParts(format('3840x2160@25p'), [bloc('1920x1080@50p', 10), bloc('3840x2160@25p', 10)], {
      policy: defaultPolicy,
      deliverables: [format('1920x1080@25p')],
    })
    expect(parts.map((part) => part.kind)).toEqual(['enlarge', 'delivery', 'even-skip'])
    // Half of the time loses 1 − 0.25 · 0.96, nearly all of it to the enlargement.
    expect(parts[0]!.value).toBeCloseTo((0.5 * (1 - 0.25 * 0.96) * 0.75) / 0.79, 12)
  })

  it('add up to the loss', () => {
    const texts = ['3840x2160@25p', '1920x1080@50i', '720x576/64:45@50i', '4096x2160@23.976p', '640x480@9p']
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.constantFrom(...texts), fc.integer({ min: 1, max: 90 })), { maxLength: 6 }),
        fc.constantFrom(...texts),
        fc.subarray(texts),
        fc.constantFrom('balanced' as const, 'sharp' as const, 'detail' as const),
        (footage, at, delivered, lean) => {
          const blocs = footage.map(([text, seconds]) => bloc(text, seconds))
          const options = { policy: defaultPolicy, lean, deliverables: delivered.map(format) }
          const sum = lossParts(format(at), blocs, options).reduce((total, part) => total + part.value, 0)
          expect(sum).toBeCloseTo(priceOf(format(at), blocs, options).loss, 9)
        },
      ),
    )
  })
})
