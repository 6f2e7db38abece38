/** The media toolkit's own filters, for comparison: one core, on frames that lie in memory. */
import { spawnSync } from 'node:child_process'
import { mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

/** Whether the media toolkit is on this machine. */
export const hasToolkit = (): boolean => !spawnSync('ffmpeg', ['-version']).error

/** The fastest of many, in milliseconds. */
export function fastest(times: number, work: () => void): number {
  return Math.min(
    ...Array.from({ length: times }, () => {
      const before = performance.now()
      work()
      return performance.now() - before
    }),
  )
}

/**
 * Milliseconds a frame of a filter: what it adds to passing the same frames through. Null where the toolkit is not here.
 * @param frames raw, in 4:2:0 of 8 bits, as pieces of bytes
 * @param loops how often they are passed through: starting the toolkit takes as long as many of them
 */
export async function nativeMilliseconds(
  frames: readonly (readonly Uint8Array[])[],
  size: { readonly width: number; readonly height: number },
  filter: string,
  loops: number,
): Promise<number | null> {
  if (!hasToolkit()) return null
  const folder = await mkdtemp(join(tmpdir(), 'native-'))
  try {
    const file = join(folder, 'frames.raw')
    await writeFile(file, Buffer.concat(frames.flat()))
    const run = (words: string) =>
      fastest(3, () => {
        const before = '-v error -nostdin -threads 1 -filter_threads 1 -f rawvideo -pix_fmt yuv420p'
        const input = ['-s', `${size.width}x${size.height}`, '-stream_loop', String(loops - 1), '-i', file]
        spawnSync('ffmpeg', [...before.split(' '), ...input, '-vf', words, '-f', 'null', '-'])
      })
    return (run(filter) - run('null')) / (loops * frames.length)
  } finally {
    await rm(folder, { recursive: true })
  }
}
