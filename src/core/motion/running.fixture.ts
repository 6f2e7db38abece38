import { parseRate } from '../rate/parse'
import { rational } from '../rational/rational'
import { frameTimesFrom } from '../reading/frame-times'
import type { Passing, Taking } from '../treatment/run'
import { type Running, type Shown, shownAt } from './shown'
import type { ClipTiming } from './timing'

export const rate = (text: string) => parseRate(text)!.rate
export const inTime: Passing = { kind: 'in-time', factor: rational(1) }
export const frames: Taking = { kind: 'frames', mixed: false }
export const mixed: Taking = { kind: 'frames', mixed: true }
export const running = (taking: Taking, more: Partial<Running> & { passing?: Passing } = {}): Running => ({
  sourceIn: rational(0),
  way: { passing: more.passing ?? inTime, taking },
  fieldOrder: null,
  shownOrder: null,
  ...more,
})
export const constant = (S: string, count: number): ClipTiming => ({
  kind: 'constant',
  rate: rate(S),
  count,
  counted: true,
})
/** A table in milliseconds. */
export const table = (times: number[], end: number): ClipTiming => ({
  kind: 'table',
  times: frameTimesFrom(times, rational(1000), end)!,
})
export const list = (r: Running, timing: ClipTiming, T: string, count: number): Shown[] =>
  Array.from({ length: count }, (_, n) => shownAt(r, timing, rate(T), n))
export const indices = (shown: readonly Shown[]) => shown.map((s) => (s.kind === 'frame' ? s.index : s.kind))
export const pairs = (shown: readonly Shown[]) =>
  shown.map((s) =>
    s.kind === 'fields'
      ? `${s.top.frame}${s.bottom.frame}`
      : s.kind === 'frame'
        ? `${s.index}${s.index}`
        : s.kind,
  )
