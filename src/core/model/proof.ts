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
  holds === null ? 'inconclusive' : holds ? 'matches' : 'differs'

/** What a proof comes to, in its first line: what differs, else what could not be told, else that all of it matches. */
export function verdictWords({ lines }: Pick<Proof, 'lines'>): string {
  const named = (holds: boolean | null) =>
    lines.filter((line) => line.holds === holds).map(({ what }) => what)
  const [differs, open] = [named(false), named(null)]
  if (differs.length > 0) {
    const more = open.length > 0 ? `; inconclusive: ${open.join(', ')}` : ''
    return `differs: ${differs.join(', ')}${more}`
  }
  return open.length > 0 ? `inconclusive: ${open.join(', ')}; all else matches` : 'matches'
}
