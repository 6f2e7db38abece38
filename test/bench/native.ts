/** The media toolkit's own filters, for comparison: one core, on frames that lie in memory. */
import { spawnSync } from 'node:child_process'
import { mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { sized } from './size'

/** Whether the media toolkit is on this machine. */
export const hasToolkit = (): boolean => !spawnSync('ffmpeg', ['-version']).error

/** So many times works that are compared take turns. */
const turns = sized(15, 1)

/**
 * Milliseconds of works that are compared, the least of each: they take turns, so that what disturbs the machine for a while disturbs
 * all of them.
 */
export async function leastInTurn<Name extends string>(
  works: Readonly<Record<Name, () => unknown>>,
): Promise<Record<Name, number>> {
  const least = {} as Record<Name, number>
  for (let i = 0; i < turns; i++)
    for (const name of Object.keys(works) as Name[]) {
      const before = performance.now()
      await works[name]()
      least[name] = Math.min(least[name] ?? Infinity, performance.now() - before)
    }
  return least
}

/**
 * Milliseconds a frame of a work of ours, and of a filter of the media toolkit: what it adds to passing the same frames through; null where the
 * toolkit is not here.
 * @param frames raw, in 4:2:0 of 8 bits, as pieces of bytes
 * @param loops how often they are passed through: starting the toolkit takes as long as many of them
 */
export async function besideNative(
  own: () => unknown,
  frames: readonly (readonly Uint8Array[])[],
  size: { readonly width: number; readonly height: number },
  filter: string,
  loops: number,
): Promise<{ readonly own: number; readonly native: number | null }> {
  if (!hasToolkit()) return { own: (await leastInTurn({ own })).own, native: null }
  const folder = await mkdtemp(join(tmpdir(), 'native-'))
  try {
    const file = join(folder, 'frames.raw')
    await writeFile(file, Buffer.concat(frames.flat()))
    const run = (words: string) => () => {
      const before = '-v error -nostdin -threads 1 -filter_threads 1 -f rawvideo -pix_fmt yuv420p'
      const input = ['-s', `${size.width}x${size.height}`, '-stream_loop', String(loops - 1), '-i', file]
      spawnSync('ffmpeg', [...before.split(' '), ...input, '-vf', words, '-f', 'null', '-'])
    }
    const least = await leastInTurn({ own, filtered: run(filter), passed: run('null') })
    return { own: least.own, native: (least.filtered - least.passed) / (loops * frames.length) }
  } finally {
    await rm(folder, { recursive: true })
  }
}
