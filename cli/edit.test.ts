import { spawn } from 'node:child_process'
import { mkdtemp, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { text } from 'node:stream/consumers'
import { beforeAll, describe, expect, it } from 'vitest'

const root = join(import.meta.dirname, '..')
/** Runs a command of the terminal. */
async function tally(words: readonly string[], input = '') {
  const child = spawn(process.execPath, ['tools/scripts/tally.mjs', ...words], { cwd: root })
  child.stdin.end(input)
  const [stdout, stderr, code] = await Promise.all([
    text(child.stdout),
    text(child.stderr),
    new Promise<number>((done) => child.on('close', done)),
  ])
  return { stdout, stderr, code }
}
const edl = [
  'TITLE: The ninth bell',
  'FCM: NON-DROP FRAME',
  '001  AX       AA/V  C        00:14:10:00 00:14:12:00 01:00:00:00 01:00:02:00',
  '* FROM CLIP NAME: bell_swing_B011.mp4',
  '002  AX       V     C        00:00:00:00 00:00:01:00 01:00:02:00 01:00:03:00',
  '* FROM CLIP NAME: nobody.mp4',
].join('\n')
let folder = ''
const file = async (name: string, content: string) => {
  const path = join(folder, name)
  await writeFile(path, content)
  return path
}
beforeAll(async () => void (folder = await mkdtemp(join(tmpdir(), 'steps-'))))

describe('the terminal', () => {
  it('takes a list in, edits it, and says what is seen and heard', async () => {
    const clips = await file(
      'card.jsonl',
      (await tally(['inspect', '--json', 'tools/demo/clips/bell_swing_B011.mp4'])).stdout,
    )
    const cut = await file('cut.edl', edl)
    const taken = await tally(['import', '--format', '1920x1080@25p', '--clips', clips, cut])
    expect([taken.code, taken.stderr.trim()]).toEqual([
      0,
      'Event 002, line 5: “nobody.mp4” is not among the clips: a gap stands in its place.',
    ])
    const film = await file('film.json', taken.stdout)

    const steps = [
      { do: 'cut', frame: 20 },
      { do: 'remove', placements: [{ track: 'V1', index: 0 }], closeGap: true },
      { do: 'jump' },
      { do: 'correct', clip: 'bell_swing_B011.mp4', set: { rate: '25' } },
    ]
    const lines = steps.map((step) => JSON.stringify(step)).join('\n')
    const edited = await tally(['edit', film, '-'], lines)
    expect([edited.code, edited.stderr]).toEqual([1, expect.stringMatching(/^Line 3: refused: /)])
    const after = await file('after.json', edited.stdout)

    const plan = await tally(['plan', after, 'The ninth bell', '0', '2', '--sound', '--json'])
    const frames = plan.stdout
      .trim()
      .split('\n')
      .map((line) => JSON.parse(line))
    expect(frames.map(({ layers, sounds }) => [layers.length, sounds.length])).toEqual([
      [1, 1],
      [1, 1],
    ])
    // 20 frames of 25 in at 50, run at half speed since; the sound beside it.
    expect(frames[0].sounds[0]).toMatchObject({ speed: { num: 1, den: 2 } })
    expect(frames[0].layers[0].shown).toMatchObject({ kind: 'frame', index: 40 })
    const words = await tally(['plan', after, 'The ninth bell', '0', '1', '--sound'])
    expect(words.stdout).toMatch(/source frame 40 .*at 0\.8000 s, at 50 % speed/)
  }, 60_000)

  it.each([
    ['import without a cut', ['import'], 2],
    ['a cut that is not there', ['import', 'nowhere.edl'], 1],
    ['edit without steps', ['edit', 'film.json'], 2],
    ['a project that is not there', ['edit', 'nowhere.json', '-'], 1],
  ])('says what is wrong with %s', async (_, words, status) => {
    const { code, stderr } = await tally(words)
    expect([code, stderr.length > 10]).toEqual([status, true])
  })
})
