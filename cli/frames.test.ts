import { spawn } from 'node:child_process'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { type Planes, planesOf } from '../src/core/planes/planes'
import { type Y4mHead, readY4mHead } from '../src/core/planes/y4m'
import { chromaSiting, resampling } from '../src/core/resample/picture'

interface Said {
  readonly code: number | null
  readonly out: Buffer
  readonly stderr: string
}

function tally(words: string[], input: Buffer): Promise<Said> {
  const child = spawn(process.execPath, ['tools/scripts/tally.mjs', ...words], {
    cwd: join(import.meta.dirname, '..'),
  })
  const out: Buffer[] = []
  let stderr = ''
  child.stdout.on('data', (chunk: Buffer) => out.push(chunk))
  child.stderr.on('data', (chunk: Buffer) => (stderr += chunk.toString()))
  child.stdin.end(input)
  return new Promise((resolve) =>
    child.on('close', (code) => resolve({ code, out: Buffer.concat(out), stderr })),
  )
}

const [width, height] = [26, 14]
/** Frames of 4:2:0 whose samples differ, as a stream. */
function stream(frames: number, head: string): Buffer {
  const each = width * height + 2 * (width / 2) * (height / 2)
  const parts = Array.from({ length: frames }, (_, n) => [
    Buffer.from('FRAME\n'),
    Buffer.from(Uint8Array.from({ length: each }, (_, i) => (i * (7 + n) + (i >> 4) * 31) & 255)),
  ])
  return Buffer.concat([Buffer.from(`YUV4MPEG2 W${width} H${height} ${head}\n`), ...parts.flat()])
}

function framesIn(bytes: Buffer): { head: Y4mHead; frames: Planes[] } {
  const head = readY4mHead(bytes)
  if ('wrong' in head) throw new Error(head.wrong)
  const frames: Planes[] = []
  for (let at = head.headBytes; at < bytes.length; at += 6 + head.frameBytes) {
    expect(bytes.toString('latin1', at, at + 6)).toBe('FRAME\n')
    frames.push(planesOf(head, Uint8Array.from(bytes.subarray(at + 6, at + 6 + head.frameBytes))))
  }
  return { head, frames }
}

describe('tally resample', () => {
  it('gives every frame in the new size, and the shape of pixels that keeps the picture’s', async () => {
    const input = stream(3, 'F25:1 Ip A1:1 C420mpeg2 XCOLORRANGE=LIMITED')
    const { code, out } = await tally(['resample', '--to', '13x14', '--filter', 'bicubic', '-'], input)
    const { head, frames } = framesIn(out)
    expect(code).toBe(0)
    expect(head).toMatchObject({
      width: 13,
      height: 14,
      chroma: '420mpeg2',
      order: 'progressive',
      range: 'limited',
    })
    expect(head.pixelAspect).toEqual({ num: 2, den: 1 })
    const given = framesIn(input).frames
    expect(frames).toHaveLength(3)
    const size = { width: 13, height: 14, filter: 'bicubic', sharpen: null } as const
    frames.forEach((frame, i) =>
      expect(frame).toEqual(
        resampling({ width, height }, chromaSiting(frame, '420mpeg2'), size)(given[i] as Planes),
      ),
    )
  })

  it('of the same size is what came, byte for byte, and sharpens luma alone', async () => {
    const input = stream(1, 'F25:1 Ip A1:1 C420jpeg')
    const { out } = await tally(['resample', '--to', '26x14', '-'], input)
    expect(out.equals(input)).toBe(true)
    const { out: sharp } = await tally(['resample', '--to', '26x14', '--sharpen', '1,1', '-'], input)
    const [before, after] = [framesIn(input).frames[0], framesIn(sharp).frames[0]]
    expect(after!.luma).not.toEqual(before!.luma)
    expect(after!.chroma).toEqual(before!.chroma)
  })

  it('refuses to scale interlaced frames down their lines, and what is no size, filter or sharpening', async () => {
    const fields = stream(1, 'F25:1 It C420jpeg')
    const refused = await tally(['resample', '--to', '26x7', '-'], fields)
    expect([refused.code, refused.out.length]).toEqual([2, 0])
    expect(refused.stderr).toContain('interlaced')
    expect((await tally(['resample', '--to', '13x14', '-'], fields)).code).toBe(0)
    for (const words of [
      ['--to', '0x4'],
      ['--to', '4x4', '--filter', 'x'],
      ['--to', '4x4', '--sharpen', '9,1'],
      [],
    ])
      expect((await tally(['resample', ...words, '-'], fields)).code).toBe(2)
  })

  it('gives what came before a fault, and tells of it', async () => {
    const cut = stream(2, 'F25:1 Ip C420jpeg').subarray(0, -5)
    const { code, out, stderr } = await tally(['resample', '--to', '8x8', '-'], cut)
    expect(code).toBe(1)
    expect(framesIn(out).frames).toHaveLength(1)
    expect(stderr).toContain('Frame 1 is cut off')
  })
})

describe('tally deinterlace', () => {
  it('gives one frame for each field at double rate, the first in time first', async () => {
    const input = stream(2, 'F25:1 Ib A1:1 C420jpeg')
    const { code, out } = await tally(['deinterlace', '--method', 'single', '--rate', 'double', '-'], input)
    const { head, frames } = framesIn(out)
    expect(code).toBe(0)
    expect(head).toMatchObject({ order: 'progressive', rate: { num: 50, den: 1 } })
    const line = (planes: Planes | undefined, y: number) => planes!.luma.subarray(y * width, (y + 1) * width)
    const given = framesIn(input).frames
    expect(frames).toHaveLength(4)
    expect(line(frames[0], 0)).toEqual(line(given[0], 1))
    expect(line(frames[1], 1)).toEqual(line(given[0], 0))
    expect(line(frames[2], 0)).toEqual(line(given[1], 1))
  })

  it('keeps the first field of the order that is told, or the second by wish', async () => {
    const input = stream(1, 'F25:1 C420jpeg')
    const first = async (...words: string[]) => {
      const { out } = await tally(['deinterlace', '--method', 'single', ...words, '-'], input)
      return framesIn(out).frames[0]!.luma.subarray(0, width)
    }
    const { luma } = framesIn(input).frames[0] as Planes
    const [top, bottom] = [luma.subarray(0, width), luma.subarray(width, 2 * width)]
    expect(await first()).toEqual(top)
    expect(await first('--order', 'bottom-first')).toEqual(bottom)
    expect(await first('--keep', 'second')).toEqual(bottom)
  })

  it('weaves and blends at the same rate alone', async () => {
    const input = stream(2, 'F25:1 It A1:1 C420jpeg')
    const { out } = await tally(['deinterlace', '--method', 'weave', '-'], input)
    expect(framesIn(out).frames).toEqual(framesIn(input).frames)
    for (const method of ['weave', 'blend'])
      expect((await tally(['deinterlace', '--method', method, '--rate', 'double', '-'], input)).code).toBe(2)
    expect((await tally(['deinterlace', '--method', 'none', '-'], input)).code).toBe(2)
  })
})
