import { describe, expect, it } from 'vitest'
import { carryWays, type CarryWish } from '../edit/carrying'
import { counting } from '../edit/cut.fixture'
import { aDoc, aVideo } from '../model/doc.fixture'
import type { Draft } from '../edit/draft'
import { addTimeline } from '../edit/operations'
import { append, newTimeline, placementOf } from '../edit/placing'
import type { Doc } from '../model/project'
import { parseFormat } from '../format/parse'
import { rational } from '../rational/rational'
import { type CarryPrice, carryPrice } from './carried'
import { carryWords, waySays } from './carry-words'

const format = (text: string) => parseFormat(text)!.format
function placed(text = '1920x1080@25p'): Draft<Doc> {
  const hd = format(text)
  const doc = aDoc([
    aVideo('hall', '1920x1080@25p', 8),
    aVideo('film', '1920x1080@24p', 8),
    aVideo('wide', '3840x2160@25p', 8),
  ])
  addTimeline(doc, newTimeline('t', 'Main cut', '', hd))
  append(
    doc,
    't',
    ['hall', 'film', 'wide'].map((id) => ({ ...placementOf(doc.clips[id]!, hd, `p-${id}`), length: 33 })),
  )
  return doc
}
function prices(to: string, more: Partial<CarryWish> = {}, doc = placed()): Record<string, CarryPrice> {
  const wish = { format: format(to), origin: null, keepPitch: true, ...more }
  const making = { name: 'Carried', at: '', newId: counting() }
  return Object.fromEntries(
    carryWays.map((way) => [way, carryPrice(doc as Doc, doc.timelines.t! as never, { way, wish }, making)]),
  )
}
const lines = (price: CarryPrice, keepPitch = true, doc = placed()) =>
  Object.fromEntries(
    carryWords(price, doc.timelines.t! as never, keepPitch).map(({ name, says }) => [name, says]),
  )

describe('what carrying a cut costs', () => {
  it('is told of what comes out: boundaries that move, who pays more, who less', () => {
    const { recut } = prices('1920x1080@24p')
    // 33 frames at 25 are 31.68 at 24: the boundaries at 33, 66 and 99 move.
    expect(recut!.moved.map(({ frame, carried }) => [frame, carried])).toEqual([
      [66, 63],
      [33, 32],
      [99, 95],
    ])
    expect(recut!.boundaries).toBe(4)
    expect(recut!.paysMore.map(({ name }) => name)).toEqual(['hall.mp4', 'wide.mp4'])
    expect(recut!.paysLess.map(({ name, grades }) => [name, grades[1]])).toEqual([['film.mp4', 'free']])
    expect(recut!.paysMore[0]!.adds.map(({ kind }) => kind)).toContain('uneven')
  })

  it('of a nested one is what is paid inside and outside', () => {
    const { nested } = prices('1920x1080@24p')
    expect(nested!.paysMore).toHaveLength(3)
    expect(nested!.paysLess).toEqual([])
    expect(nested!.moved).toHaveLength(3)
    expect(nested!.countByGrade[1].free).toBe(0)
  })

  it('of one that is slowed is nothing, and its length', () => {
    const { slowed } = prices('1920x1080@24p')
    expect(slowed!.paysMore.filter(({ name }) => name !== 'film.mp4')).toEqual([])
    expect(slowed!.moved).toEqual([])
    expect(slowed!.length.map(({ frames }) => frames)).toEqual([99, 99])
    expect(slowed!.pitch).toBeCloseTo(-0.7067, 3)
  })

  it('of another shape is what is barred and cropped, the worst first', () => {
    const anew = prices('1080x1920@25p', { plan: { all: 'anew' } }).recut!
    expect(anew.paysMore.every(({ adds }) => adds.some(({ kind }) => kind === 'bars'))).toBe(true)
    const fill = prices('1080x1920@25p', { plan: { all: 'fill-shape' } }).recut!
    expect(fill.paysMore.every(({ adds }) => adds[0]!.kind === 'crop' || adds[0]!.kind === 'enlarge')).toBe(
      true,
    )
    expect(fill.moved).toEqual([])
    const [first, ...rest] = fill.paysMore
    const lost = ({ loss }: (typeof rest)[number]) => loss[1] - loss[0]
    expect(
      rest.every((price) => lost(price) <= lost(first!) + 1e-9 || price.grades[1] !== first!.grades[1]),
    ).toBe(true)
  })
})

describe('headroom', () => {
  it('is told where a larger frame takes it', () => {
    const { recut } = prices('3840x2160@25p')
    // The wide clip could be zoomed to twice its size in the smaller frame.
    expect(recut!.losesHeadroom).toEqual([{ name: 'wide.mp4', before: 2, after: 1 }])
    expect(prices('1280x720@25p').recut!.losesHeadroom).toEqual([])
  })
})

describe('what carrying a cut costs, in words', () => {
  it('has a line for each thing, with its figures', () => {
    const { recut, nested, slowed } = prices('1920x1080@24p')
    expect(lines(recut!)).toMatchObject({
      cuts: '3 of 4 move, by at most 15.0 ms',
      length: '00:03:24 → 00:03:23, 1.7 ms shorter',
      'pay less': 'film.mp4: heavy → free',
      'run out': 'none',
      starts: 'at 00:00:00:00, as before',
      undone: 'by one step back',
    })
    expect(lines(nested!).cuts).toBe('none move; 3 of 4 fall inside a frame')
    expect(lines(slowed!)).toMatchObject({
      cuts: 'none move: each frame stays itself',
      length: '00:03:24 → 00:04:03, 4.2 % longer',
      sound: 'follows, its pitch kept',
    })
    expect(lines(slowed!, false).sound).toBe('follows, 0.71 semitones lower')
    expect(carryWays.every((way) => waySays[way].name.length > 0)).toBe(true)
  })

  it('tells what is pushed, what is held and what runs out', () => {
    const doc = placed('1920x1080@50p')
    const hd50 = format('1920x1080@50p')
    const unplaced = placementOf(doc.clips.hall!, hd50, '')
    append(
      doc,
      't',
      Array.from({ length: 6 }, (_, i) => ({ ...unplaced, id: `tick${i}`, length: 1 })),
    )
    expect(lines(prices('1920x1080@25p', {}, doc).recut!, true, doc).cuts).toMatch(
      /; \d pushed by placements of one frame$/,
    )
    const mixed = placed()
    mixed.timelines.t!.tracks[0]!.placements[1]!.treatment = { motion: { kind: 'blend' } }
    expect(lines(prices('1920x1080@24p', {}, mixed).slowed!, true, mixed).cuts).toBe(
      'none move; 1 placement mixed or pulled down is held',
    )
    const every = placed()
    Object.assign(every.timelines.t!.tracks[0]!.placements[0]!, {
      length: 180,
      sourceIn: rational(0),
      treatment: { motion: { kind: 'speed', pace: { kind: 'every-frame' }, wanted: true, keepPitch: true } },
    })
    every.timelines.t!.tracks[0]!.placements.splice(1)
    expect(lines(prices('1920x1080@50p', {}, every).recut!, true, every)['run out']).toBe(
      '1 placement reach beyond their source',
    )
  })
})
