import { describe, expect, it } from 'vitest'
import { parseFormat } from '../format/parse'
import { defaultPolicy } from '../toll/policy'
import { pictureOfFormat } from '../toll/toll'
import { reasonFor, runningTime } from './reason'
import type { Bloc } from './vote'

const format = (text: string) => parseFormat(text)!.format
const bloc = (text: string, seconds: number): Bloc => ({
  picture: pictureOfFormat(format(text)),
  ids: [text],
  seconds,
  weight: seconds,
})
const said = (at: string, blocs: Bloc[], delivered: string[] = []) =>
  reasonFor(format(at), blocs, delivered.map(format), defaultPolicy)

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
  it('says what delivery adds', () => {
    const hd = [bloc('1920x1080@25p', 60)]
    expect(said('1920x1080@25p', hd, ['1920x1080@25p'])).toBe(
      'All footage stays untouched. Delivered as it is.',
    )
    expect(said('1920x1080@25p', hd, ['1920x1080@25p', '1280x720@25p'])).toBe(
      'All footage stays untouched. Delivered as 1280×720 · 25p: reduced to 67 %: room to zoom to 150 %.',
    )
  })
})
