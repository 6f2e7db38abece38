import { describe, expect, it } from 'vitest'
import { readY4mHead } from '../../core/planes/y4m'
import { timedFrames, timedSound, toldTimes } from './timed-stream'

const text = (line: string) => new TextEncoder().encode(line)
const joined = (parts: readonly Uint8Array[]) => Buffer.concat(parts)
const said = (n: number, pts: number | string) =>
  `[Parsed_showinfo_1 @ 0x2f6b2a0] n:${String(n).padStart(4)} pts:${String(pts).padStart(7)} pts_time:1.2 duration: 512 fmt:yuv420p`
const base = '[Parsed_showinfo_1 @ 0x2f6b2a0] config in time_base: 1/12800, frame_rate: 25/1'

describe('what the toolkit tells of times', () => {
  it('is exact however long the clip is: ticks, not figures', () => {
    const times = toldTimes()
    ;['Input #0, mxf', base, said(0, 460_800_512), 'frame= 1', said(1, 'NOPTS')].forEach(times.heard)
    expect(times.next()).toBe(460_800_512 / 12_800)
    expect(times.next()).toBeNaN()
    expect(times.next()).toBeNaN()
  })
})

describe('frames with their times', () => {
  const stream = joined([
    text('YUV4MPEG2 W2 H2 F25:1 C420jpeg\n'),
    text('FRAME\n'),
    Uint8Array.of(10, 10, 10, 10, 1, 2),
    text('FRAME Ip\n'),
    Uint8Array.of(3, 4, 5, 6, 10, 8),
  ])
  const wanted = joined([
    text('YUV4MPEG2 W2 H2 F25:1 C420jpeg\n'),
    new Uint8Array(Float64Array.of(0.04).buffer),
    Uint8Array.of(10, 10, 10, 10, 1, 2),
    new Uint8Array(Float64Array.of(0.08).buffer),
    Uint8Array.of(3, 4, 5, 6, 10, 8),
  ])

  it.each([1, 2, 3, 7, 1000])('are the same however they are written, here %i bytes at once', (length) => {
    const out: Uint8Array[] = []
    const frames = timedFrames((bytes) => (out.push(bytes.slice()), true))
    ;[base, said(0, 512), said(1, 1024)].forEach(frames.heard)
    for (let at = 0; at < stream.length; at += length)
      expect(frames.write(stream.subarray(at, at + length))).toBe(true)
    expect(joined(out)).toEqual(wanted)
  })

  it.each([
    [
      'Stream #0:0: Video: png (MPNG / 0x474E504D), rgb24(pc, gbr/unknown/unknown), 1920x1080, 25 fps',
      'bt601-525',
    ],
    [
      '  Stream #0:1[0x1](eng): Video: h264 (High 4:4:4 Predictive) (avc1 / 0x31637661), gbrp(tv), 96x54',
      'bt601-525',
    ],
    [
      'Stream #0:0: Video: dnxhd (DNXHR 444) (AVdh / 0x68645641), gbrp10le(pc, bt709/unknown/unknown), 96x54',
      'bt709',
    ],
    ['Stream #0:0: Video: exr, gbrapf32le, 64x36 [SAR 1:1 DAR 16:9]', 'bt601-525'],
    ['Stream #0:0: Video: h264 (High) (avc1 / 0x31637661), yuv420p(tv, bt709), 1920x1080', null],
    ['Stream #0:0: Video: dpx, gray10le, 96x54', null],
    ['Stream #1:0: Video: wrapped_avframe, rgb24, 96x54', null],
  ])('tell in their head by which matrix red, green and blue were turned: %s', (line, matrix) => {
    const out: Uint8Array[] = []
    const frames = timedFrames((bytes) => (out.push(bytes.slice()), true))
    frames.heard(line)
    frames.write(stream)
    const head = readY4mHead(out[0]!)
    expect('wrong' in head ? head.wrong : [head.rgbMatrix, head.width, head.chroma]).toEqual([
      matrix,
      2,
      '420jpeg',
    ])
  })

  it('say when nothing more is wanted, and refuse what is no stream', () => {
    expect(timedFrames(() => false).write(stream)).toBe(false)
    expect(() => timedFrames(() => true).write(text('RIFF\n'))).toThrow(/does not begin/)
    const broken = joined([stream, text('NOISE\n')])
    expect(() => timedFrames(() => true).write(broken)).toThrow(/where it should/)
  })
})

describe('sound with its time', () => {
  it('tells when its first sample is heard, once', () => {
    const out: Uint8Array[] = []
    const sound = timedSound((bytes) => (out.push(bytes), true))
    sound.heard(
      '[Parsed_ashowinfo_0 @ 0x1] n:0 pts:960 pts_time:0.02 pos:44 fmt:fltp channels:2 rate:48000 nb_samples:1024',
    )
    expect(sound.write(Uint8Array.of(1, 2))).toBe(true)
    sound.write(Uint8Array.of(3))
    expect([...joined(out)].slice(8)).toEqual([1, 2, 3])
    expect(joined(out).readDoubleLE(0)).toBe(0.02)
  })
})
