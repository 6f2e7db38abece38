import type { Sides } from '../framing/framing'
import type { Charge, Toll } from './charge'
import { inventedShare } from './picture-charges'

/** A number with as many decimals as help: `2.0`, `1.42`, `13`. */
export const figure = (value: number, decimals = 1): string => value.toFixed(decimals)

/** A share in per cent: `6.3 %`, `51 %`, `0.07 %`. */
export function percent(share: number): string {
  const value = share * 100
  const decimals =
    value === 0 || value >= 10 || Number.isInteger(Number(value.toFixed(6))) ? 0 : value >= 0.1 ? 1 : 2
  return `${value.toFixed(decimals)} %`
}

const factor = (value: number) =>
  Number.isInteger(value) ? value.toFixed(1) : figure(value, 2).replace(/0$/, '')

/** Pixels on a side; whole where they are whole. */
export const pixels = (value: number): string =>
  Number.isInteger(Number(value.toFixed(6)))
    ? String(Math.round(value))
    : value < 2
      ? value.toFixed(2)
      : value.toFixed(1)

const oneIn = (part: number, whole: number) => {
  const n = whole / part
  return `1 frame in ${Number.isInteger(n) ? n : n.toFixed(n < 10 ? 2 : 0)}`
}

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

const times = (n: number) => (n === 2 ? 'twice' : `${n} times`)

/** Both sides of an axis in one breath where they are alike, each alone where they are not. */
function axis(before: number, after: number, names: readonly [string, string]): string[] {
  const dust = 0.005
  if (before < dust && after < dust) return []
  if (Math.abs(before - after) < dust) return [`${pixels(before)} px ${names[0]} and ${names[1]}`]
  return [
    before >= dust && `${pixels(before)} px ${names[0]}`,
    after >= dust && `${pixels(after)} px ${names[1]}`,
  ].filter((part) => part !== false)
}
const sides = ({ left, right, top, bottom }: Sides) =>
  [...axis(left, right, ['left', 'right']), ...axis(top, bottom, ['above', 'below'])].join(', ')

/** Scales under 1, as one figure where both are alike, and only what shrinks where they are not. */
function reduction(across: number, down: number): string {
  if (Math.abs(across - down) < 0.005) return percent(across)
  return [across < 0.995 && `${percent(across)} across`, down < 0.995 && `${percent(down)} down`]
    .filter((part) => part !== false)
    .join(', ')
}

/** What a charge means for the footage, short and with its figures. The one place where charges become words. */
export function sentence(charge: Charge): string {
  switch (charge.kind) {
    case 'enlarge': {
      const { scaleX, scaleY } = charge
      const share = percent(inventedShare(scaleX, scaleY))
      return Math.abs(scaleX - scaleY) < 0.005
        ? `enlarged ${factor(scaleX)}: ${share} of the pixels invented`
        : `enlarged ${factor(scaleX)} across, ${factor(scaleY)} down: ${share} of the pixels invented`
    }
    case 'reduce': {
      const room = charge.headroom > 1.005 ? `room to zoom to ${percent(charge.headroom)}` : 'no room to zoom'
      return `reduced to ${reduction(charge.scaleX, charge.scaleY)}: ${room}`
    }
    case 'bars':
      return `bars of ${sides(charge.bars)} (${percent(charge.share)} of the frame)`
    case 'crop':
      return `loses ${sides(charge.crop)} (${percent(charge.share)} of the picture)`
    case 'distort':
      return charge.ratio > 1
        ? `distortion: ${percent(charge.ratio - 1)} too wide`
        : `distortion: ${percent(1 / charge.ratio - 1)} too tall`
    case 'even-hold':
      return `every frame shown ${times(charge.times)}, evenly`
    case 'even-skip':
      return `1 frame in ${charge.every} shown, evenly`
    case 'slip':
      return `one frame ${charge.drops ? 'dropped' : 'shown twice'} every ${figure(charge.seconds)} s`
    case 'uneven':
      return `${unevenPattern(charge.periodTimeline, charge.periodSource)}, judder ${figure(charge.judderMs)} ms`
    case 'pulldown':
      return '2:3 pulldown: every frame whole, in 2 and 3 fields in turn'
    case 'blend':
      return `two frames mixed in ${percent(charge.share)} of the frames`
    case 'speed':
      return `every frame once, ${speedWords(charge.speed)}: running time × ${timesLonger(charge.speed)}`
    case 'deinterlace':
      return charge.doubleRate
        ? 'deinterlaced to double rate: all motion kept'
        : 'deinterlaced: one motion sample in two kept'
    case 'weave':
      return 'fields woven: combs on everything that moves'
    case 'fields-from-frames':
      return 'one field from each frame: all motion kept, half of the lines'
    case 'field-order':
      return 'field order turned: one line of shift'
    case 'field-rescale':
      return 'fields rescaled: deinterlaced, scaled, interlaced again'
    case 'variable-rate': {
      const range =
        charge.minRate && charge.maxRate
          ? ` (${figure(charge.minRate)} to ${figure(charge.maxRate)} a second)`
          : ''
      return `variable rate${range}: ${percent(charge.share)} of the frames off by more than 10 %`
    }
    case 'colour':
      return `${charge.of === 'dynamic-range' ? 'dynamic range' : charge.of === 'transfer' ? 'transfer' : 'colour'} converted, ${charge.from} to ${charge.to}`
    case 'depth':
      return `${charge.from} bit brought to ${charge.to} bit`
  }
}

function unevenPattern(P: number, Q: number): string {
  if (P > Q) {
    const hold = Math.floor(P / Q)
    return hold === 1
      ? `${oneIn(P - Q, Q)} shown twice`
      : `frames shown ${hold} and ${hold + 1} times in turn`
  }
  const step = Math.floor(Q / P)
  return step === 1 ? `${oneIn(Q - P, Q)} dropped` : `1 frame in ${step} or ${step + 1} shown`
}

/** A whole toll in one line. */
export const tollSentence = (toll: Toll): string =>
  toll.charges.length === 0 ? 'untouched' : toll.charges.map(sentence).join('; ')

/** A charge in two or three words, for labels on a line. */
export function shortWords(charge: Charge): string {
  switch (charge.kind) {
    case 'enlarge':
      return `enlarged ${factor(Math.max(charge.scaleX, charge.scaleY))}`
    case 'reduce':
      return `reduced to ${percent(Math.min(charge.scaleX, charge.scaleY))}`
    case 'bars':
      return `bars ${percent(charge.share)}`
    case 'crop':
      return `crop ${percent(charge.share)}`
    case 'distort':
      return 'distorted'
    case 'even-hold':
      return `each ${times(charge.times)}`
    case 'even-skip':
      return `1 frame in ${charge.every}`
    case 'slip':
      return `slips every ${charge.seconds.toFixed(0)} s`
    case 'uneven':
      return `uneven, ${figure(charge.judderMs)} ms`
    case 'pulldown':
      return '2:3 pulldown'
    case 'blend':
      return `mixed ${percent(charge.share)}`
    case 'speed':
      return speedWords(charge.speed)
    case 'deinterlace':
      return charge.doubleRate ? 'fields to frames' : '1 field in 2'
    case 'weave':
      return 'combs'
    case 'fields-from-frames':
      return 'a field from each'
    case 'field-order':
      return 'field order'
    case 'field-rescale':
      return 'fields rescaled'
    case 'variable-rate':
      return 'variable'
    case 'colour':
      return 'colour'
    case 'depth':
      return `${charge.to} bit`
  }
}
