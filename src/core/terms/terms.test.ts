import { readFileSync, readdirSync } from 'node:fs'
import { join } from 'node:path'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { parseFormat } from '../format/parse'
import { aVideo } from '../model/doc.fixture'
import { boxHeight, boxWidth } from './drawing'
import { allTerms, marked, termMeant, termOf, termsFound } from './terms'

/** What has to be explained, in the words of the trade and in ours. */
const wanted =
  `progressive, interlaced, field order, combing, pixel shape, display shape, HD, UHD, DCI 4K, wrapper, codec, frame rate, /1001,
  drop-frame, cadence, hold, blend, speed, 2:3 pulldown, judder, letterbox, pillarbox, crop, fit, headroom, kept reduction,
  baked reduction, resize filter, chroma subsampling, bit depth, range, primaries, transfer, HDR, variable rate, proxy,
  nested timeline, conform, loudness, true peak, toll, charge, grade, ranking, siding, reading, evidence, correction, treatment`
    .split(',')
    .map((name) => name.trim())

describe('every term', () => {
  it.each(wanted)('%s has an entry', (name) => expect(termMeant(name)).toBeDefined())

  it('has an id and writings of its own', () => {
    const writings = allTerms.flatMap(({ name, also }) => [
      ...new Set([name, ...also].map((text) => text.toLowerCase())),
    ])
    expect(new Set(writings).size).toBe(writings.length)
    expect(new Set(allTerms.map(({ id }) => id)).size).toBe(allTerms.length)
    for (const term of allTerms) expect(termOf(term.id)).toBe(term)
  })

  it.each(allTerms)(
    '$name is one sentence, what it costs one or two, and none is long',
    ({ says, costs, drawing }) => {
      for (const text of [says, costs, drawing.says]) {
        expect(text).toMatch(/^[\p{Lu}\p{N}/].*\.$/su)
        expect(text).not.toMatch(/undefined|NaN|null/)
      }
      expect(says.length).toBeLessThan(150)
      expect(costs.length).toBeLessThan(150)
    },
  )

  it.each(allTerms)(
    '$name is drawn within its box, and what moves is another picture later',
    ({ drawing }) => {
      const moments = drawing.lasts ? [0, 0.1, 0.37, 0.62, 0.9].map((share) => share * drawing.lasts) : [0]
      const pictures = moments.map((t) => drawing.at(t))
      for (const shapes of pictures) {
        expect(shapes.length).toBeGreaterThan(1)
        for (const shape of shapes) {
          const ends =
            shape.kind === 'path'
              ? shape.points
              : shape.kind === 'ellipse'
                ? [
                    [shape.x - shape.rx, shape.y - shape.ry],
                    [shape.x + shape.rx, shape.y + shape.ry],
                  ]
                : shape.kind === 'words'
                  ? [[shape.x, shape.y]]
                  : [
                      [shape.x, shape.y],
                      [shape.x + shape.width, shape.y + shape.height],
                    ]
          // A laid picture may hang out of its frame, never out of the box by more than it is tall.
          for (const [x, y] of ends) {
            expect(x).toBeGreaterThanOrEqual(-1)
            expect(x).toBeLessThanOrEqual(boxWidth + 1)
            expect(y).toBeGreaterThanOrEqual(-30)
            expect(y).toBeLessThanOrEqual(boxHeight + 30)
          }
          if (shape.kind === 'samples')
            expect(shape.values.length).toBe(shape.columns * shape.rows * (shape.inColour ? 3 : 1))
        }
      }
      if (drawing.lasts)
        expect(new Set(pictures.map((shapes) => JSON.stringify(shapes))).size).toBeGreaterThan(1)
    },
  )
})

describe('a clip in hand', () => {
  const format = parseFormat('1920x1080@60p')!.format
  const clip = aVideo('a', '720x576/64:45@50i', 10)
  const says = (id: string, against: Format | null = format) =>
    termOf(id)?.ofClip?.({ clip, format: against })
  type Format = typeof format

  it('is spoken of with its own figures', () => {
    expect(says('pixel-shape')).toBe('Its pixels are 64:45: 720×576 shows as 1024×576.')
    expect(says('cadence')).toBe('25 on 60: 7 of every 12 timeline frames show a frame again.')
    expect(says('pillarbox')).toMatch(/empty columns left|no bars/)
    expect(says('interlaced')).toMatch(/interlaced/)
  })
  it('is not spoken of against a format where there is none', () => {
    for (const id of ['cadence', 'judder', 'toll', 'headroom', 'letterbox']) expect(says(id, null)).toBeNull()
  })
  it('gives no term an exception or a hole, whatever it holds', () => {
    const sound = {
      ...clip,
      reading: clip.reading && { ...clip.reading, kind: 'audio' as const, video: null },
    }
    const unread = { ...clip, reading: null }
    for (const anyClip of [clip, sound, unread])
      for (const { ofClip } of allTerms)
        expect(ofClip?.({ clip: anyClip, format }) ?? '').not.toMatch(/undefined|NaN|null|\[object/)
  })
})

describe('texts', () => {
  it('are marked at the first mention of each term, the longest writing first', () => {
    expect(marked('Field order and field order, of 2:3 pulldown')).toEqual([
      { text: 'Field order', term: termOf('field-order') },
      { text: ' and field order, of ', term: null },
      { text: '2:3 pulldown', term: termOf('pulldown') },
    ])
    expect(marked('reordered').every(({ term }) => term === null)).toBe(true)
  })
  it('stay the same text', () => {
    const piece = fc.oneof(fc.string(), fc.constantFrom(...allTerms.map(({ name }) => name)))
    fc.assert(
      fc.property(fc.array(piece), (texts) => {
        const text = texts.join(' ')
        expect(
          marked(text)
            .map((part) => part.text)
            .join(''),
        ).toBe(text)
      }),
    )
  })
  it('are searched by every word, names first', () => {
    expect(termsFound('field order')[0]?.id).toBe('field-order')
    expect(termsFound('egg')[0]?.id).toBe('pixel-shape')
    expect(termsFound('no such word at all')).toEqual([])
    expect(termsFound('')).toHaveLength(allTerms.length)
  })
})

it('every mark on a screen leads to an entry', () => {
  const files = readdirSync(join(import.meta.dirname, '../../app'), { recursive: true, encoding: 'utf8' })
  const ids = files
    .filter((name) => name.endsWith('.vue') && !name.includes('components/terms/'))
    .flatMap((name) => {
      const text = readFileSync(join(import.meta.dirname, '../../app', name), 'utf8')
      return [
        ...text.matchAll(/\bterm(?:-id)?="([a-z0-9-]+)"/g),
        ...text.matchAll(/\bterm: '([a-z0-9-]+)'/g),
      ].map((match) => match[1] ?? '')
    })
  expect(ids.length).toBeGreaterThan(15)
  for (const id of ids) expect(termOf(id), id).toBeDefined()
})
