import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import * as z from 'zod'
import { deepEqual } from './equality'
import { cuts, docOf } from './edit/cut.fixture'
import { Clip } from './model/clip'
import type { Doc } from './model/project'
import { Project } from './model/project'
import { Timeline } from './model/timeline'
import { parseQuickly, quickCheck } from './quick-check'
import { Rational } from './rational/rational'

/** The law: what passes quickly is what parsing gives back. It may always say no. */
function holds(schema: z.ZodType, value: unknown): boolean {
  const parsed = schema.safeParse(value)
  return !quickCheck(schema)(value) || (parsed.success && deepEqual(parsed.data, value))
}

const kinds: readonly z.ZodType[] = [
  z.string().min(2).max(4),
  z.string().regex(/^b/),
  z.string().refine((text) => text !== 'bell'),
  z.string().trim(),
  z.string().catch('bell'),
  z.email(),
  z.number().min(0).max(10),
  z.number().gt(0).lt(10),
  z.number().int(),
  z.int32(),
  z.number().multipleOf(2),
  z.boolean(),
  z.null(),
  z.literal(['bell', 3, null]),
  z.enum(['bell', 'mould']),
  z.array(z.number().int().positive()).max(3),
  z.tuple([z.string(), z.number()]),
  z.record(z.string().max(4), z.number().nullable()),
  z.record(z.enum(['bell', 'mould']), z.number()),
  z.object({ bell: z.number(), mould: z.string().optional(), 3: z.number().default(3).readonly() }),
  z.object({ bell: z.number().nullish() }).refine(({ bell }) => bell !== 3),
  z.looseObject({ bell: z.number() }),
  z.strictObject({ bell: z.number() }),
  z.object({ bell: z.object({}).prefault({}) }),
  z.discriminatedUnion('kind', [
    z.object({ kind: z.literal('bell'), bell: z.number() }),
    z.object({ kind: z.enum(['mould', 'b']), mould: z.string() }),
  ]),
  z.union([z.object({ bell: z.number() }), z.object({ bell: z.number(), mould: z.string() })]),
  z.union([z.string(), z.number()]),
  z.object({ bell: z.number() }).transform(({ bell }) => ({ bell: Math.round(bell) })),
  z.object({ bell: z.number() }).transform((value, context) => {
    if (value.bell > 3) context.addIssue('too many')
    return value
  }),
  z.preprocess((value) => value ?? 'bell', z.string()),
  z.lazy(() => z.string()),
  Rational,
]

const words = fc.constantFrom('bell', 'mould', 'kind', 'b', '3', ' b ', '__proto__', '')
const parts = fc.oneof(
  words,
  fc.constantFrom(0, -0, 1, 3, 10, 10.5, NaN, Infinity, 2 ** 53, null, undefined, true),
)
const values = fc.letrec((tie) => ({
  value: fc.oneof(
    { maxDepth: 3 },
    parts,
    fc.array(tie('value'), { maxLength: 3 }),
    fc.dictionary(words, tie('value'), { maxKeys: 3 }),
    fc.record({ kind: words, bell: tie('value'), mould: tie('value') }, { requiredKeys: [] }),
    fc.record({ num: fc.integer({ min: -9, max: 9 }), den: fc.integer({ min: -2, max: 9 }) }),
  ),
})).value

describe('a quick check', () => {
  it.each(kinds.map((schema, i) => [i, schema.type, schema] as const))(
    'passes only what parsing would give back: %i, %s',
    (_, __, schema) => {
      fc.assert(
        fc.property(values, (value) => {
          expect(holds(schema, value)).toBe(true)
        }),
        { numRuns: 2000 },
      )
    },
  )

  it('passes what we wrote, and nothing of it once a part is another', () => {
    const schemas = (doc: Doc): [z.ZodType, unknown][] => [
      [Project, doc.project],
      ...Object.values(doc.clips).map((clip): [z.ZodType, unknown] => [Clip, clip]),
      ...Object.values(doc.timelines).map((timeline): [z.ZodType, unknown] => [Timeline, timeline]),
    ]
    fc.assert(
      fc.property(cuts, parts, fc.nat(), (cut, part, roll) => {
        for (const [schema, made] of schemas(docOf(cut))) {
          const value = JSON.parse(JSON.stringify(schema.parse(made))) as object
          expect(quickCheck(schema)(value)).toBe(true)
          const places: [Record<string, unknown>, string][] = []
          const visit = (at: unknown) => {
            if (typeof at !== 'object' || at === null) return
            for (const key of Object.keys(at)) {
              places.push([at as Record<string, unknown>, key])
              visit((at as Record<string, unknown>)[key])
            }
          }
          visit(value)
          const [at, key] = places[roll % places.length]!
          at[key] = part
          expect(holds(schema, value)).toBe(true)
          const { success } = schema.safeParse(value)
          expect(parseQuickly(schema, value).success).toBe(success)
        }
      }),
      { numRuns: 200 },
    )
  })
})
