import * as z from 'zod'
import { Rate } from '../rate/rate'
import { equal } from '../rational/rational'
import { type CombingVerdict, type FieldOrderVerdict, fieldVerdictsOf } from './fields'
import { type Holding, type RepeatsVerdict, holdingIn } from './holding'
import type { Pulldown } from './pulldown'
import { type SeriesRun, seriesOf } from './series'

/** How sure a verdict has to be to count where nobody else speaks, or to contradict a claim. */
export const sureEnough = 0.5
export const isSure = ({ confidence }: { readonly confidence: number }): boolean => confidence >= sureEnough

const Confidence = z.number().min(0).max(1)
const Frame = z.number().int().nonnegative()
const Size = z.number().int().positive().nullable()

/** What the decoded picture of a clip says, each verdict with how sure it is (0 … 1). *Cannot tell* is an answer. */
export const Evidence = z
  .object({
    /** Frames that were looked at. */
    frames: z.number().int().nonnegative(),
    combing: z
      .object({
        verdict: z.enum(['combed', 'clean', 'cannot-tell']),
        share: Confidence,
        confidence: Confidence,
      })
      .readonly(),
    fieldOrder: z
      .object({
        verdict: z.enum(['top-first', 'bottom-first', 'progressive', 'cannot-tell']),
        confidence: Confidence,
      })
      .readonly(),
    repeats: z
      .object({
        verdict: z.enum(['none', 'pattern', 'irregular', 'cannot-tell']),
        pattern: z.string().nullable(),
        holds: z.array(z.number().int().min(1)).readonly().nullable(),
        phase: z.number().int().nonnegative().nullable(),
        trueRate: Rate.nullable(),
        confidence: Confidence,
      })
      .readonly(),
    pulldown: z
      .object({
        pattern: z.enum(['2:3', '2:3:3:2']),
        phase: z.union([z.literal(0), z.literal(1), z.literal(2), z.literal(3), z.literal(4)]),
      })
      .readonly()
      .nullable(),
    bars: z
      .object({ top: Frame, bottom: Frame, left: Frame, right: Frame, confidence: Confidence })
      .readonly(),
    detail: z
      .object({
        verdict: z.enum(['full', 'enlarged', 'cannot-tell']),
        width: Size,
        height: Size,
        confidence: Confidence,
      })
      .readonly(),
    /** Where runs of the clip say different things: the first frame of each, and what it says. */
    mixed: z.array(z.object({ about: z.string(), first: Frame, says: z.string() }).readonly()).readonly(),
    /** Frames of the file that show what was found: one that combs most, one that repeats the frame before it. */
    seenAt: z.object({ combed: Frame.nullable(), repeated: Frame.nullable() }).readonly(),
  })
  .readonly()
export type Evidence = z.infer<typeof Evidence>

interface Verdict {
  readonly verdict: string
  readonly confidence: number
}
interface Told<V extends Verdict> {
  readonly first: number
  readonly verdict: V
}

/** Runs that are sure of different things make a clip mixed. */
const sure = 0.5

/** The common verdict of several runs, the surest of those that say it; undefined where sure ones disagree. */
function common<V extends Verdict>(verdicts: readonly Told<V>[], key: (verdict: V) => string): V | undefined {
  const speaking = verdicts.filter(({ verdict }) => verdict.verdict !== 'cannot-tell')
  const weights = new Map<string, number>()
  for (const { verdict } of speaking)
    weights.set(key(verdict), (weights.get(key(verdict)) ?? 0) + verdict.confidence)
  const surely = new Set(speaking.flatMap(({ verdict }) => (verdict.confidence > sure ? key(verdict) : [])))
  if (surely.size > 1) return undefined
  const [said] = [...weights].sort((a, b) => b[1] - a[1])
  const agreeing = said ? speaking.filter(({ verdict }) => key(verdict) === said[0]) : verdicts
  return [...agreeing].sort((a, b) => b.verdict.confidence - a.verdict.confidence)[0]?.verdict
}

const unknownOrder: FieldOrderVerdict = { verdict: 'cannot-tell', confidence: 0 }
const unknownRepeats: RepeatsVerdict = {
  verdict: 'cannot-tell',
  pattern: null,
  holds: null,
  phase: null,
  trueRate: null,
  confidence: 0,
}

/**
 * All that the measured runs of a clip say together.
 * @param rate of the clip as its wrapper says; null where it does not
 */
