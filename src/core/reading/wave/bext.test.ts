import { describe, expect, it } from 'vitest'
import { rational } from '../../rational/rational'
import { memorySource } from '../bytes/source'
import { read } from '../read'
import { timecodeIn } from '../reading'

/** A broadcast wave of a second whose first sample is so many after midnight. */
function broadcastWave(reference: number, sampleRate = 48_000): Uint8Array {
  const bytes = new Uint8Array(12 + 24 + 8 + 602 + 8 + sampleRate * 2)
  const view = new DataView(bytes.buffer)
  const put = (at: number, text: string) =>
    [...text].forEach((letter, i) => (bytes[at + i] = letter.charCodeAt(0)))
  put(0, 'RIFF')
  view.setUint32(4, bytes.length - 8, true)
  put(8, 'WAVEfmt ')
  view.setUint32(16, 16, true)
  view.setUint16(20, 1, true)
  view.setUint16(22, 1, true)
  view.setUint32(24, sampleRate, true)
  view.setUint32(28, sampleRate * 2, true)
  view.setUint16(32, 2, true)
  view.setUint16(34, 16, true)
  put(36, 'bext')
  view.setUint32(40, 602, true)
  put(44 + 256, 'Foundry recorder')
  put(44 + 320, '2026-05-01')
  put(44 + 330, '10:04:12')
  view.setUint32(44 + 338, reference % 2 ** 32, true)
  view.setUint32(44 + 342, Math.floor(reference / 2 ** 32), true)
  put(44 + 602, 'data')
  view.setUint32(48 + 602, sampleRate * 2, true)
  return bytes
}
const readingOf = async (bytes: Uint8Array) => (await read(memorySource(bytes))).reading!

describe('a broadcast wave', () => {
  it('starts at its time reference, at the rate of whoever asks; its originator is no reel', async () => {
    const seconds = 10 * 3600 + 4 * 60 + 12.5
    const reading = await readingOf(broadcastWave(seconds * 48_000))
    expect(reading).toMatchObject({
      reel: null,
      recordedAt: '2026-05-01T10:04:12',
      timeReferenceSec: seconds,
    })
    expect(reading.timecode).toEqual({ start: '10:04:12:12', dropFrame: false })
    expect(timecodeIn(reading, rational(50))).toEqual({ start: '10:04:12:25', dropFrame: false })
    expect(timecodeIn(reading, rational(24))?.start).toBe('10:04:12:12')
  })
  it('says nothing of its start where the reference is none', async () => {
    const reading = await readingOf(broadcastWave(48_000 * 90_000))
    expect([reading.timecode, reading.timeReferenceSec]).toEqual([null, undefined])
  })
})
