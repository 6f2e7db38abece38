import * as z from 'zod'
import type { Format } from '../src/core/format/format'
import { parseFormat } from '../src/core/format/parse'
import { parseRate } from '../src/core/rate/parse'
import { Rational, rational } from '../src/core/rational/rational'
import { Corrections } from '../src/core/reading/correct'
import { Condition } from '../src/core/treatment/rule'
import { Override } from '../src/core/treatment/treatment'

/** What a step of `tally edit` says: the JSON that comes in, checked at the door. */

const frame = z.number().int().nonnegative()
const by = z.number().int()
/** A placement by its id, or by where it stands at that moment. */
const EditTarget = z.union([
  z.string(),
  z.object({ track: z.string(), index: z.number().int().nonnegative(), timeline: z.string().optional() }),
])
const FormatText = z.string().transform((text, ctx): Format => {
  const parsed = parseFormat(text)
  if (parsed) return parsed.format
  ctx.addIssue({ code: 'custom', message: `“${text}” is not a format, as in 1920x1080@25p` })
  return z.NEVER
})
/** What may be typed, or stand there as a project file has it. */
const typed = <T>(read: (text: string) => T | null, what: string) =>
  z.union(
    [
      z.string().transform((text, ctx) => {
        const value = read(text)
        if (value !== null) return value
        ctx.addIssue({ code: 'custom', message: what })
        return z.NEVER
      }),
      Rational,
    ],
    { error: `this is not ${what}` },
  )
const RateText = typed((text) => parseRate(text)?.rate ?? null, 'a rate, as in 25 or 30000/1001')
const RatioText = typed((text) => {
  const [, num, den] = /^(\d+)[:/](\d+)$/.exec(text) ?? []
  return num && Number(den) > 0 ? rational(Number(num), Number(den)) : null
}, 'a shape of pixels, as in 8:9')
/** The facts that can be corrected, by name. */
export const facts = Corrections.unwrap().shape
export const CorrectionSet = z
  .strictObject({
    ...facts,
    rate: RateText.optional(),
    pixelAspect: RatioText.optional(),
  })
  .partial()
const Nullable = z.record(z.string(), z.unknown())

export const EditStep = z.discriminatedUnion('do', [
  z.strictObject({
    do: z.literal('place'),
    timeline: z.string().optional(),
    clip: z.string(),
    at: frame.nullish(),
    mode: z.enum(['end', 'insert', 'overwrite', 'above']).optional(),
    from: frame.optional(),
    to: frame.optional(),
  }),
  z.strictObject({ do: z.literal('cut'), timeline: z.string().optional(), frame }),
  z.strictObject({
    do: z.literal('trim'),
    placement: EditTarget,
    edge: z.enum(['start', 'end']),
    frames: by,
    ripple: z.boolean().default(false),
    timeline: z.string().optional(),
  }),
  z.strictObject({
    do: z.literal('slip'),
    placement: EditTarget,
    frames: by,
    timeline: z.string().optional(),
  }),
  z.strictObject({
    do: z.literal('move'),
    placement: EditTarget,
    to: frame,
    track: z.string().optional(),
    timeline: z.string().optional(),
  }),
  z.strictObject({
    do: z.literal('remove'),
    placements: z.array(EditTarget).min(1),
    closeGap: z.boolean().default(false),
    timeline: z.string().optional(),
  }),
  z.strictObject({ do: z.literal('closeGaps'), timeline: z.string().optional() }),
  z.strictObject({
    do: z.literal('link'),
    placements: z.array(EditTarget).min(1),
    timeline: z.string().optional(),
  }),
  z.strictObject({
    do: z.literal('unlink'),
    placements: z.array(EditTarget).min(1),
    timeline: z.string().optional(),
  }),
  z.strictObject({
    do: z.literal('treat'),
    placements: z.array(EditTarget).min(1),
    set: z.strictObject(Override.unwrap().shape),
    timeline: z.string().optional(),
  }),
  z.strictObject({
    do: z.literal('rule'),
    timeline: z.string().optional(),
    when: Condition,
    set: z.strictObject(Override.unwrap().shape),
  }),
  z.strictObject({ do: z.literal('correct'), clip: z.string(), set: Nullable }),
  z.strictObject({ do: z.literal('replace'), clip: z.string(), with: z.string() }),
  z.strictObject({ do: z.literal('timeline'), name: z.string(), format: FormatText.nullish() }),
  z.strictObject({ do: z.literal('nest'), timeline: z.string(), in: z.string(), at: frame.nullish() }),
  z.strictObject({ do: z.literal('unnest'), placement: EditTarget, timeline: z.string().optional() }),
  z.strictObject({
    do: z.literal('carry'),
    timeline: z.string().optional(),
    to: FormatText,
    how: z.enum(['recut', 'nest', 'retime']),
    copy: z.boolean().default(false),
    name: z.string().optional(),
    keepPitch: z.boolean().default(true),
  }),
  z.strictObject({ do: z.literal('point'), name: z.string() }),
  z.strictObject({ do: z.literal('restore'), name: z.string() }),
  z.strictObject({ do: z.literal('undo') }),
  z.strictObject({ do: z.literal('redo') }),
])
export type EditStep = z.infer<typeof EditStep>
export type EditTarget = z.infer<typeof EditTarget>
