import { byteAt } from '../bytes/byte-at'
import { type WrapperReading, makeReading } from '../assemble'
import { Cursor, latin } from '../bytes/cursor'
import type { FileWindow } from '../bytes/source'
import { ReadingFault } from '../fault'
import type { AudioFacts } from '../reading'
import { flacFacts } from './flac'
import { adtsFrame, mpegAudioFrame } from './frames'

const sound = (
  container: string,
  file: FileWindow,
  facts: AudioFacts,
  durationSec: number | null,
  origin: string,
): WrapperReading => ({
  reading: makeReading({ kind: 'audio', container, sizeBytes: file.size, durationSec, audio: [facts] }),
  origins: { durationSec: origin },
  fault: null,
})

/** Where sound begins behind an ID3 tag. */
async function behindTag(file: FileWindow): Promise<number> {
  const head = await file.some(0, 10)
  if (latin(head.subarray(0, 3)) !== 'ID3' || head.length < 10) return 0
  return (
    10 +
    ((byteAt(head, 6) & 127) << 21) +
    ((byteAt(head, 7) & 127) << 14) +
    ((byteAt(head, 8) & 127) << 7) +
    (byteAt(head, 9) & 127)
  )
}

/** Reads MP3 files: the first frame, and the count of frames that encoders leave in it (Xing, Info). */
export async function readMp3(file: FileWindow): Promise<WrapperReading> {
  const start = await behindTag(file)
  const head = await file.some(start, 8192)
  for (let at = 0; at + 4 < head.length; at++) {
    const frame = mpegAudioFrame(head, at)
    if (!frame || (at + frame.length + 4 <= head.length && !mpegAudioFrame(head, at + frame.length))) continue
    const tagAt = at + 4 + (frame.low ? (frame.mono ? 9 : 17) : frame.mono ? 17 : 32)
    const tag = latin(head.subarray(tagAt, tagAt + 4))
    const cursor = new Cursor(head.subarray(Math.min(head.length, tagAt + 4)))
    const frames =
      (tag === 'Xing' || tag === 'Info') && cursor.left >= 8 && cursor.u32() & 1 ? cursor.u32() : null
    const seconds =
      frames !== null
        ? (frames * frame.samples) / (frame.facts.sampleRate ?? Infinity)
        : ((file.size - start - at) * 8) / frame.bitRate
    return sound('MP3', file, frame.facts, seconds, frames !== null ? 'frame count' : 'size and bit rate')
  }
  throw new ReadingFault('damaged', 'No frame of sound is found at the start.', start)
}

const aacFrameSamples = 1024
const headLength = 64 * 1024

/** Reads AAC in ADTS frames. The running time is counted in a small file, and reckoned from the first frames in a large one. */
export async function readAdts(file: FileWindow): Promise<WrapperReading> {
  const start = await behindTag(file)
  const head = await file.some(start, headLength)
  const first = adtsFrame(head)
  if (!first) throw new ReadingFault('damaged', 'No frame of sound is found at the start.', start)
  let [frames, at] = [0, 0]
  for (
    let frame = adtsFrame(head, at);
    frame && at + frame.length <= head.length;
    frame = adtsFrame(head, at)
  ) {
    frames++
    at += frame.length
  }
  const all = at > 0 ? (frames * (file.size - start)) / at : 0
  return sound(
    'AAC',
    file,
    first.facts,
    (all * aacFrameSamples) / (first.facts.sampleRate ?? Infinity),
    'frames',
  )
}

/** Reads FLAC (RFC 9639): the stream information block. */
export async function readFlac(file: FileWindow): Promise<WrapperReading> {
  const bytes = await file.exactly(0, 42)
  if ((byteAt(bytes, 4) & 0x7f) !== 0)
    throw new ReadingFault('damaged', 'A FLAC begins with its stream information, and this does not.', 4)
  const { facts, samples } = flacFacts(bytes.subarray(8, 42))
  return sound(
    'FLAC',
    file,
    facts,
    samples && facts.sampleRate ? samples / facts.sampleRate : null,
    'stream information',
  )
}
