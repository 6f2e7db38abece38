import { describe, expect, it } from 'vitest'
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
