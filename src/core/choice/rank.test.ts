import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { formatText, pictureOfFormat } from '../format/format'
import { parseFormat } from '../format/parse'
import type { Reading } from '../reading/reading'
import { tollOf } from '../toll/toll'
import { defaultPolicy } from '../toll/policy'
import { comparePrices, priceOf, rank } from './rank'
import { gatherVotes } from './vote'
import { stillReading } from '../reading/still/still'
import type { Bloc } from './bloc'

const format = (text: string) => parseFormat(text)!.format
const bloc = (text: string, seconds: number): Bloc => ({
  picture: pictureOfFormat(format(text)),
  ids: [text],
  seconds,
  weight: seconds,
})
const order = (blocs: Bloc[], options: Partial<Parameters<typeof rank>[1]> = {}) =>
  rank(blocs, { policy: defaultPolicy, ...options }).map((c) => formatText(c.format))

const video = (seconds: number): Reading => {
  const still = stillReading('MP4', 1, { width: 1920, height: 1080, bitDepth: 8, chroma: null, alpha: false })
  return {
    ...still,
    kind: 'video',
    durationSec: seconds,
    video: { ...still.video!, rate: { num: 25, den: 1 } },
  }
}

describe('votes', () => {
  it('are for video only, by running time and priority', () => {
    const { blocs, excluded } = gatherVotes([
      {
        id: 'title',
        reading: stillReading('PNG', 1, { width: 1280, height: 720, bitDepth: 8, chroma: null, alpha: true }),
        priority: 'key',
      },
      { id: 'hum', reading: { ...video(9), kind: 'audio', video: null }, priority: 'normal' },
      { id: 'broken', reading: null, priority: 'normal' },
      { id: 'unwanted', reading: video(60), priority: 'left-out' },
      { id: 'a', reading: video(10), priority: 'normal' },
      { id: 'b', reading: video(20), priority: 'key' },
    ])
    expect(blocs).toHaveLength(1)
    expect(blocs[0]).toMatchObject({ ids: ['a', 'b'], seconds: 30, weight: 70 })
    expect(excluded.map((e) => e.why)).toEqual(['still', 'sound', 'not-read', 'left-out'])
    const why = (reading: Reading) => gatherVotes([{ id: 'x', reading, priority: 'normal' }]).excluded
    // A picture on the sleeve of a recording decides nothing.
    expect(why({ ...video(5), kind: 'audio' })).toEqual([{ id: 'x', why: 'sound' }])
    expect(why({ ...video(5), video: null })).toEqual([{ id: 'x', why: 'sound' }])
    expect(why({ ...video(5), video: { ...video(5).video!, rate: null } })).toEqual([
      { id: 'x', why: 'not-read' },
    ])
    expect(why({ ...video(5), durationSec: null })).toEqual([{ id: 'x', why: 'no-duration' }])
    expect(why(video(0))).toEqual([{ id: 'x', why: 'no-duration' }])
    expect(why(video(5))).toEqual([])
  })
})

