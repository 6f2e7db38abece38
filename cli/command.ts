import { parseArgs } from 'node:util'
import type { Format } from '../src/core/format/format'
import { parseFormat } from '../src/core/format/parse'
import { objections } from '../src/core/format/standard'

/** One command of the terminal. `run` gives the exit status. */
export interface Command {
  readonly usage: string
  readonly summary: string
  /** Its options, each with what it does. */
  readonly options?: readonly (readonly [option: string, what: string])[]
  /** A command line that does something useful. */
  readonly example: string
  run(args: string[]): Promise<number>
}

/** The words of a command line are off: told to the user with the usage, exit status 2. */
export class WrongUse extends Error {}

/** Positional words and options; `--json` is known to every command. @throws as node:util's parseArgs on unknown options */
export function parseWords(
  args: string[],
  options: Record<string, { type: 'string' | 'boolean'; multiple?: boolean }> = {},
) {
  const { values, positionals } = parseArgs({
    args,
    allowPositionals: true,
    options: { json: { type: 'boolean' }, ...options },
  })
  return {
    positionals,
    values: values as Record<string, string | boolean | string[] | undefined>,
    json: values.json === true,
  }
}

/** The format behind a word of the command line; what stands against it is told, and it is used all the same. */
export function readFormat(text: string, example: string): Format {
  const parsed = parseFormat(text)
  if (!parsed) throw new WrongUse(`“${text}” is not a format, as in ${example}.`)
  for (const said of [parsed.message, ...objections(parsed.format)]) if (said) tell(said)
  return parsed.format
}

export const print = (line: string): void => void process.stdout.write(line + '\n')
export const tell = (line: string): void => void process.stderr.write(line + '\n')

/** Rows as aligned columns for people. */
export function aligned(rows: readonly (readonly string[])[]): string[] {
  const widths = rows[0]?.map((_, i) => Math.max(...rows.map((row) => row[i]?.length ?? 0))) ?? []
  return rows.map((row) =>
    row
      .map((cell, i) => (i === row.length - 1 ? cell : cell.padEnd(widths[i] ?? 0)))
      .join('  ')
      .trimEnd(),
  )
}
