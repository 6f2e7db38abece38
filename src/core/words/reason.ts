import { z } from 'zod'

/** Where a value departs from its schema: `reading.video.rate: a rate is more than 0`. */
export function departure({ issues }: z.ZodError): string {
  const [first] = issues
  return first
    ? `${first.path.map(String).join('.') || 'the whole of it'}: ${first.message}`
    : 'it cannot be read'
}

/**
 * What was thrown, in its own words: where it departs from a schema; the first line of an error's message (storage adds what
 * lies behind it in further lines); of anything else its text.
 */
export function reasonOf(thrown: unknown): string {
  if (thrown instanceof z.ZodError) return departure(thrown)
  return (thrown instanceof Error ? thrown.message : String(thrown)).split('\n', 1).join('').trim()
}
