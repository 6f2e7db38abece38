import { runningTime } from '../words/figures'
import { describe, expect, it } from 'vitest'
import { parseFormat } from '../format/parse'
import { type Mains, defaultPolicy, defaultWeights } from '../toll/policy'
import { tollTable } from '../toll/table'
import { bloc } from './bloc.fixture'
import { reasonFor } from './reason'
import { countedBlocs } from './vote'
import type { Bloc } from './bloc'

const format = (text: string) => parseFormat(text)!.format
const said = (at: string, blocs: Bloc[], delivered: string[] = [], mains: Mains | null = null) =>
  reasonFor(format(at), blocs, {
    table: tollTable(defaultWeights),
    deliverables: delivered.map(format),
    mains,
  })

describe('running times', () => {
  it.each([
    [2, '2 s'],
    [4.27, '4.3 s'],
    [38.4, '38 s'],
    [252, '4 min 12 s'],
    [61, '1 min 01 s'],
    [3900, '1 h 05 min'],
  ])('%f s is %s', (seconds, text) => expect(runningTime(seconds)).toBe(text))
})

describe('the reason of a candidate', () => {
  it('says what stays, and what costs most with its worst case', () => {
    const mixed = [bloc('3840x2160@25p', 60), bloc('1920x1080@25p', 30), bloc('1280x720@25p', 10)]
    expect(said('3840x2160@25p', mixed)).toBe(
      '60 % stays untouched (1 min 00 s). Dearest over 40 s: 1920×1080 25p enlarged 2.0: 75 % of the pixels invented.',
    )
    expect(said('3840x2160@25p', [bloc('3840x2160@25p', 60)])).toBe('All footage stays untouched.')
    expect(said('1920x1080@24p', [bloc('1920x1080@25p', 60)])).toMatch(
      /^Nothing stays untouched\. Dearest over 1 min 00 s: 1920×1080 25p 1 frame in 25 dropped/,
    )
    expect(said('1920x1080@24p', [])).toBe('No footage votes.')
  })
  it('says once what counts less, since it was filmed to be slowed or sped up', () => {
    const counts = [bloc('1920x1080@25p', 60)].concat(
      [bloc('1920x1080@100p', 30), bloc('1280x720@100p', 3), bloc('1920x1080@119.88p', 1)],
      [bloc('1920x1080@9p', 9)],
    )
    const words = said('1920x1080@25p', [...countedBlocs(counts, defaultPolicy)])
    expect(words).toContain(
      'Filmed to be slowed, 100p and 119.88p count 10 %. Filmed to be sped up, 9p counts 10 %.',
    )
    // Where there is nothing else, it counts in full.
    expect(said('1920x1080@25p', [...countedBlocs(counts.slice(1), defaultPolicy)])).not.toContain('Filmed')
  })

  it('adds up each kind over all clips, and names the one that pays most of it', () => {
    // Two small ones are enlarged, and together dearer than the one with another rate.
    const clips = [
      bloc('1920x1080@24p', 40),
      bloc('1280x720@25p', 20),
      bloc('960x540@25p', 25),
      bloc('1280x720@25p', 10, { rotation: 0, bitDepth: 10 }),
    ]
    expect(said('1920x1080@25p', clips)).toBe(
      'Nothing stays untouched. Dearest over 55 s: 960×540 25p enlarged 2.0: 75 % of the pixels invented.',
    )
    expect(said('1920x1080@25p', [...clips].reverse())).toBe(said('1920x1080@25p', clips))
    // Of two kinds the dearer one is told, whichever comes first.
    const rateFirst = [bloc('1920x1080@24p', 60), bloc('1280x720@25p', 5)]
    expect(said('1920x1080@25p', rateFirst)).toContain('Dearest over 1 min 00 s: 1920×1080 24p')
    expect(said('1920x1080@25p', rateFirst.reverse())).toContain('Dearest over 1 min 00 s: 1920×1080 24p')
  })

  it('has nothing dear to tell where charges cost nothing', () => {
    expect(said('1080x1920@25p', [bloc('1920x1080@25p', 60, { rotation: 90 })])).toBe(
      'All footage stays untouched.',
    )
  })

  it('says of a delivery the dearest, or that it goes out as it is', () => {
    expect(said('1920x1080@25p', [], ['1280x720@25p', '640x360@25p', '1920x1080@25p'])).toBe(
      'No footage votes. Delivered as 640×360 · 25p: reduced to 33 %: room to zoom to 300 %.',
    )
    expect(said('1280x720@25p', [])).toBe(
      'No footage votes. Seen on an HD screen it is enlarged 1.5: 56 % of the pixels invented.',
    )
  })

  it('says what delivery adds', () => {
    const hd = [bloc('1920x1080@25p', 60)]
    expect(said('1920x1080@25p', hd, ['1920x1080@25p'])).toBe(
      'All footage stays untouched. Delivered as it is.',
    )
    expect(said('1920x1080@25p', hd, ['1920x1080@25p', '1280x720@25p'])).toBe(
      'All footage stays untouched. Delivered as 1280×720 · 25p: reduced to 67 %: room to zoom to 150 %.',
    )
  })

  it('names the screen, the fields and the region where they cost', () => {
    expect(said('1280x720@25p', [bloc('1280x720@25p', 60)])).toBe(
      'All footage stays untouched. Seen on an HD screen it is enlarged 1.5: 56 % of the pixels invented.',
    )
    expect(said('1920x1080@50i', [bloc('1920x1080@50i', 60)], [], 60)).toBe(
      'All footage stays untouched. Interlaced, and screens are progressive. 25 is foreign where mains have 60 Hz.',
    )
  })
})
