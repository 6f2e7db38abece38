import { execFile } from 'node:child_process'
import { copyFile, mkdtemp, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { promisify } from 'node:util'
import { describe, expect, it } from 'vitest'

const root = join(import.meta.dirname, '..')
interface Ran {
  code?: number
  stdout: string
  stderr: string
}
const tally = (...words: string[]): Promise<Ran> =>
  promisify(execFile)(process.execPath, ['tools/scripts/tally.mjs', ...words], {
    cwd: root,
    maxBuffer: 1e8,
  }).catch((error: Ran) => error)
const json = async (...words: string[]) => JSON.parse((await tally(...words, '--json')).stdout)

describe('the terminal', () => {
  it('tells rates', async () => {
    expect(await json('rate', '23.98')).toEqual({
      rate: { num: 24000, den: 1001 },
      scan: null,
      snapped: true,
      message: '23.98 is taken as 23.976: exactly 24000/1001 frames a second.',
    })
  })

  it('tells cadences', async () => {
    const cadence = await json('cadence', '24', '60')
    expect(cadence).toMatchObject({
      kind: 'uneven',
      periodTimeline: 5,
      periodSource: 2,
      repeated: 3,
      dropped: 0,
      slipSeconds: null,
      holds: [2, 3],
    })
    expect(cadence.judderMs).toBeCloseTo(8.333, 3)
  })

  it('tells how a picture lies in a frame', async () => {
    expect(await json('fit', '1440x1080/4:3', '1920x1080')).toEqual({
      scaleX: 4 / 3,
      scaleY: 1,
      barsX: 0,
      barsY: 0,
      barsShare: 0,
      cropShare: 0,
      headroom: 0.75,
      distortion: 1,
    })
    expect((await json('fit', '1920x1080@90', '1920x1080', '--framing', 'fill')).cropShare).toBeCloseTo(
      175 / 256,
      9,
    )
  })

  it('prints one line a file in the order given, and 1 where one could not be read', async () => {
    const files = [
      'tools/demo/clips/title_card.png',
      'tools/demo/clips/pour_backup_B015.mp4',
      'nowhere.mov',
      'tools/demo/clips/tower_P100.mp4',
    ]
    const { stdout, code } = await tally('inspect', '--json', ...files)
    const lines = stdout
      .trim()
      .split('\n')
      .map((line) => JSON.parse(line))
    expect(lines.map((line) => [line.file, line.ok, line.error?.code])).toEqual([
      [files[0], true, undefined],
      [files[1], false, 'truncated'],
      [files[2], false, 'unreadable'],
      [files[3], true, undefined],
    ])
    expect(code).toBe(1)
    const fields = [
      'kind',
      'container',
      'sizeBytes',
      'durationSec',
      'video',
      'audio',
      'timecode',
      'recordedAt',
      'reel',
      'notes',
    ]
    expect(Object.keys(lines[3].reading)).toEqual(fields)
  })

  it('prices files', async () => {
    const { stdout } = await tally(
      'toll',
      '3840x2160@25p',
      'tools/demo/clips/hall_wide_A003.mp4',
      'tools/demo/clips/bell_swing_B011.mp4',
      '--json',
    )
    const [hall, bell] = stdout
      .trim()
      .split('\n')
      .map((line) => JSON.parse(line))
    expect(hall).toMatchObject({ grade: 'free', loss: 0, charges: [] })
    expect(bell).toMatchObject({
      grade: 'severe',
      charges: [
        { kind: 'enlarge', loss: 0.75 },
        { kind: 'even-skip', loss: 0.04 },
      ],
    })
  })

  it('prices sound and stills too, one line a file, and tells what stands against a format', async () => {
    const { stdout, stderr } = await tally(
      'toll',
      '1921x1080@25p',
      'tools/demo/clips/hall_sound.wav',
      'tools/demo/clips/title_card.png',
      '--json',
    )
    const lines = stdout
      .trim()
      .split('\n')
      .map((line) => JSON.parse(line))
    expect(lines.map((line) => [line.grade, line.charges.length])).toEqual([
      ['free', 0],
      ['heavy', 2],
    ])
    expect(stderr).toContain('odd side')
  })

  it('says so where nothing votes', async () => {
    const { stdout } = await tally('choose', 'tools/demo/clips/title_card.png')
    expect(stdout).toMatch(/^No footage votes/)
  })

  it('chooses UHD 25p for the demo, and otherwise when 50i HD is delivered', async () => {
    const { candidates, excluded } = await json('choose', 'tools/demo/clips')
    expect(candidates[0].format).toBe('3840x2160@25p')
    expect(excluded.map((e: { why: string }) => e.why).sort()).toEqual([
      'not-read',
      'sound',
      'sound',
      'still',
    ])
    const delivered = await json('choose', '--deliver', '1920x1080@50i', 'tools/demo/clips')
    expect(delivered.candidates[0].format).toBe('1920x1080@50i')
    expect(delivered.candidates[0].reason).toContain('Delivered as it is.')
    const uhd = delivered.candidates.find((c: { format: string }) => c.format === '3840x2160@25p')
    expect(uhd.reason).toContain('Delivered as 1920×1080 · 50i: reduced to 50 %')
  })

  it.each([
    [[]],
    [['polish']],
    [['rate', 'fast']],
    [['fit', '1920x1080']],
    [['toll', 'HD', 'x']],
    [['choose', '--lean', 'left', 'x']],
    [['inspect', '--loud', 'x']],
  ])('answers 2 to wrong use: %j', async (args) => {
    const { code, stderr, stdout } = await tally(...args)
    expect(code).toBe(2)
    expect(stderr).toContain('Usage')
    expect(stdout).toBe('')
  })

  it('chooses from readings that were printed before, facts missing or not, and goes on behind a bad line', async () => {
    const lines = [
      JSON.stringify({
        file: 'a.mp4',
        ok: true,
        reading: {
          kind: 'video',
          durationSec: 90,
          video: { width: 1920, height: 1080, rate: { num: 60000, den: 1001 } },
        },
      }),
      'no line of ours',
      JSON.stringify({
        file: 'b.mp4',
        reading: {
          kind: 'video',
          durationSec: 10,
          video: { width: 1920, height: 1080, rate: { num: 120, den: 1 } },
        },
      }),
      JSON.stringify({
        file: 'c.mp4',
        reading: { kind: 'video', video: { width: 1920, height: 1080, rate: { num: 0, den: 1 } } },
      }),
      JSON.stringify({ file: 'd.mp4', ok: false, error: { code: 'empty', message: 'The file is empty.' } }),
    ].join('\n')
    const path = join(await mkdtemp(join(tmpdir(), 'readings-')), 'readings.jsonl')
    await writeFile(path, lines)
    const { stdout, stderr, code } = await tally('choose', '--readings', path, '--mains', '60', '--json')
    const { candidates, excluded } = JSON.parse(stdout)
    expect([candidates[0].format, candidates[0].loss.toFixed(4)]).toEqual(['1920x1080@59.94p', '0.0000'])
    expect(excluded).toEqual([{ file: 'd.mp4', why: 'not-read' }])
    expect(stderr).toMatch(/line 2: this is no JSON/)
    expect(stderr).toMatch(/line 4: reading\.video\.rate: a rate is/)
    expect(code).toBe(1)
    expect((await tally('choose', '--readings', path, '--mains', '55')).code).toBe(2)
    const tolls = (await tally('toll', '1920x1080@25p', '--readings', path, '--json')).stdout
      .trim()
      .split('\n')
    expect(tolls.map((line) => JSON.parse(line).file)).toEqual(['a.mp4', 'b.mp4'])
  })

  it('reads numbered pictures as one clip each, if it is asked to, and tells what is missing', async () => {
    const folder = await mkdtemp(join(tmpdir(), 'plates-'))
    const files = join(root, 'test/fixtures/files')
    for (const n of [1001, 1002, 1004, 1005])
      await copyFile(join(files, 'plate_10.dpx'), join(folder, `strike.${n}.dpx`))
    await copyFile(join(files, 'score.aiff'), join(folder, 'score.aiff'))
    const { stdout } = await tally('inspect', '--json', '--numbered', '--rate', '24', folder)
    const lines = stdout.trim().split('\n')
    const [score, strike] = lines.map((line) => JSON.parse(line) as { file: string; reading: object })
    expect(lines).toHaveLength(2)
    expect(score!.file).toBe(join(folder, 'score.aiff'))
    expect(strike).toMatchObject({
      file: join(folder, 'strike.[1001-1005].dpx'),
      reading: {
        ...{ kind: 'video', durationSec: 5 / 24 },
        video: {
          ...{ rate: { num: 24, den: 1 }, frameCount: 5 },
          numbered: { first: 1001, last: 1005, leftOut: [{ from: 1003, to: 1003, why: 'missing' }] },
        },
      },
    })
    const alone = await tally('inspect', '--json', folder)
    expect(alone.stdout.trim().split('\n')).toHaveLength(5)
    expect((await tally('inspect', '--numbered', '--rate', 'often', folder)).code).toBe(2)
  })

  it('walks on past what is no file, and knows no command that objects are born with', async () => {
    const folder = await mkdtemp(join(tmpdir(), 'walked-'))
    await promisify(execFile)('mkfifo', [join(folder, 'a_pipe.mp4')])
    await copyFile(join(root, 'tools/demo/clips/tower_P100.mp4'), join(folder, 'tower.mp4'))
    const { stdout, code } = await tally('inspect', '--json', folder)
    const lines = stdout
      .trim()
      .split('\n')
      .map((line) => JSON.parse(line))
    expect(lines.map(({ ok, error }) => [ok, error?.code])).toEqual([
      [false, 'unreadable'],
      [true, undefined],
    ])
    expect(code).toBe(1)
    for (const name of ['constructor', '__proto__', 'strike']) {
      const ran = await tally(name)
      expect([ran.code, ran.stderr.includes('choose [--deliver')]).toEqual([2, true])
    }
  })
})
