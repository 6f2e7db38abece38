import * as z from 'zod'

/** What is wrong with a value, in words for people. */
export function issueWords({ message }: z.core.$ZodIssue): string {
  const found = /^Invalid input: expected (.+), received (.+)$/.exec(message)
  if (!found) return message
  const [, expected, received] = found
  const named: Record<string, string> = {
    array: 'a list',
    object: 'an object',
    string: 'a text',
    null: 'nothing',
    NaN: 'no number',
  }
  const said = (kind: string | undefined) => named[kind ?? ''] ?? `a ${kind}`
  return received === 'undefined'
    ? `${said(expected)} is missing`
    : `${said(expected)} is expected, not ${said(received)}`
}

/** Where a value departs from its schema: `reading.video.rate: a rate is more than 0`. */
export function departure({ issues }: z.ZodError): string {
  const [first] = issues
  return first
    ? `${first.path.map(String).join('.') || 'the whole of it'}: ${issueWords(first)}`
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
