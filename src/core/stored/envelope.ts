import { type Result, failure } from '../result'
import type * as z from 'zod'
import { issueWords } from '../words/reason'

/** What an exchanged JSON file is, and how its older versions become new ones. */
export interface Kind {
  readonly kind: string
  /** What it is in words, for messages: `a project`. */
  readonly what: string
  /** The version that is written. Older ones are migrated, newer ones refused. */
  readonly version: number
  /** Brings a file of an older version to today's; null where that version is not known. */
  readonly migrate?: (file: Record<string, unknown>, version: number) => Record<string, unknown> | null
}

/** Opens a file of a kind and brings it to the version of today. What is wrong is told; nothing is guessed. */
export function openEnvelope(
  text: string,
  { kind, what, version: newest, migrate }: Kind,
): Result<{ value: unknown; version: number }> {
  let raw: unknown
  try {
    raw = JSON.parse(text)
  } catch (error) {
    return failure(`The file is not JSON: ${(error as Error).message}. Nothing was changed.`)
  }
  if (typeof raw !== 'object' || raw === null || (raw as { kind?: unknown }).kind !== kind)
    return failure(`The file is JSON, but not ${what} of Yard Tally. Nothing was changed.`)
  const file = raw as Record<string, unknown>
  const version = Number(file.version)
  if (!Number.isInteger(version) || version < 1)
    return failure('The file does not say its version. Nothing was changed.')
  if (version > newest) {
    return failure(
      `The file is of version ${version}; this Yard Tally reads up to version ${newest}. Open it with a newer one. Nothing was changed.`,
    )
  }
  const brought = version === newest ? file : (migrate?.(file, version) ?? null)
  return brought === null
    ? failure(`The file is of version ${version}, which is not known. Nothing was changed.`)
    : { ok: true, value: brought, version }
}

/**
 * Where a file departs from its schema, in a sentence.
 * @param nameOf what a place is called by, where it has a name
 */
export function damage(
  { issues }: z.ZodError,
  nameOf: (path: readonly PropertyKey[]) => string | null = () => null,
): string {
  const [first] = issues
  const name = first ? nameOf(first.path) : null
  const place = first?.path.map(String).join('.') || 'its head'
  return `The file is damaged at ${place}${name ? ` (${name.length > 80 ? `${name.slice(0, 80)}…` : name})` : ''}: ${first ? issueWords(first) : 'it cannot be read'}. Nothing was changed.`
}
