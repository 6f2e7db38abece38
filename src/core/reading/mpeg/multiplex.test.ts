import { describe, expect, it } from 'vitest'
import { bitWriter } from '../bytes/bit-writer.fixture'
import { countingSource, memorySource } from '../bytes/source'
import { read } from '../read'
import { type Carried, filler, groups, programOf, transportOf } from './multiplex.fixture'

const pictures = (parts: Carried['parts']): Carried => ({ id: 0x100, type: 2, parts })
const ofProgram = (parts: Carried['parts']): Carried => ({ id: 0xe0, type: 2, parts })
const sound = (type: number, parts: Carried['parts'], descriptors: readonly number[] = []): Carried => ({
  id: 0x110,
  type,
  descriptors,
  parts,
})
async function readingOf(bytes: Uint8Array) {
  const source = countingSource(memorySource(bytes))
  const result = await read(source)
  if (!result.ok) throw new Error(result.error.message)
  return { ...result.reading, read: source.bytesRead, origins: result.origins, frameTimes: result.frameTimes }
}
const constant = (rate: number, frameCount: number) => ({
  rate: { num: rate, den: 1 },
  rateMode: 'constant',
  frameCount,
})
/** A frame of AC-3: 48 kHz, front and surround with a low channel. */
const ac3 = [0x0b, 0x77, 0, 0, 0x14, 0x40, 0xe1, 0, ...filler(100)]
const sounds = (bytes: readonly number[], from: number, to: number, step = 0.5) =>
  Array.from({ length: Math.ceil((to - from) / step) }, (_, i) => ({
    time: from + i * step,
    bytes: Uint8Array.from(bytes),
  }))

