import { readFile } from 'node:fs/promises'
import { basename } from 'node:path'
import * as z from 'zod'
import { type Offered, proposed } from '../src/core/choice/proposed'
import { stepsOfWay } from '../src/core/choice/steps-of-way'
import { untreatedOf } from '../src/core/choice/untreated'
import { Evidence } from '../src/core/evidence/evidence'
import type { Format } from '../src/core/format/format'
import type { Picture } from '../src/core/picture/picture'
import { heldTrue } from '../src/core/reading/correct'
import { type Reading } from '../src/core/reading/reading'
import { defaultWeights } from '../src/core/toll/policy'
import { plainTreatment } from '../src/core/treatment/treatment'
import { figure } from '../src/core/words/figures'
import { departure } from '../src/core/words/reason'
import { type Command, WrongUse, aligned, print, readFormat, tell, parseWords } from './command'
import { givenTo, readingsOption } from './readings'

export const proposeCommand: Command = {
  usage: 'propose FORMAT [--readings FILE|-] [--evidence FILE] FILE… [--json]',
  summary: 'What is usual for each clip in a timeline of a format, why, and what would lose less.',
  options: [
    ['--readings FILE|-', 'lines of inspect --json instead of files'],
    ['--evidence FILE', 'lines of evidence --json, by file'],
    ['--jobs N', 'reads with N workers'],
    ['--progress', 'tells on standard error how many are read'],
    ['--json', 'a JSON line for each file'],
  ],
  example: 'tally propose 1920x1080@25p --evidence seen.jsonl card/',
  async run(args) {
    const { positionals, values, json } = parseWords(args, {
      evidence: { type: 'string' },
      ...readingsOption,
    })
    const [text, ...paths] = positionals
    if (text === undefined) throw new WrongUse('A format is needed, as in 1920x1080@25p.')
    const format = readFormat(text, '1920x1080@25p')
    let status = 0
    const bad = () => (status = 1)
    const seen = await evidenceIn(values.evidence as string | undefined, bad)
    const rows: string[][] = []
    for await (const { file, result } of givenTo(paths, values, bad)) {
      if (!result.ok) {
        bad()
        tell(`${file}: ${result.error.message}`)
      }
      if (!result.reading) continue
      const sentences = tellFor(result.reading, seen.get(file) ?? seen.get(basename(file)) ?? null, format)
      if (json) print(JSON.stringify({ file, ...sentences }))
      else {
        const less = sentences.less
          ? `or ${sentences.less.motion}, ${sentences.less.framing}: ${figure(sentences.less.loss, 3)}`
          : ''
        rows.push([
          file,
          sentences.motion,
          sentences.framing,
          figure(sentences.loss, 3),
          sentences.reason,
          less,
        ])
      }
    }
    if (!json) aligned([['file', 'motion', 'framing', 'loss', 'why', 'loses less'], ...rows]).forEach(print)
    return status
  },
}

interface Told {
  readonly motion: string
  readonly framing: string
  readonly loss: number
  readonly reason: string
  readonly less: { readonly motion: string; readonly framing: string; readonly loss: number } | null
}

function tellFor(claimed: Reading, evidence: Evidence | null, format: Format): Told {
  const clip = untreatedOf(heldTrue(claimed, {}, evidence), evidence)
  if (!clip)
    return { motion: 'none', framing: 'same', loss: 0, reason: 'sound alone: it has no picture', less: null }
  const found = proposed(clip, format, plainTreatment, defaultWeights)
  const { proposal, toll, reason, less } = found
  return {
    motion: proposal.steps.join('+') || 'none',
    framing: proposal.framing === 'one-to-one' ? '1:1' : proposal.framing,
    loss: toll.loss,
    reason,
    less: less && { ...namedBy(less, clip.picture, format, proposal.framing), loss: less.toll.loss },
  }
}

/** The same words for what loses less; where it frames as is proposed, it is called so. */
function namedBy({ way, set, change }: Offered, picture: Picture, format: Format, usual: string) {
  const mode = set.framing?.mode?.kind
  const framing = mode ?? (usual === 'one-to-one' ? 'fit' : change.crop ? 'fill' : usual)
  return {
    motion: stepsOfWay(way, picture, format, change).join('+') || 'none',
    framing: framing === 'one-to-one' ? '1:1' : framing,
  }
}

/** A line as `evidence --json` prints it; what is left out was not looked at. */
const Line = z.object({ file: z.string(), evidence: z.record(z.string(), z.unknown()).nullish() })

const open = {
  frames: 0,
  combing: { verdict: 'cannot-tell', share: 0, confidence: 0 },
  fieldOrder: { verdict: 'cannot-tell', confidence: 0 },
  repeats: { verdict: 'cannot-tell', pattern: null, holds: null, phase: null, trueRate: null, confidence: 0 },
  pulldown: null,
  bars: { top: 0, bottom: 0, left: 0, right: 0, confidence: 0 },
  detail: { verdict: 'cannot-tell', width: null, height: null, confidence: 0 },
  mixed: [],
  seenAt: { combed: null, repeated: null },
} as const

async function evidenceIn(path: string | undefined, bad: () => void): Promise<Map<string, Evidence>> {
  const found = new Map<string, Evidence>()
  if (path === undefined) return found
  const text = await readFile(path, 'utf8').catch(() => {
    throw new WrongUse(`There is no evidence to be read in “${path}”.`)
  })
  for (const [i, line] of text.split('\n').entries()) {
    if (!line.trim()) continue
    try {
      const { file, evidence } = Line.parse(JSON.parse(line))
      if (!evidence) continue
      const whole = Object.fromEntries(
        Object.entries(open).map(([name, usual]) => {
          const said = evidence[name]
          return [
            name,
            typeof usual === 'object' && usual && !Array.isArray(usual)
              ? { ...usual, ...(said as object) }
              : (said ?? usual),
          ]
        }),
      )
      const parsed = Evidence.parse(whole)
      found.set(file, parsed)
      if (!found.has(basename(file))) found.set(basename(file), parsed)
    } catch (error) {
      bad()
      const why = error instanceof z.ZodError ? departure(error) : 'this is no JSON'
      tell(`${path}, line ${i + 1}: ${why}.`)
    }
  }
  return found
}
