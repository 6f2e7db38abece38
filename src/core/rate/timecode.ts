import { toNumber } from '../rational/rational'
import type { Rate } from './rate'

/** A label of a frame, SMPTE ST 12-1. */
export interface Timecode {
  readonly start: string
  readonly dropFrame: boolean
}

/** Whole frames that a timecode counts in a second: 30 for 29.97. */
export const nominalRate = (rate: Rate): number => Math.max(1, Math.round(toNumber(rate)))

/** Drop-frame exists for 30000/1001 and 60000/1001 only. */
export const canDropFrame = (rate: Rate): boolean =>
  rate.den === 1001 && (rate.num === 30000 || rate.num === 60000)

/** Numbers left out at the start of each minute but the tenth: 2 at 29.97, 4 at 59.94. */
const droppedPerMinute = (nominal: number) => nominal / 15

/** How many frames are numbered in a day. */
export function framesOfDay(rate: Rate, dropFrame = false): number {
  const nominal = nominalRate(rate)
  const dropped = dropFrame && canDropFrame(rate) ? droppedPerMinute(nominal) * 9 * 144 : 0
  return nominal * 24 * 3600 - dropped
}

/**
 * The timecode of frame number `frame`, counted from 00:00:00:00, wrapping after 24 hours.
 * Drop-frame is written with a semicolon before the frames, as is the custom.
 */
export function frameToTimecode(frame: number, rate: Rate, dropFrame = false): string {
  const nominal = nominalRate(rate)
  const drop = dropFrame && canDropFrame(rate)
  const perMinute = nominal * 60 - (drop ? droppedPerMinute(nominal) : 0)
  const perTenMinutes = drop ? perMinute * 10 + droppedPerMinute(nominal) : perMinute * 10
  const perDay = perTenMinutes * 144
  let number = ((frame % perDay) + perDay) % perDay
  if (drop) {
    const tens = Math.floor(number / perTenMinutes)
    const rest = number % perTenMinutes
    const skip = droppedPerMinute(nominal)
    number += skip * 9 * tens
    if (rest >= nominal * 60) number += skip * (1 + Math.floor((rest - nominal * 60) / perMinute))
  }
  const two = (value: number) => String(value).padStart(2, '0')
  const seconds = Math.floor(number / nominal)
  return `${two(Math.floor(seconds / 3600))}:${two(Math.floor(seconds / 60) % 60)}:${two(seconds % 60)}${drop ? ';' : ':'}${two(number % nominal)}`
}

/**
 * The frame number that a timecode names, or null where the text is none, or names a number that drop-frame leaves out.
 * `:`, `;` and `.` are taken alike; whether frames are dropped is said by `dropFrame`.
 */
export function timecodeToFrame(text: string, rate: Rate, dropFrame = false): number | null {
  const match = /^(\d{1,2})[:;.](\d{2})[:;.](\d{2})[:;.](\d{2,3})$/.exec(text.trim())
  if (!match) return null
  const [hours = 0, minutes = 0, seconds = 0, frames = 0] = match.slice(1).map(Number)
  const nominal = nominalRate(rate)
  if (hours > 23 || minutes > 59 || seconds > 59 || frames >= nominal) return null
  const number = ((hours * 60 + minutes) * 60 + seconds) * nominal + frames
  if (!dropFrame || !canDropFrame(rate)) return number
  const skip = droppedPerMinute(nominal)
  if (minutes % 10 !== 0 && seconds === 0 && frames < skip) return null
  const passed = hours * 60 + minutes
  return number - skip * (passed - Math.floor(passed / 10))
}