describe('a multiplex that no index describes', () => {
  it.each<[string, (streams: Carried[]) => Uint8Array, (parts: Carried['parts']) => Carried]>([
    ['transport', transportOf, pictures],
    ['program', programOf, ofProgram],
  ])(
    'of pictures of many bits is read to its end, within its budget: %s stream',
    async (_, write, stream) => {
      const reading = await readingOf(write([stream(groups(250, 25, () => ({ size: 150_000 })))]))
      expect(reading.video).toMatchObject(constant(25, 250))
      expect(reading.durationSec).toBeCloseTo(10, 6)
      expect(reading.read).toBeLessThanOrEqual(4_000_000)
      expect(reading.origins['video.frameCount']).toMatch('reckoned')
    },
  )

  it('counts the pictures of one that is read whole', async () => {
    const reading = await readingOf(transportOf([pictures(groups(61, 25))]))
    expect(reading.video).toMatchObject(constant(25, 61))
    expect(reading.origins['video.frameCount']).toBe('pictures, counted')
  })

  it.each([2, 30])('seeks the last picture where sound goes on for %i seconds', async (seconds) => {
    const loud = sounds([...ac3, ...filler(60_000)], 0, 10 + seconds, 0.1)
    const reading = await readingOf(
      transportOf([pictures(groups(250, 25, () => ({ size: 30_000 }))), sound(0x81, loud)]),
    )
    expect(reading.video).toMatchObject(constant(25, 250))
    expect(reading.read).toBeLessThanOrEqual(4_000_000)
  })

  it('hears sound that begins far behind its picture', async () => {
    const parts = groups(250, 25, () => ({ size: 50_000 }))
    const reading = await readingOf(transportOf([pictures(parts), sound(0x81, sounds(ac3, 1.8, 10))]))
    expect(reading.audio).toMatchObject([{ codec: 'AC-3', channels: 6, sampleRate: 48_000, startSec: 1.8 }])
  })

  it.each<[string, (n: number) => boolean, object]>([
    ['every other frame', (n) => n % 2 === 0, { rateMode: 'constant', rate: { num: 25, den: 2 } }],
    ['every fifth', (n) => n % 5 !== 4, { rateMode: 'variable', maxRate: 25, minRate: 12.5 }],
    ['more and more', (n) => n % (2 + Math.floor(n / 40)) === 0, { rateMode: 'variable' }],
  ])('believes the times where frames are missing: %s', async (_, keeps, expected) => {
    // Missing pictures are missing in the order of display: each keeps its own time.
    const inOrder = groups(200, 25).sort((a, b) => a.time! - b.time!)
    const parts = inOrder.filter((_part, i) => keeps(i))
    const reading = await readingOf(transportOf([pictures(parts)]))
    expect(reading.video).toMatchObject({ ...expected, frameCount: parts.length })
  })

  it('keeps the times of a variable one that is read whole', async () => {
    const times = [0, 1, 2, 4, 5, 6, 8, 11].map((n) => n / 25)
    const parts = groups(8, 25, undefined, (n) => times[n]!)
    const { frameTimes, video } = await readingOf(transportOf([pictures(parts)]))
    expect(video).toMatchObject({ rateMode: 'variable', frameCount: 8 })
    expect(frameTimes?.presentationTimes).toEqual(times.map((time) => Math.round(time * 90_000)))
  })

  it('says that it reckoned, where a variable one is long', async () => {
    const kept = groups(1000, 25, () => ({ size: 20_000 })).sort((a, b) => a.time! - b.time!)
    const reading = await readingOf(transportOf([pictures(kept.filter((_part, i) => i % 5 !== 4))]))
    expect(reading.video!.rateMode).toBe('variable')
    expect(Math.abs(reading.video!.frameCount! - 800)).toBeLessThan(8)
    expect(reading.notes).toContainEqual(expect.objectContaining({ code: 'reckoned-count' }))
  })

  it('times pictures without a time of their own by their place in the group', async () => {
    const parts = groups(50, 25).map((part, i) => (i % 12 === 0 ? part : { ...part, time: null }))
    const reading = await readingOf(programOf([ofProgram(parts)]))
    expect(reading.video).toMatchObject(constant(25, 50))
  })

  it.each<[string, (streams: Carried[]) => Uint8Array, (parts: Carried['parts']) => Carried]>([
    ['transport', transportOf, pictures],
    ['program', programOf, ofProgram],
  ])('takes film out of pulldown by flag: %s stream', async (_, write, stream) => {
    // Every other picture for three fields: 48 pictures in the time of 60 frames.
    const timeOf = (n: number) => ((5 * Math.floor(n / 2) + (n % 2 ? 3 : 0)) * 1001) / 60_000
    const parts = groups(48, 24, (n) => ({ repeats: n % 2 === 0, rateCode: 4 }), timeOf)
    const reading = await readingOf(write([stream(parts)]))
    expect(reading.video).toMatchObject({
      rate: { num: 24000, den: 1001 },
      rateMode: 'constant',
      frameCount: 48,
      scan: 'progressive',
    })
    expect(reading.durationSec).toBeCloseTo(2.002, 6)
    expect(reading.notes).toContainEqual(expect.objectContaining({ code: 'pulldown-by-flag' }))
  })

  const opus = [5, 4, 0x4f, 0x70, 0x75, 0x73, 0x7f, 2, 0x80, 6]
  const dts = [
    0x7f,
    0xfe,
    0x80,
    1,
    ...bitWriter().u(0, 28).u(9, 6).u(13, 4).u(0, 15).u(1, 2).bytes(8),
    ...filler(9),
  ]
  it.each<[string, number, readonly number[], readonly number[], string | null, object]>([
    [
      'Opus by its descriptors',
      6,
      opus,
      [0x7f, 0xe0],
      null,
      { codec: 'Opus', channels: 6, sampleRate: 48_000 },
    ],
    ['DTS by its type', 0x82, [], dts, 'HDMV', { codec: 'DTS', channels: 6, sampleRate: 48_000 }],
    [
      'LPCM of discs by registration',
      0x80,
      [],
      [3, 0xc0, 0x94, 0xc0],
      'HDMV',
      { codec: 'PCM', channels: 6, sampleRate: 96_000, bitDepth: 24 },
    ],
    [
      'SMPTE 302M',
      6,
      [5, 4, 0x42, 0x53, 0x53, 0x44],
      [0, 0, 0x40, 0x20],
      null,
      { codec: 'PCM', channels: 4, bitDepth: 24 },
    ],
  ])('knows %s', async (_, type, descriptors, bytes, program, expected) => {
    const reading = await readingOf(
      transportOf([pictures(groups(24, 25)), sound(type, sounds(bytes, 0, 1), descriptors)], program),
    )
    expect(reading.audio).toMatchObject([expected])
  })

  it('never believes a sync byte that stands there by chance, and says what is not said', async () => {
    // It looks like MPEG audio, where AC-3 is declared.
    const chance = [0xff, 0xfd, 0x84, 0x04, ...filler(40)]
    const reading = await readingOf(
      transportOf([pictures(groups(24, 25)), sound(0x81, sounds(chance, 0, 1))]),
    )
    expect(reading.audio).toEqual([{ codec: 'AC-3', channels: null, sampleRate: null, bitDepth: null }])
    expect(reading.notes).toContainEqual(
      expect.objectContaining({
        code: 'sound-not-said',
        message: expect.stringContaining('channels and sample rate'),
      }),
    )
  })

  it('reads sound that has no picture', async () => {
    const reading = await readingOf(transportOf([sound(0x81, sounds(ac3, 0, 5, 0.032))]))
    expect(reading).toMatchObject({ kind: 'audio', video: null, audio: [{ codec: 'AC-3', channels: 6 }] })
    expect(reading.durationSec).toBeCloseTo(5, 1)
  })
})
