import { execFile } from 'node:child_process'
import { mkdtemp, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { promisify } from 'node:util'
import { beforeAll, describe, expect, it } from 'vitest'

let folder = ''
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'loudness-'))
})
const tally = (...words: string[]): Promise<{ stdout: string; stderr: string; code?: number }> =>
  promisify(execFile)(process.execPath, ['tools/scripts/tally.mjs', 'loudness', ...words], {
    cwd: join(import.meta.dirname, '..'),
  }).catch((error) => error)

/** A WAVE file of two channels with a 1 kHz sine, its samples of so many bits; `tag` 3 for floating ones. */
async function wave(name: string, bits: number, tag: number, decibels: number, seconds = 5): Promise<string> {
  const [rate, channels, bytes] = [48_000, 2, bits / 8]
  const count = rate * seconds
  const data = Buffer.alloc(count * channels * bytes)
  for (let n = 0; n < count; n++) {
    const value = 10 ** (decibels / 20) * Math.sin((2 * Math.PI * 1000 * n) / rate)
    for (let c = 0; c < channels; c++) {
      const at = (n * channels + c) * bytes
      if (tag === 3) data.writeFloatLE(value, at)
      else data.writeIntLE(Math.round(value * (2 ** (bits - 1) - 1)), at, bytes)
    }
  }
  const head = Buffer.alloc(44)
  head.write('RIFF')
  head.writeUInt32LE(36 + data.length, 4)
  head.write('WAVEfmt ', 8)
  head.writeUInt32LE(16, 16)
  head.writeUInt16LE(tag, 20)
  head.writeUInt16LE(channels, 22)
  head.writeUInt32LE(rate, 24)
  head.writeUInt32LE(rate * channels * bytes, 28)
  head.writeUInt16LE(channels * bytes, 32)
  head.writeUInt16LE(bits, 34)
  head.write('data', 36)
  head.writeUInt32LE(data.length, 40)
  const path = join(folder, name)
  await writeFile(path, Buffer.concat([head, data]))
  return path
}

describe('tally loudness', () => {
  it.each([
    ['16 bit', 16, 1],
    ['24 bit', 24, 1],
    ['32 bit', 32, 1],
    ['floating', 32, 3],
  ])('measures samples of %s', async (_, bits, tag) => {
    const path = await wave(`sine-${bits}-${tag}.wav`, bits, tag, -23)
    const { stdout } = await tally('--json', path)
    const { file, ok, loudness } = JSON.parse(stdout)
    expect([file, ok]).toEqual([path, true])
    expect(loudness).toMatchObject({ sampleRate: 48_000, channels: 2 })
    expect(loudness.integratedLufs).toBeCloseTo(-23, 1)
    expect(loudness.truePeakDbtp).toBeCloseTo(-23, 1)
    expect(loudness.samplePeakDbfs).toBeCloseTo(-23, 1)
    expect(loudness.rangeLu).toBeLessThan(0.1)
  })
  it('goes on with the next where one cannot be measured, and says so', async () => {
    const broken = join(folder, 'broken.wav')
    await writeFile(broken, 'no sound at all')
    const { stdout, code } = await tally('--json', broken, await wave('good.wav', 16, 1, -20))
    const [bad, good] = stdout
      .trim()
      .split('\n')
      .map((line) => JSON.parse(line))
    expect([code, bad.ok, good.ok]).toEqual([1, false, true])
    expect(bad.error.message).toContain('plain samples')
  })
})