describe('ranking', () => {
  const mixed = (uhdShare: number) => [
    bloc('3840x2160@25p', uhdShare * 1000),
    bloc('1920x1080@25p', (1 - uhdShare) * 1000),
  ]

  it('takes UHD over HD when balanced from 10/13 of the time on', () => {
    expect(order(mixed(10 / 13 + 0.001))[0]).toBe('3840x2160@25p')
    expect(order(mixed(10 / 13 - 0.001))[0]).toBe('1920x1080@25p')
  })

  it('follows the lean', () => {
    expect(order(mixed(0.85), { lean: 'sharp' })[0]).toBe('1920x1080@25p')
    expect(order(mixed(0.55), { lean: 'detail' })[0]).toBe('3840x2160@25p')
    expect(order(mixed(0.55), { lean: 'majority' })[0]).toBe('3840x2160@25p')
  })

  it('counts what is delivered', () => {
    const blocs = [bloc('1920x1080@50p', 60), bloc('1920x1080@25p', 10)]
    expect(order(blocs)[0]).toBe('1920x1080@50p')
    const [first] = rank(blocs, { policy: defaultPolicy, deliverables: [format('1920x1080@50i')] })
    expect(formatText(first!.format)).toMatch(/@(50i|25p)$/)
    expect(first!.reason).toContain('Delivered')
  })

  it('offers the field rate of interlaced clips', () => {
    expect(order([bloc('1920x1080@50i', 10)])).toEqual(['1920x1080@50i', '1920x1080@50p', '1920x1080@25p'])
  })

  it('prices footage and delivery as the definition says', () => {
    const blocs = mixed(0.5)
    const uhd = priceOf(format('3840x2160@25p'), blocs, {
      policy: defaultPolicy,
      deliverables: [format('1920x1080@25p')],
    })
    // Half loses nothing, half three quarters to enlargement; both are reduced on the way out.
    expect(uhd.loss).toBeCloseTo(1 - 0.625 * 0.775, 12)
    expect(uhd.untouchedShare).toBeCloseTo(0.5, 12)
    expect(uhd.reason).toMatch(/50 % stays untouched/)
  })

  it('comes to the same as pricing each clip alone', () => {
    const texts = ['3840x2160@25p', '1920x1080@50i', '720x576/64:45@50i', '4096x2160@23.976p', '1280x720@9p']
    fc.assert(
      fc.property(
        fc.subarray(texts, { minLength: 1 }),
        fc.constantFrom(...texts, '1920x1080@59.94p', '1440x1080/4:3@50i'),
        (own, tried) => {
          const blocs = own.map((text, i) => bloc(text, 1 + i))
          const at = format(tried)
          // Seen on an HD screen, and interlaced on a progressive one.
          const hdScreen = { ...at, width: 1920, height: 1080, pixelAspect: { num: 1, den: 1 } }
          const enlarged = tollOf(pictureOfFormat(at), hdScreen).charges.find((c) => c.kind === 'enlarge')
          const kept = (1 - 0.6 * (enlarged?.loss ?? 0)) * (at.scan === 'interlaced' ? 0.94 : 1)
          // Nine frames a second are sped up, where anything else was filmed: a tenth counts, and motion is free.
          const isOther = (b: Bloc) => b.picture.rate!.num / b.picture.rate!.den < 20 && own.length > 1
          const weightOf = (b: Bloc) => (isOther(b) ? b.weight / 10 : b.weight)
          const motion = new Set(['even-hold', 'even-skip', 'slip', 'uneven'])
          const keptBy = (b: Bloc) =>
            tollOf(b.picture, at)
              .charges.filter(({ kind }) => !isOther(b) || !motion.has(kind))
              .reduce((left, { loss }) => left * (1 - loss), 1)
          const lost = blocs.reduce((sum, b) => sum + weightOf(b) * (1 - keptBy(b) * kept), 0)
          const seconds = blocs.reduce((sum, b) => sum + weightOf(b), 0)
          const found = priceOf(at, blocs, { policy: defaultPolicy })
          expect(found.loss).toBeCloseTo(lost / seconds, 12)
          const [first] = blocs
          if (isOther(first!)) return
          const grade = tollOf(first!.picture, format(tried)).grade
          expect(found.shareByGrade[grade]).toBeGreaterThanOrEqual(weightOf(first!) / seconds - 1e-12)
        },
      ),
    )
  })

  it('explains only as many as are asked for, and shares the weight by grade', () => {
    const blocs = [
      bloc('1920x1080@25p', 30),
      bloc('3840x2160@25p', 10),
      bloc('640x360@25p', 20),
      bloc('1920x1080@24p', 40),
    ]
    const ranked = rank(blocs, { policy: defaultPolicy, explained: 2 })
    expect(ranked.map(({ reason }) => reason !== '')).toEqual(ranked.map((_, i) => i < 2))
    const hd = ranked.find(({ format: f }) => formatText(f) === '1920x1080@25p')!
    expect(hd.shareByGrade).toEqual({ free: 0.3, light: 0.1, heavy: 0.4, severe: 0.2 })
    expect(hd.untouchedShare).toBe(0.3)
    const none = priceOf(format('1920x1080@25p'), [], { policy: defaultPolicy })
    expect(none.shareByGrade).toEqual({ free: 1, light: 0, heavy: 0, severe: 0 })
  })

  it('does not depend on the order of the clips', () => {
    const all = [
      '3840x2160@25p',
      '1920x1080@50p',
      '720x576/64:45@50i',
      '4096x2160@23.976p',
      '1280x720@9p',
    ].map((t, i) => bloc(t, 3 + i * 2))
    const expected = order(all)
    fc.assert(
      fc.property(fc.shuffledSubarray(all, { minLength: all.length }), (shuffled) => {
        expect(order(shuffled)).toEqual(expected)
      }),
      { numRuns: 20 },
    )
  })
})

