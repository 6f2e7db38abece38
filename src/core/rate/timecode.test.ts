import { describe, expect, it } from 'vitest'
import { rational } from '../rational/rational'
import { frameToTimecode, timecodeToFrame } from './timecode'

const r2997 = rational(30000, 1001)
const r5994 = rational(60000, 1001)

describe('timecode', () => {
  it('drops two numbers a minute at 29.97 but not in the tenth', () => {
    expect(frameToTimecode(1799, r2997, true)).toBe('00:00:59;29')
    expect(frameToTimecode(1800, r2997, true)).toBe('00:01:00;02')
    expect(frameToTimecode(17982, r2997, true)).toBe('00:10:00;00')
    expect(timecodeToFrame('00:01:00;00', r2997, true)).toBeNull()
  })

  it('drops four at 59.94', () => {
    expect(frameToTimecode(3600, r5994, true)).toBe('00:01:00;04')
  })

  it('never drops at other rates', () => {
    expect(frameToTimecode(1800, rational(30), true)).toBe('00:01:00:00')
    expect(frameToTimecode(24 * 60, rational(24000, 1001), true)).toBe('00:01:00:00')
  })

  it.each([
    ['29.97 drop-frame', r2997, true, 2589408],
    ['59.94 drop-frame', r5994, true, 5178816],
    ['29.97 counted through', r2997, false, 2592000],
    ['25', rational(25), false, 2160000],
  ] as const)(
    'is exact both ways over 24 hours at %s',
    (_, rate, drop, frames) => {
      let wrong = 0
      for (let n = 0; n < frames; n++)
        if (timecodeToFrame(frameToTimecode(n, rate, drop), rate, drop) !== n) wrong++
      expect(wrong).toBe(0)
      expect(frameToTimecode(frames, rate, drop)).toMatch(/^00:00:00[:;]00$/)
    },
    60_000,
  )

  it.each(['', '1:2:3:4', '24:00:00:00', '00:00:00:25', '00:61:00:00'])('refuses %j at 25', (text) => {
    expect(timecodeToFrame(text, rational(25))).toBeNull()
  })
})
