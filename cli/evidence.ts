import type { Evidence } from '../src/core/evidence/evidence'
import { type Measuring, samplingOf, startMeasuring } from '../src/core/evidence/measure'
import { simdKernels } from '../src/core/evidence/simd'
import { lumaOf } from '../src/core/planes/planes'
import { rateName } from '../src/core/rate/rate'
import { reasonOf } from '../src/core/words/reason'
import { figure, percent } from '../src/core/words/figures'
import { type Command, WrongUse, print, parseWords } from './command'
import { StreamFault, openY4m } from './y4m'

export const evidenceCommand: Command = {
  usage: 'evidence [--json] FILE.y4m|-…',
  summary: 'What decoded frames (YUV4MPEG2) say: combs, fields, repeats, pulldown, bars, true detail.',
  options: [['--json', 'a JSON line for each file']],
  example: 'tally evidence --json decoded.y4m',
  async run(args) {
    const { positionals, json } = parseWords(args)
    if (positionals.length === 0)
      throw new WrongUse('At least one file of YUV4MPEG2 is needed, or - for standard input.')
    let status = 0
    for (const path of positionals) {
      const { evidence, fault } = await measured(path)
      if (fault) status = 1
      if (json) print(JSON.stringify(toJson(path, evidence, fault)))
      else forPeople(path, evidence, fault).forEach(print)
    }
    return status
  },
}

interface Measured {
  readonly evidence: Evidence | null
  readonly fault: { readonly code: string; readonly message: string; readonly offset: number } | null
}

/** Of a pipe nobody knows the length: its first frames are looked at, and then a stretch of every so many. */
const ofPipe = (index: number): boolean => index < 300 || index % 240 < 24

async function measured(path: string): Promise<Measured> {
  let measuring: Measuring | null = null
  let seen = 0
  let fault: Measured['fault'] = null
  try {
    const stream = await openY4m(path)
    try {
      const stretches = stream.frameCount === null ? null : samplingOf(stream.frameCount, stream.head)
      const planned = stretches?.reduce((sum, { count }) => sum + count, 0) ?? 0
      measuring = startMeasuring(simdKernels(), planned)
      const wanted = stretches
        ? (index: number) => stretches.some(({ first, count }) => index >= first && index < first + count)
        : ofPipe
      for await (const { index, planes } of stream.frames(wanted)) {
        measuring?.frame(index, lumaOf(planes))
        seen++
      }
    } catch (error) {
      fault = faultOf(error)
    }
    await stream.close()
    return {
      evidence: (seen && measuring?.finish(stream.head.rate)) || null,
      fault: fault ?? (seen ? null : noFrame),
    }
  } catch (error) {
    return { evidence: null, fault: faultOf(error) }
  }
}

const noFrame = { code: 'empty', message: 'It holds no frame.', offset: 0 }

const faultOf = (error: unknown) =>
  error instanceof StreamFault
    ? { code: error.code, message: error.message, offset: error.offset }
    : { code: 'unreadable', message: reasonOf(error), offset: 0 }

function toJson(file: string, evidence: Evidence | null, fault: Measured['fault']) {
  const evidencePart = evidence ? { evidence: printed(evidence) } : {}
  return fault ? { file, ok: false, error: fault, ...evidencePart } : { file, ok: true, ...evidencePart }
}

/** The fields that the terminal's JSON is described with. */
function printed({ frames, combing, fieldOrder, repeats, pulldown, bars, detail, mixed }: Evidence) {
  const { holds: _holds, ...rest } = repeats
  return {
    frames,
    combing,
    fieldOrder,
    repeats: rest,
    pulldown,
    bars,
    detail,
    ...(mixed.length ? { mixed } : {}),
  }
}

function forPeople(path: string, evidence: Evidence | null, fault: Measured['fault']): string[] {
  const lines = [path]
  const line = (name: string, value: string) => lines.push(`    ${name.padEnd(12)}${value}`)
  if (fault) line(fault.code, fault.message)
  if (!evidence) return lines
  const { combing, fieldOrder, repeats, pulldown, bars, detail } = evidence
  const sure = (confidence: number) => `, sure ${figure(confidence, 2)}`
  line('frames', String(evidence.frames))
  line('combing', `${combing.verdict}, ${percent(combing.share)} of the frames${sure(combing.confidence)}`)
  line('fields', fieldOrder.verdict + sure(fieldOrder.confidence))
  const behind = repeats.trueRate ? `, ${rateName(repeats.trueRate)} new frames a second` : ''
  line(
    'repeats',
    [repeats.verdict, repeats.pattern].filter(Boolean).join(' ') + behind + sure(repeats.confidence),
  )
  if (pulldown) line('pulldown', `${pulldown.pattern}, phase ${pulldown.phase}`)
  line(
    'bars',
    `${bars.top} ${bars.bottom} ${bars.left} ${bars.right} (top bottom left right)${sure(bars.confidence)}`,
  )
  const size = detail.width ? ` ${detail.width}×${detail.height}` : ''
  line('detail', detail.verdict + size + sure(detail.confidence))
  for (const { about, first, says } of evidence.mixed) line('mixed', `${about} from frame ${first}: ${says}`)
  return lines
}
