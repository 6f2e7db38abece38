import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { rational } from '../rational/rational'
import type { ReadResult } from '../reading/read'
import { stillReading } from '../reading/still/still'
import { Clip } from '../model/clip'
import { type NumberedFile, atRate, continuing, lengthened, numberedClip, sortedOut } from './numbered'
import { framesOfFile, partAt, singlesOf } from './parts'
import { exactDuration } from '../model/timing'

const read = (width = 1920): ReadResult => ({
  ok: true,
  reading: stillReading('DPX', 8_000_000, {
    width,
    height: 1080,
    bitDepth: 10,
    chroma: '4:4:4',
    alpha: false,
  }),
  origins: {},
})
const at24 = rational(24)
const unread = (number: number, name = `strike.${String(number).padStart(4, '0')}.dpx`) => ({
  id: `file${number}`,
  name,
  folder: 'plates',
  sizeBytes: 8_000_000,
  source: { kind: 'file' } as const,
})
const file = (number: number, result: ReadResult | null = null): NumberedFile => ({
  file: { ...unread(number), hash: null, arrivedAt: '2026-12-01T09:00:00Z' },
  number,
  result,
})
const clipOf = (numbers: readonly number[]) =>
  numberedClip(
    numbers.map((n, i) => file(n, i === 0 ? read() : null)),
    'strike',
    at24,
  )!.clip

describe('a clip of numbered pictures', () => {
  it('keeps one reading for all, passes its schema, and has the name of them all', () => {
    const clip = clipOf([1001, 1002, 1003, 1005])
    expect(clip.name).toBe('strike.1001–1005.dpx')
    expect(clip.parts.map(({ reading, frames }) => [reading !== null, frames])).toEqual([
      [true, undefined],
      [false, undefined],
      [false, 2],
      [false, undefined],
    ])
    expect(Clip.parse(JSON.parse(JSON.stringify(clip)))).toEqual(clip)
    expect(singlesOf(clip).map(({ name, reading }) => [name, reading?.kind])).toEqual(
      [1001, 1002, 1003, 1005].map((n) => [`strike.${n}.dpx`, 'still']),
    )
    expect(exactDuration(clip)).toEqual(rational(5, 24))
    expect(
      Clip.safeParse({ ...clip, parts: clip.parts.map((part) => ({ ...part, reading: null })) }).success,
    ).toBe(false)
  })

  it('shows at each frame the picture of that number, or the last before it', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.integer({ min: 1, max: 300 }), { minLength: 3, maxLength: 200 }),
        (list) => {
          const numbers = list.sort((a, b) => a - b)
          const clip = clipOf(numbers)
          const total = clip.parts.reduce((sum, part) => sum + framesOfFile(part), 0)
          expect(total).toBe(clip.reading!.video!.frameCount)
          for (let frame = 0; frame < total; frame++) {
            const last = numbers.findLast((n) => n <= numbers[0]! + frame)!
            expect(partAt(clip, frame)!.part.id).toBe(`file${last}`)
          }
        },
      ),
      { numRuns: 50 },
    )
  })

  it('goes on with pictures that come later, and takes what was missing, frames staying where they are', () => {
    const clip = clipOf([998, 999, 1000, 1003])
    const others = [unread(997), unread(1001), unread(1004), unread(1005), unread(1002, 'blow.1002.dpx')]
    const [found] = continuing([clip], others)
    expect(found!.pictures.map(({ number }) => number)).toEqual([1001, 1004, 1005])
    const longer = lengthened(
      clip,
      found!.pictures.map(({ number }) => file(number, read())),
    )!.clip
    expect(longer.reading!.video).toMatchObject({
      frameCount: 8,
      numbered: { first: 998, last: 1005, leftOut: [{ from: 1002, to: 1002, why: 'missing' }] },
    })
    expect(partAt(longer, 3)!.part.id).toBe('file1001')
    // One that is torn is left out, and the rest goes on.
    const torn: ReadResult = { ok: false, error: { code: 'truncated', message: 'It ends too early.' } }
    const partly = lengthened(clip, [file(1004, read()), file(1005, torn), file(1006, read())])!
    expect(partly.aside.map(({ why }) => why)).toEqual(['damaged'])
    expect(partly.clip.reading!.video!.frameCount).toBe(9)
    expect(continuing([clip], [unread(997)])).toEqual([])
    expect(continuing([], others)).toEqual([])
  })

  it('takes another rate where none is stated, and none where one is', () => {
    const clip = clipOf([1, 2, 3])
    const slower = atRate(clip, rational(12))
    expect(slower.reading).toMatchObject({
      durationSec: 3 / 12,
      video: { rate: rational(12), frameCount: 3 },
    })
    expect(atRate(clip, at24)).toBe(clip)
  })
})

describe('files on their way in', () => {
  it('are sorted out: those that are there, those that go on, runs, and the rest', () => {
    const clip = clipOf([1, 2, 3])
    const card = [1, 2, 3].map((n) => unread(n, `mould.${n}.png`))
    const many = Array.from({ length: 30 }, (_, i) => unread(100 + i, `pour.${100 + i}.png`))
    const plates = [1, 2, 4].map((n) => unread(n, `cast.${n}.exr`))
    const sorted = sortedOut(
      [clip],
      [unread(2), unread(4), ...card, ...many, ...plates, unread(9, 'bell.mov')],
    )
    expect(sorted.known.map(({ file }) => file.name)).toEqual(['strike.0002.dpx'])
    expect(sorted.more.map(({ pictures }) => pictures.length)).toEqual([1])
    // A few stills may be photographs; frames of a film are frames.
    expect(sorted.runs.map((run) => run.length).sort()).toEqual([3, 30])
    expect(sorted.lone.map(({ name }) => name)).toEqual([
      'mould.1.png',
      'mould.2.png',
      'mould.3.png',
      'bell.mov',
    ])
  })
})