export function evidenceOf(
  runs: readonly SeriesRun[],
  rate: Rate | null,
  { bars, detail, frames }: Pick<Evidence, 'bars' | 'detail' | 'frames'>,
): Evidence {
  const all = seriesOf(runs.filter(({ pairs }) => pairs.length > 0))
  const fields = all.map((series) => ({ first: series.first, ...fieldVerdictsOf(series) }))
  const holding: (Holding & { first: number })[] = all.map((series) => ({
    first: series.first,
    ...holdingIn(series, rate),
  }))
  const orders = fields.map(({ first, fieldOrder }) => ({ first, verdict: fieldOrder }))
  const held = holding.map(({ first, repeats }) => ({ first, verdict: repeats }))
  const seenOrder = common(orders, ({ verdict }) => verdict)
  const repeats = common(held, repeatsKey)
  const pulldowns = holding.flatMap(({ pulldown }) => pulldown ?? [])
  const found = pulldowns[0]
  const pulldown = found && repeats?.pattern === found.pattern && repeats.holds === null ? found : undefined
  const fieldOrder = orderWith(seenOrder, pulldown, repeats?.confidence ?? 0)
  const mixed = [
    ...(fieldOrder ? [] : disagreeing('field order', orders)),
    ...(repeats ? [] : disagreeing('repeats', held)),
  ]
  return {
    frames,
    ...joinedFields(fields, fieldOrder),
    repeats: repeats ?? unknownRepeats,
    pulldown: pulldown ? { pattern: pulldown.pattern, phase: pulldown.phase } : null,
    bars,
    detail,
    mixed,
    seenAt: {
      combed: most(fields, ({ combsMost }) => combsMost?.blocks ?? 0)?.combsMost?.frame ?? null,
      repeated: holding.find(({ repeatedAt }) => repeatedAt !== null)?.repeatedAt ?? null,
    },
  }
}

/** Where pulldown is seen, two frames of five are of two moments, however many others are whole: its order is the clip's. */
function orderWith(
  order: FieldOrderVerdict | undefined,
  pulldown: Pulldown | undefined,
  confidence: number,
): FieldOrderVerdict | undefined {
  const isOpen = !order || order.verdict === 'progressive' || order.verdict === 'cannot-tell'
  return pulldown && isOpen ? { verdict: pulldown.fieldOrder, confidence: 0.9 * confidence } : order
}

/** The one of which there is most; undefined of none. */
const most = <T>(items: readonly T[], valueOf: (item: T) => number): T | undefined =>
  [...items].sort((a, b) => valueOf(b) - valueOf(a))[0]

/** Runs say the same of repeats where they see the same pattern at the same place, and the same rate behind it. */
const repeatsKey = ({ verdict, pattern, phase, trueRate }: RepeatsVerdict): string =>
  verdict === 'pattern' ? `${pattern} ${phase} ${trueRate && `${trueRate.num}/${trueRate.den}`}` : verdict

function disagreeing(about: string, verdicts: readonly Told<Verdict & { pattern?: string | null }>[]) {
  return verdicts.flatMap(({ first, verdict }) =>
    verdict.confidence > sure ? { about, first, says: verdict.pattern ?? verdict.verdict } : [],
  )
}

/** Combing follows the order of the whole clip; its share is that of all runs. */
function joinedFields(
  fields: readonly { readonly combing: CombingVerdict }[],
  fieldOrder: FieldOrderVerdict | undefined,
): Pick<Evidence, 'combing' | 'fieldOrder'> {
  const share = fields.length
    ? fields.reduce((sum, { combing }) => sum + combing.share, 0) / fields.length
    : 0
  const order = fieldOrder ?? unknownOrder
  const verdict =
    order.verdict === 'cannot-tell'
      ? 'cannot-tell'
      : order.verdict !== 'progressive'
        ? 'combed'
        : share < 0.1
          ? 'clean'
          : 'cannot-tell'
  return {
    fieldOrder: order,
    combing: { verdict, share, confidence: verdict === 'cannot-tell' ? 0 : order.confidence },
  }
}

/** What is surely measured: film in pulldown. */
export const provenPulldown = ({ pulldown, repeats }: Evidence): Evidence['pulldown'] =>
  isSure(repeats) ? pulldown : null

/** Frames that surely repeat in a clip of a rate, and not by pulldown; null where none do. */
export function provenRepeats({ repeats, pulldown }: Evidence, rate: Rate | null) {
  const { verdict, holds, phase, trueRate } = repeats
  return verdict === 'pattern' && !pulldown && isSure(repeats) && hidesRate(repeats, rate) && trueRate
    ? { trueRate, holds: holds ?? null, phase }
    : null
}

/** Both fields of each frame are surely of one moment. */
export const isOfOneMoment = ({ fieldOrder }: Evidence): boolean =>
  fieldOrder.verdict === 'progressive' && isSure(fieldOrder)

/** Bars that are surely baked in; null where there are none. */
export function provenBars({ bars }: Evidence) {
  const { top, bottom, left, right } = bars
  return isSure(bars) && top + bottom + left + right > 0 ? { top, bottom, left, right } : null
}

/** Whether a measured rate is another than the claimed one. */
export const hidesRate = ({ trueRate }: RepeatsVerdict, rate: Rate | null): boolean =>
  trueRate !== null && rate !== null && !equal(trueRate, rate)
