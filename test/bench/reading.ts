/** How fast clips are read, and how many bytes each takes: a folder of a thousand, beside the media toolkit's probe. */
import { execFile } from 'node:child_process'
import { copyFile, mkdtemp, readdir, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { promisify } from 'node:util'
import { readFile as readClip, withSource } from '../../cli/read-file'
import { countingSource } from '../../src/core/reading/bytes/source'
import { read } from '../../src/core/reading/read'
import { leastInTurn } from './native'
import { sized } from './size'

const run = promisify(execFile)
const sources = [
  join(import.meta.dirname, '..', '..', 'test', 'fixtures', 'files'),
  join(import.meta.dirname, '..', '..', 'tools', 'demo', 'clips'),
]

const filesIn = async (folder: string) => (await readdir(folder)).sort().map((name) => join(folder, name))

/** Clips a second in one process, and of the same folder by starting the probe for each file (a sample of it): by turns, the best of each. */
export async function measureReading(count = sized(1000, 40), sample = sized(20, 2)) {
  const known = (await Promise.all(sources.map(filesIn))).flat()
  const folder = await mkdtemp(join(tmpdir(), 'thousand-'))
  try {
    const paths: string[] = []
    for (let i = 0; i < count; i++) {
      const path = join(folder, `${String(i).padStart(4, '0')}_${known[i % known.length]!.split('/').pop()}`)
      await copyFile(known[i % known.length]!, path)
      paths.push(path)
    }
    const hasProbe = await run('ffprobe', ['-version'])
      .then(() => true)
      .catch(() => false)
    const words = ['-v', 'quiet', '-show_streams', '-show_format', '-of', 'json']
    const { own, probe } = await leastInTurn({
      own: () => Promise.all(chunked(paths, 8).map(readEach)),
      probe: async () => {
        for (const path of hasProbe ? paths.slice(0, sample) : [])
          await run('ffprobe', [...words, path]).catch(() => {})
      },
    })
    return { own: (1000 * count) / own, probed: hasProbe ? (1000 * sample) / probe : null }
  } finally {
    await rm(folder, { recursive: true })
  }
}

/** Seconds that `tally inspect` takes for a folder with one worker and with two, start-up included, by turns. */
export async function measureJobs(count = sized(2000, 40)) {
  const known = (await Promise.all(sources.map(filesIn))).flat()
  const folder = await mkdtemp(join(tmpdir(), 'jobs-'))
  const seconds: Record<1 | 2, number[]> = { 1: [], 2: [] }
  try {
    for (let i = 0; i < count; i++) {
      const from = known[i % known.length]!
      await copyFile(from, join(folder, `${String(i).padStart(4, '0')}_${from.split('/').pop()}`))
    }
    for (let turn = 0; turn < sized(3, 1); turn++)
      for (const jobs of [1, 2] as const) {
        const started = performance.now()
        await run(
          process.execPath,
          ['tools/scripts/tally.mjs', 'inspect', '--json', '--jobs', String(jobs), folder],
          { cwd: join(import.meta.dirname, '..', '..'), maxBuffer: 1e9 },
        ).catch((error: { code?: number }) => {
          // Some of the files are damaged on purpose: that is status 1.
          if (error.code !== 1) throw error
        })
        seconds[jobs].push((performance.now() - started) / 1000)
      }
    return seconds
  } finally {
    await rm(folder, { recursive: true })
  }
}

const chunked = (paths: string[], lanes: number) =>
  Array.from({ length: lanes }, (_, lane) => paths.filter((_, i) => i % lanes === lane))
async function readEach(paths: string[]) {
  for (const path of paths) await readClip({ path, bad: null })
}

/** Bytes read of each clip, by wrapper: least, median, most, and the largest file among them. */
export async function measureBytes() {
  const byWrapper = new Map<string, { read: number[]; largest: number }>()
  for (const path of (await Promise.all(sources.map(filesIn))).flat()) {
    await withSource(path, async (source) => {
      const counting = countingSource(source)
      const result = await read(counting)
      const wrapper = result.reading?.container ?? 'not read'
      const entry = byWrapper.get(wrapper) ?? { read: [], largest: 0 }
      entry.read.push(counting.bytesRead)
      entry.largest = Math.max(entry.largest, source.size)
      byWrapper.set(wrapper, entry)
    })
  }
  return [...byWrapper].sort(([a], [b]) => (a < b ? -1 : 1))
}
