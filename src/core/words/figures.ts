/** How figures are worded: the one place where numbers become text for people. Nothing here is read back. */

/** A number with a fixed count of decimals: `2.0`, `1.42`. */
export const figure = (value: number, decimals = 1): string => value.toFixed(decimals)

/** A number with at most so many decimals, none of them idle: `2`, `1.5`, `0.333`. */
export const upTo = (value: number, decimals: number): string => String(Number(value.toFixed(decimals)))

/** A share in per cent: `6.3 %`, `51 %`, `0.07 %`. */
export function percent(share: number): string {
  const value = share * 100
  const decimals = value >= 10 || Number.isInteger(Number(value.toFixed(6))) ? 0 : value >= 0.1 ? 1 : 2
  return `${value.toFixed(decimals)} %`
}

/** A share in per cent with two decimals, none of them idle: `47.95 %`, `96 %`. */
export const exactPercent = (share: number): string => `${upTo(share * 100, 2)} %`

/** How many times as much: `2.0`, `1.33`. */
export const factor = (value: number): string =>
  Number.isInteger(value) ? value.toFixed(1) : figure(value, 2).replace(/0$/, '')

/** Pixels on a side; whole where they are whole. */
export const pixels = (value: number): string =>
  Number.isInteger(Number(value.toFixed(6)))
    ? String(Math.round(value))
    : value < 2
      ? value.toFixed(2)
      : value.toFixed(1)

/** A count with its noun: `1 clip`, `3 clips`. */
export const counted = (count: number, noun: string, several = `${noun}s`): string =>
  `${count} ${count === 1 ? noun : several}`

/** What so many do: `1 placement pays`, `3 placements pay`. */
export const pays = (count: number): string => (count === 1 ? 'pays' : 'pay')

/** How often: `twice`, `3 times`. */
export const times = (n: number): string => (n === 2 ? 'twice' : `${n} times`)

/** A part of a whole: `1 frame in 4`, `1 frame in 2.5`. */
export function oneIn(part: number, whole: number, noun = 'frame'): string {
  const n = whole / part
  return `1 ${noun} in ${Number.isInteger(n) ? n : n.toFixed(n < 10 ? 2 : 0)}`
}

const two = (value: number) => String(value).padStart(2, '0')

/** A running time for reading: `38 s`, `4 min 12 s`, `1 h 05 min`. */
export function runningTime(seconds: number): string {
  const whole = Math.round(seconds)
  if (whole < 60) return `${seconds < 10 ? upTo(seconds, 1) : whole} s`
  if (whole < 3600) return `${Math.floor(whole / 60)} min ${two(whole % 60)} s`
  return `${Math.floor(whole / 3600)} h ${two(Math.floor(whole / 60) % 60)} min`
}

/** A running time for a column: `0:38`, `2:05`, `1:02:03`; a dash where it has none. */
export function clockTime(seconds: number | null | undefined): string {
  if (seconds === null || seconds === undefined) return '–'
  const whole = Math.round(seconds)
  const hours = Math.floor(whole / 3600)
  const minutes = Math.floor(whole / 60) % 60
  return hours ? `${hours}:${two(minutes)}:${two(whole % 60)}` : `${minutes}:${two(whole % 60)}`
}

/** Exact seconds: `2.48 s`. */
export const exactSeconds = (seconds: number, decimals = 2): string => `${seconds.toFixed(decimals)} s`

/** A stretch of time in milliseconds: `16.7 ms`. */
export const milliseconds = (ms: number): string => `${figure(ms)} ms`

/** A file's size: `212 MB`. */
export function fileSize(bytes: number): string {
  const units = ['kB', 'MB', 'GB', 'TB']
  if (bytes < 1000) return `${Math.round(bytes)} B`
  let [value, unit] = [bytes / 1000, 0]
  while (value >= 1000 && unit < units.length - 1) {
    value /= 1000
    unit++
  }
  return `${value >= 100 ? Math.round(value) : value.toFixed(1)} ${units[unit] ?? ''}`
}

/** A length of file for a sentence, never rounded to nothing: `38 kB`, `2.1 MB`. */
export const kilobytes = (bytes: number): string =>
  bytes < 1e6
    ? `${Math.ceil(bytes / 1000)} kB`
    : bytes < 1e9
      ? `${(bytes / 1e6).toFixed(1)} MB`
      : `${(bytes / 1e9).toFixed(1)} GB`

/** A clock of samples: `48 kHz`, `44.1 kHz`. */
export const kilohertz = (hertz: number): string => `${hertz / 1000} kHz`

/** A ratio of two whole numbers: `4:3`. */
export const ratio = ({ num, den }: { readonly num: number; readonly den: number }): string => `${num}:${den}`

/** A field order or another hyphened word for a sentence: `top first`. */
export const spaced = (word: string): string => word.replace(/-/g, ' ')

export const capital = (word: string): string => word.charAt(0).toUpperCase() + word.slice(1)

/** A speed as it is felt: `0.1 % slower` near 1, else `at 40 % speed`. */
export function speedWords(speed: number): string {
  const off = Math.abs(speed - 1)
  if (off > 0.02) return `at ${percent(speed)} speed`
  return off < 1e-9
    ? 'at true speed'
    : `${percent(Number(off.toFixed(4)))} ${speed > 1 ? 'faster' : 'slower'}`
}

/** How many times as long something runs at a speed, with the decimals that tell it from 1. */
export const timesLonger = (speed: number): string =>
  Math.abs(speed - 1) > 0.02 ? factor(1 / speed) : (1 / speed).toFixed(3)
