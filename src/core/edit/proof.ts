import * as z from 'zod'

const Words = z.string().max(1000)

/** A line of a proof: what was asked, and what was found in the file. */
export const ProofLine = z
  .object({
    what: Words,
    asked: Words,
    found: Words,
    /** Null where it cannot be told. */
    holds: z.boolean().nullable(),
  })
  .readonly()
export type ProofLine = z.infer<typeof ProofLine>

/** A rendered file, read back: kept with its deliverable. */
export const Proof = z
  .object({
    at: z.string().max(40),
    /** The name of the file. */
    file: Words,
    lines: z.array(ProofLine).readonly(),
    /** Whether nothing that was asked was found to be otherwise. */
    holds: z.boolean(),
    framesCompared: z.number().int().nonnegative(),
    frames: z.number().int().nonnegative(),
  })
  .readonly()
export type Proof = z.infer<typeof Proof>

/** Whether a line of a proof holds, in words. */
export const holdsWords = (holds: boolean | null): string =>
  holds === null ? 'cannot tell' : holds ? 'as asked' : 'otherwise'
