import { execFile, spawn } from 'node:child_process'
import { mkdtemp, readFile, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { promisify } from 'node:util'
import { beforeAll, describe, expect, it } from 'vitest'
import { readProjectFile } from '../src/core/stored/project-file'

const root = join(import.meta.dirname, '..')
const tally = (...words: string[]): Promise<{ stdout: string; stderr: string; code?: number }> =>
  promisify(execFile)(process.execPath, ['tools/scripts/tally.mjs', ...words], {
    cwd: root,
    maxBuffer: 1e8,
  }).catch((error) => error)
const lines = (text: string) => text.trim().split('\n')

let film = ''
beforeAll(async () => {
  film = join(await mkdtemp(join(tmpdir(), 'batch-')), 'film.json')
})

describe('help', () => {
  it('lists every command; each tells its options and an example that names it', async () => {
    const { stdout, code } = await tally('--help')
    expect(code).toBeUndefined()
    const commands = [...stdout.matchAll(/^ {2}([a-z]+) /gm)].map((match) => match[1]!)
    const wanted =
      'inspect rate cadence fit toll choose propose evidence carry loudness resample deinterlace plan edit import new check export'
    expect(commands.sort()).toEqual(wanted.split(' ').sort())
    for (const command of ['inspect', 'check', 'export']) {
      const about = await tally(command, '--help')
      expect(about.code).toBeUndefined()
      expect(about.stdout).toContain('For example:')
      expect(about.stdout).toContain(`tally ${command} `)
    }
    expect((await tally('help', 'new')).stdout).toContain('--cut NAME')
  }, 60_000)
})

describe('a batch', () => {
  it('makes a project of clips and a format, which opens, and is checked by grade', async () => {
    const firstRun = await tally(
      'new',
      '--format',
      '1920x1080@25p',
      '--name',
      'Bells',
      '--cut',
      'Rushes',
      'tools/demo/clips',
    )
    // One of the demo's files is cut off: it is kept with the reason.
    expect(firstRun.code).toBe(1)
    expect(firstRun.stderr).toContain('Cut off after 78 kB')
    await writeFile(film, firstRun.stdout)
    const read = readProjectFile(await readFile(film, 'utf8'))
    if (!read.ok) throw new Error(read.error)
    const { doc } = read
    expect(doc.project.clipOrder).toHaveLength(23)
    expect(doc.project.format).toMatchObject({ width: 1920, rate: { num: 25, den: 1 } })
    const [timeline] = Object.values(doc.timelines)
    expect(timeline?.tracks[0]?.placements).toHaveLength(20)
    expect(Object.values(doc.clips).every(({ hash }) => hash?.length === 32)).toBe(true)

    const checked = await tally('check', film, '--json')
    expect(checked.code).toBeUndefined()
    const said = JSON.parse(checked.stdout)
    expect(said).toMatchObject({ timeline: 'Rushes', format: '1920x1080@25p' })
    expect(said.findings[0]).toMatchObject({ kind: 'enlarge', grade: 'severe' })
    expect((await tally('check', film, '--fail-on', 'severe')).code).toBe(1)
    expect((await tally('check', film, '--fail-on', 'nothing')).code).toBe(2)
    expect((await tally('check', film, '--timeline', 'Nowhere')).code).toBe(2)
  }, 60_000)

  it('fails a check only from the grade that is named on', async () => {
    const alone = await tally(
      'new',
      '--format',
      '1920x1080@25p',
      '--cut',
      'A',
      'tools/demo/clips/hall_wide_A003.mp4',
    )
    await writeFile(film, alone.stdout)
    expect((await tally('check', film, '--fail-on', 'light')).code).toBe(1)
    expect((await tally('check', film, '--fail-on', 'heavy')).code).toBeUndefined()
  }, 60_000)

  it('reads with several workers in the order given, the same lines', async () => {
    const alone = await tally('inspect', '--json', 'tools/demo/clips', 'nowhere.mov', 'test/fixtures/files')
    const together = await tally(
      'inspect',
      '--json',
      '--jobs',
      '3',
      'tools/demo/clips',
      'nowhere.mov',
      'test/fixtures/files',
    )
    expect(lines(together.stdout)).toHaveLength(lines(alone.stdout).length)
    expect(together.stdout).toBe(alone.stdout)
    expect(together.code).toBe(1)
    expect((await tally('inspect', '--jobs', '0', 'tools/demo/clips')).code).toBe(2)
  }, 60_000)

  it('tells how far it is where that is asked for, on standard error alone', async () => {
    const { stdout, stderr } = await tally('inspect', '--json', '--progress', 'tools/demo/clips')
    expect(stderr).toContain('23 files read')
    expect(lines(stdout).every((line) => JSON.parse(line).file)).toBe(true)
  }, 60_000)

  it.each(['1', '3'])(
    'ends quietly when nobody listens any more, with %s workers',
    async (jobs) => {
      const child = spawn(
        process.execPath,
        ['tools/scripts/tally.mjs', 'inspect', '--jobs', jobs, 'tools/demo/clips', 'test/fixtures/files'],
        { cwd: root },
      )
      let said = ''
      child.stderr.on('data', (text) => (said += String(text)))
      child.stdout.once('data', () => child.stdout.destroy())
      const code = await new Promise((resolve) => child.on('exit', resolve))
      expect([code, said]).toEqual([0, ''])
    },
    60_000,
  )
})
