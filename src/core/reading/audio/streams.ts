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
    const lasts = (count: number) => (count * frame.samples) / (frame.facts.sampleRate ?? Infinity)
    if (frames !== null) return sound('MP3', file, frame.facts, lasts(frames), 'frame count')
    const counted = await countedFrames(file, start + at)
    return sound('MP3', file, frame.facts, lasts(counted.frames), counted.origin)
  }
  throw new ReadingFault('damaged', 'No frame of sound is found at the start.', start)
}

/** A file of no more than this is counted whole; of a longer one, stretches of it. */
const countedWhole = 256 * 1024
const [stretches, stretchLength] = [8, 24 * 1024]

/** Frames of MPEG audio: counted, or reckoned from how many lie in stretches that are spread over the file. */
async function countedFrames(file: FileWindow, start: number): Promise<{ frames: number; origin: string }> {
  const length = file.size - start
  const isWhole = length <= countedWhole
  let [frames, bytes] = [0, 0]
  for (let n = 0; n < (isWhole ? 1 : stretches); n++) {
    const from = start + Math.floor((n * (length - stretchLength)) / Math.max(1, stretches - 1))
    const piece = await file.some(isWhole ? start : from, isWhole ? length : stretchLength)
    const counted = framesIn(piece)
    frames += counted.frames
    bytes += counted.bytes
  }
  if (bytes === 0) return { frames: 0, origin: 'frames' }
  return isWhole
    ? { frames, origin: 'frames, counted' }
    : { frames: Math.round((frames * length) / bytes), origin: 'frames, reckoned from stretches' }
}

/** Frames that follow each other in a piece, from the first that another follows. */
function framesIn(piece: Uint8Array): { frames: number; bytes: number } {
  let [frames, bytes] = [0, 0]
  for (let at = piece.indexOf(0xff); at >= 0 && at + 4 <= piece.length;) {
    const frame = mpegAudioFrame(piece, at)
    const next = at + (frame?.length ?? 0)
    const isFollowed =
      frame !== null && frame.length > 0 && (next + 4 > piece.length || mpegAudioFrame(piece, next))
    if (!frame || !isFollowed) {
      at = piece.indexOf(0xff, at + 1)
      continue
    }
    // The last one may be cut off by the end of the piece.
    if (next > piece.length) break
    frames++
    bytes += frame.length
    at = next
  }
  return { frames, bytes }
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
