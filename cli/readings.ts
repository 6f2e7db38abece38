import { departure } from '../src/core/words/reason'
import { readFile as readText } from 'node:fs/promises'
import { text as textOf } from 'node:stream/consumers'
import * as z from 'zod'
import { Reading } from '../src/core/reading/reading'
import type { ReadResult } from '../src/core/reading/read'
import { WrongUse, tell } from './command'
import { jobsOption, readAll } from './jobs'

/** A line as `inspect --json` prints it. Facts that are missing are as not stated. */
const Line = z.object({
  file: z.string(),
  ok: z.boolean().optional(),
  error: z.object({ message: z.string().default('') }).optional(),
  reading: Reading.nullish(),
})

/** One file of the terminal's input, read now or read before. */
export interface Given {
  readonly file: string
  readonly result: ReadResult
}

/** The options that take readings instead of files, and say how files are read. */
export const readingsOption = { readings: { type: 'string' }, ...jobsOption } as const

/**
 * The files that are named, and then the readings of `--readings FILE|-`, in the order given.
 * @param values what `readingsOption` gave
 * @param bad told of a line that cannot be read; the others go on
 */
export async function* givenTo(
  paths: readonly string[],
  values: Readonly<Record<string, unknown>>,
  bad: () => void,
): AsyncGenerator<Given> {
  const readings = values.readings as string | undefined
  if (paths.length === 0 && readings === undefined)
    throw new WrongUse('At least one file, folder or --readings is needed.')
  for await (const { found, result } of readAll(paths, values)) yield { file: found.path, result }
  if (readings === undefined) return
  const lines = (await textFrom(readings)).split('\n')
  for (const [i, line] of lines.entries()) {
    if (!line.trim()) continue
    const given = parseLine(line)
    if ('wrong' in given) {
      bad()
      tell(`${readings === '-' ? 'standard input' : readings}, line ${i + 1}: ${given.wrong}`)
    } else yield given
  }
}

async function textFrom(readings: string): Promise<string> {
  if (readings === '-') return textOf(process.stdin)
  return readText(readings, 'utf8').catch(() => {
    throw new WrongUse(`There are no readings to be read in “${readings}”.`)
  })
}

function parseLine(line: string): Given | { wrong: string } {
  let raw: unknown
  try {
    raw = JSON.parse(line)
  } catch {
    return { wrong: 'this is no JSON.' }
  }
  const parsed = Line.safeParse(raw)
  if (!parsed.success) {
    return { wrong: `${departure(parsed.error)}.` }
  }
  const { file, ok, error, reading } = parsed.data
  if (reading && ok !== false) return { file, result: { ok: true, reading, origins: {} } }
  const message = error?.message || 'The file could not be read.'
  return {
    file,
    result: { ok: false, error: { code: 'unreadable', message }, ...(reading ? { reading } : {}) },
  }
}
