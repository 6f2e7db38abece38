import { spawn } from 'node:child_process'
import { mkdtemp, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { beforeAll, describe, expect, it } from 'vitest'
import { count, fielded, filmed, held } from '../src/core/evidence/drawn.fixture'
import type { Luma } from '../src/core/planes/luma'

/** Frames as a YUV4MPEG2 stream with grey chroma. */
function stream(frames: readonly Luma[], head = 'F25:1 C420jpeg', frameWords = ''): Buffer {
  const [{ width, height } = { width: 2, height: 2 }] = frames
  const chroma = Buffer.alloc(2 * Math.ceil(width / 2) * Math.ceil(height / 2), 128)
  return Buffer.concat([
    Buffer.from(`YUV4MPEG2 W${width} H${height} ${head}\n`),
    ...frames.flatMap(({ data }) => [Buffer.from(`FRAME${frameWords}\n`), Buffer.from(data), chroma]),
  ])
}

function tally(
  words: string[],
  input?: Buffer,
): Promise<{ code: number | null; lines: string[]; stderr: string }> {
  const child = spawn(process.execPath, ['tools/scripts/tally.mjs', 'evidence', ...words], {
    cwd: join(import.meta.dirname, '..'),
  })
  let [out, stderr] = ['', '']
  child.stdout.on('data', (chunk: Buffer) => (out += chunk.toString()))
  child.stderr.on('data', (chunk: Buffer) => (stderr += chunk.toString()))
  child.stdin.end(input)
  return new Promise((resolve) =>
    child.on('close', (code) => resolve({ code, lines: out.trim().split('\n'), stderr })),
  )
}

let folder = ''
const file = async (name: string, bytes: Buffer) => {
  const path = join(folder, name)
  await writeFile(path, bytes)
  return path
}
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'evidence-'))
})

describe('tally evidence', () => {
  it('tells of each stream what its frames say, one line each', async () => {
    const tape = await file('tape.y4m', stream(fielded(count(12).map((i) => [i, i + 0.5] as const))))
    const film = await file('film.y4m', stream(filmed(held(40, [2, 3], 1)), 'F60:1', ' Ip'))
    const { code, lines } = await tally(['--json', tape, film])
    const [first, second] = lines.map((line) => JSON.parse(line))
    expect(code).toBe(0)
    expect(first).toMatchObject({
      file: tape,
      ok: true,
      evidence: { frames: 12, combing: { verdict: 'combed' }, fieldOrder: { verdict: 'top-first' } },
    })
    expect(Object.keys(second.evidence)).toEqual([
      'frames',
      'combing',
      'fieldOrder',
      'repeats',
      'pulldown',
      'bars',
      'detail',
    ])
    expect(second.evidence.repeats).toEqual({
      verdict: 'pattern',
      pattern: '2:3',
      phase: 1,
      trueRate: { num: 24, den: 1 },
      confidence: expect.any(Number),
    })
  })

  it('reads standard input, and tells people in words', async () => {
    const { code, lines } = await tally(['-'], stream(filmed(count(12))))
    expect(code).toBe(0)
    expect(lines.slice(0, 4).map((line) => line.trimStart().split(/\s{2,}/))).toEqual([
      ['-'],
      ['frames', '12'],
      ['combing', expect.stringMatching(/^clean, 0 % of the frames, sure \d\.\d\d$/)],
      ['fields', expect.stringMatching(/^progressive, sure/)],
    ])
  })

  it('says what is wrong with a stream, and what was looked at until then', async () => {
    const whole = stream(filmed(count(10)))
    const cut = await file('cut.y4m', whole.subarray(0, whole.length - 9000))
    const none = await file('none.y4m', Buffer.from('not a stream\n'))
    const empty = await file('empty.y4m', Buffer.alloc(0))
    const astray = await file('astray.y4m', Buffer.concat([whole, Buffer.from('FRAMX\n')]))
    const { code, lines } = await tally(['--json', cut, none, empty, astray, join(folder, 'gone.y4m')])
    expect(code).toBe(1)
    const printedLines = lines.map((line) => JSON.parse(line))
    expect(printedLines.map(({ ok, error, evidence }) => [ok, error.code, evidence?.frames])).toEqual([
      [false, 'truncated', 9],
      [false, 'not-media', undefined],
      [false, 'empty', undefined],
      [false, 'damaged', 10],
      [false, 'unreadable', undefined],
    ])
    expect(printedLines[0].error.message).toBe('Frame 9 is cut off; those before it were looked at.')
    expect((await tally([])).code).toBe(2)
  })
})