describe('what ties', () => {
  const free = { free: 1, light: 0, heavy: 0, severe: 0 }
  const price = (text: string, more: { loss?: number; untouchedShare?: number; bitDepth?: number } = {}) => {
    const { loss = 0.25, untouchedShare = 0.5, bitDepth = 8 } = more
    const textFormat = format(text)
    return {
      format: { ...textFormat, colour: { ...textFormat.colour, bitDepth } },
      loss,
      untouchedShare,
      steadyShare: untouchedShare,
      shareByGrade: free,
    }
  }
  type Tied = ReturnType<typeof price>
  const first = (a: Tied, b: Tied, lean: Parameters<typeof comparePrices>[2] = 'balanced') => {
    const [there, back] = [comparePrices(a, b, lean), comparePrices(b, a, lean)]
    expect(Math.sign(there)).toBe(-Math.sign(back))
    return there < 0 ? 'first' : 'second'
  }
  const hd = '1920x1080@25p'

  it('is the smaller loss; for the majority what leaves more free', () => {
    const [dear, free] = [price(hd, { loss: 0.3, untouchedShare: 0.9 }), price('3840x2160@25p')]
    expect(first(dear, free)).toBe('second')
    expect(first(dear, free, 'majority')).toBe('first')
    expect(first(price(hd, { loss: 0.3 }), price('3840x2160@25p'), 'majority')).toBe('second')
  })

  it('is settled by the larger share that is free', () => {
    expect(first(price('3840x2160@25i', { untouchedShare: 0.6 }), price(hd))).toBe('first')
    // A difference of rounding is none: the fewer pixels come first.
    expect(
      first(price('3840x2160@25p', { untouchedShare: 0.5 + 1e-12, loss: 0.25 - 1e-12 }), price(hd)),
    ).toBe('second')
  })

  it('then by progressive before interlaced, however large', () => {
    expect(first(price('3840x2160@25p'), price('1920x1080@50i'))).toBe('first')
  })

  it('then by fewer pixels, however fast or upright', () => {
    expect(first(price('1080x1920@50p'), price('3840x2160@25p'))).toBe('first')
    expect(first(price('1920x1080@25p'), price('1920x1200@25p'))).toBe('first')
  })

  it('then by lying before upright, however fast', () => {
    expect(first(price('1920x1080@50p'), price('1080x1920@25p'))).toBe('first')
  })

  it('then by the lower rate', () => {
    expect(first(price('1920x1080@50p', { bitDepth: 8 }), price(hd, { bitDepth: 10 }))).toBe('second')
    expect(first(price('1920x1080@100p'), price(hd))).toBe('second')
  })

  it('and last by name and depth, so that the order of the clips never matters', () => {
    expect(first(price(hd), price(hd, { bitDepth: 10 }))).toBe('second')
    expect(first(price('1440x1080/4:3@25p'), price('1440x1080/4:3@25p', { bitDepth: 12 }))).toBe('second')
  })
})
