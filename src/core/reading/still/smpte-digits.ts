import type { Reading } from '../reading'

/** Digits of hours, minutes, seconds and frames among the flags of SMPTE ST 12-1, as DPX and OpenEXR keep them in one word. */
const digitsOnly = 0x3f7f7f3f
const dropFlag = 0x40

/** The timecode that a word of digits says; null where it says none. */
export function timecodeOfDigits(word: number): Reading['timecode'] {
  const text = ((word & digitsOnly) >>> 0).toString(16).padStart(8, '0')
  const [hours = '', minutes = '', seconds = '', frames = ''] = text.match(/../g) ?? []
  if (!/^\d{8}$/.test(text) || Number(hours) > 23 || Number(minutes) > 59 || Number(seconds) > 59) return null
  const dropFrame = (word & dropFlag) !== 0
  return { start: `${hours}:${minutes}:${seconds}${dropFrame ? ';' : ':'}${frames}`, dropFrame }
}
