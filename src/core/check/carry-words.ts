import type { CarryWay } from '../edit/carrying'
import type { Timeline } from '../model/timeline'
import { frameToTimecode } from '../rate/timecode'
import { equal } from '../rational/rational'
import { type Grade, grades } from '../toll/grade'
import { sentence } from '../toll/sentence'
import { counted, figure, milliseconds, percent } from '../words/figures'
import type { CarryPrice, LengthAt } from './carried'
import type { PaysOtherwise } from './pays-otherwise'

/** What each way is called, does, and what its taking is called. */
export const waySays: Readonly<Record<CarryWay, { name: string; what: string; take: string }>> = {
  recut: { name: 'Re-cut', what: 'every cut laid on the new frames', take: 'Re-cut' },
  nested: { name: 'Nested', what: 'the old one runs inside a new one', take: 'Nest it' },
  'new-project': { name: 'New project', what: 'takes the cut and the clips over', take: 'Begin it' },
  slowed: { name: 'Slowed or sped', what: 'each frame once', take: 'Run it so' },
}

/** A line of what a way does. */
export interface CarryLine {
  readonly name: string
  readonly says: string
  /** Where it is a matter of grades. */
  readonly grade?: Grade
}

/** What a way does, line by line, each with its figures. */
export function carryWords(price: CarryPrice, timeline: Timeline, keepPitch: boolean): CarryLine[] {
  const { way, cut } = price
  const changesRate = !equal(price.length[0].rate, price.length[1].rate)
  return [
    { name: 'cuts', says: cutWords(price) },
    { name: 'length', says: lengthWords(price) },
    moreWords(price),
    { name: 'pay less', says: lessWords(price.paysLess) },
    ...(changesRate
      ? [
          {
            name: 'run out',
            says: cut.runOut.length
              ? `${counted(cut.runOut.length, 'placement')} reach beyond their source`
              : 'none',
          },
          { name: 'starts', says: startWords(timeline, cut.timeline) },
          { name: 'sound', says: soundWords(price, keepPitch) },
        ]
      : []),
    { name: 'later edits', says: laterWords[way] },
    { name: 'undone', says: way === 'new-project' ? 'this one stays as it is' : 'by one step back' },
  ]
}

function cutWords({ way, moved, boundaries, cut }: CarryPrice): string {
  if (way === 'slowed')
    return cut.held.length
      ? `none move; ${counted(cut.held.length, 'placement')} mixed or pulled down ${cut.held.length === 1 ? 'is' : 'are'} held`
      : 'none move: each frame stays itself'
  const [worst] = moved
  if (!worst) return `none of ${boundaries} moves`
  if (way === 'nested') return `none move; ${moved.length} of ${boundaries} fall inside a frame`
  const pushed = moved.filter((boundary) => boundary.pushed).length
  return `${moved.length} of ${boundaries} move, by at most ${milliseconds(Math.abs(worst.driftMs))}${
    pushed ? `; ${pushed} pushed by placements of one frame` : ''
  }`
}

function startWords({ startTimecode: before }: Timeline, { startTimecode: after }: Timeline): string {
  return before === after ? `at ${before}, as before` : `${before} → ${after}`
}

/** Without hours where there are none. */
const timecode = ({ frames, rate }: LengthAt) => frameToTimecode(frames, rate).replace(/^00:/, '')

function lengthWords({ length: [before, after] }: CarryPrice): string {
  const said = `${timecode(before)} → ${timecode(after)}`
  const off = before.seconds > 0 ? after.seconds / before.seconds - 1 : 0
  if (Math.abs(off) < 0.0005) {
    const ms = (after.seconds - before.seconds) * 1000
    return Math.abs(ms) < 0.05
      ? `${said}, as long`
      : `${said}, ${milliseconds(Math.abs(ms))} ${ms > 0 ? 'longer' : 'shorter'}`
  }
  return `${said}, ${percent(Math.abs(off))} ${off > 0 ? 'longer' : 'shorter'}`
}

function moreWords({ paysMore, countByGrade: [before, after] }: CarryPrice): CarryLine {
  const [worst] = paysMore
  if (!worst) return { name: 'pay more', says: 'none' }
  const moved = [...grades]
    .reverse()
    .filter((grade) => grade !== 'free' && before[grade] !== after[grade])
    .map((grade) => `${grade} ${before[grade]} → ${after[grade]}`)
  const [charge] = worst.adds
  const says = `${moved.length ? moved.join(', ') : counted(paysMore.length, 'clip')}: ${charge ? sentence(charge) : ''}`
  return { name: 'pay more', says, grade: charge?.grade ?? worst.grades[1] }
}

function lessWords(less: readonly PaysOtherwise[]): string {
  const [best, ...rest] = less
  if (!best) return 'none'
  const more = rest.length ? ` and ${rest.length} more` : ''
  const [from, to] = best.grades
  const says =
    from === to ? `${figure(best.loss[0], 2)} → ${figure(best.loss[1], 2)}, ${to}` : `${from} → ${to}`
  return `${best.name}${more}: ${says}`
}

function soundWords({ way, pitch }: CarryPrice, keepPitch: boolean): string {
  if (way === 'nested') return 'untouched'
  if (way !== 'slowed' || pitch === null) return 'stays in step to half a frame'
  if (keepPitch) return 'follows, its pitch kept'
  return `follows, ${figure(Math.abs(pitch), 2)} semitones ${pitch < 0 ? 'lower' : 'higher'}`
}

const laterWords: Readonly<Record<CarryWay, string>> = {
  recut: 'in the new one alone',
  nested: 'carry through; un-nest when you like',
  'new-project': 'apart',
  slowed: 'in the new one alone',
}
