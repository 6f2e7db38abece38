import type { Patch } from 'immer'
import * as z from 'zod'

/**
 * What comes back from the disk beside the rows of a document, and what comes from other tabs, is written by who knows which version:
 * none of it goes further than here unless it has this shape.
 */

/** One step as it is kept. Whoever opens a project again begins new steps: none of these joins on. */
export interface StoredStep {
  readonly label: string
  /** When it was done. */
  readonly at: string
  readonly patches: Patch[]
  readonly inverse: Patch[]
}

/** What came to a step after it was kept. */
export interface MoreOfStep {
  readonly n: number
  /** Counted up with each that is joined to the step. */
  readonly part: number
  /** What the step is called since, and when it was joined. */
  readonly label: string
  readonly at: string
  readonly patches: Patch[]
  /** Applied before those of the step and of the parts before. */
  readonly inverse: Patch[]
}

/** What a change does to the history that is kept beside a document. Steps are numbered from 1. */
export interface Journal {
  /** The last step that is in force afterwards; 0 where none is. */
  readonly position: number
  /** A step that is to be kept under its number. */
  readonly put: { readonly n: number; readonly step: StoredStep } | null
  /** What was joined to a step that is kept: written beside it, since the step of a whole card is as large as the card. */
  readonly more?: MoreOfStep
  /** Whether steps behind the position are gone. */
  readonly dropsLater: boolean
}

/**
 * A log written ahead of the database: a transaction may wait for long behind others, a line at the end of a file does not. Each tab that
 * writes a project keeps one file of lines, JSON each, of what it changed; whoever writes the project next brings into the database what
 * that one did not come to.
 */
export interface AheadEntry {
  /** Counted by the tab from 1, without a gap. */
  readonly n: number
  readonly patches: readonly Patch[]
  readonly journal: readonly Journal[]
}

export const PatchSchema: z.ZodType<Patch> = z.object({
  op: z.enum(['replace', 'remove', 'add']),
  path: z.array(z.union([z.string(), z.number()])),
  value: z.any().optional(),
})
const patches = z.array(PatchSchema)
const count = z.number().int().nonnegative()

const step = { label: z.string(), at: z.string(), patches, inverse: patches }
export const StoredStepSchema: z.ZodType<StoredStep> = z.object(step)
export const MoreOfStepSchema: z.ZodType<MoreOfStep> = z.object({ n: count, part: count, ...step })

const JournalSchema: z.ZodType<Journal> = z.object({
  position: count,
  put: z.object({ n: count, step: StoredStepSchema }).nullable(),
  more: MoreOfStepSchema.optional(),
  dropsLater: z.boolean(),
})
export const AheadEntrySchema: z.ZodType<AheadEntry> = z.object({
  n: count,
  patches,
  journal: z.array(JournalSchema),
})
