import { toNumber } from '../../rational/rational'
import { type WrapperReading, assemblePicture, makeReading } from '../assemble'
import { byteAt } from '../bytes/byte-at'
import { claimsOfDv } from '../bitstream/dv'
import type { ClaimedFacts } from '../claims'
import type { FileWindow } from '../bytes/source'
import { ReadingFault } from '../fault'
import type { AudioFacts, Note } from '../reading'

const blockLength = 80
/** A sequence of 150 blocks; a frame has ten or twelve of them in each of one, two or four channels (IEC 61834-2, SMPTE ST 314, 370). */
const sequenceLength = 150 * blockLength
/** So many frames, spread over the file, are looked at for drop-outs. */
const looked = 5

/** Reads raw DV: every frame says what it is, and all are equally long. */
export async function readDv(file: FileWindow): Promise<WrapperReading> {
  const first = (await file.some(0, 4 * sequenceLength)).slice()
  const dv = claimsOfDv(first)
  if (!dv) throw new ReadingFault('damaged', 'It begins like DV, but its first frame cannot be read.', 0)
  const is625 = (byteAt(first, 3) & 0x80) !== 0
  const facts: ClaimedFacts = dv.claims[0]?.facts ?? {}
  const channels = facts.profile === 'DV100' && facts.height === 1080 ? 4 : facts.profile === 'DV25' ? 1 : 2
  const frameBytes = (is625 ? 12 : 10) * channels * sequenceLength
  const frames = Math.floor(file.size / frameBytes)
  const picture = assemblePicture({
    codec: 'DV',
    claims: dv.claims,
    rate: { rate: dv.rate, rateMode: 'constant' },
    rateOrigin: 'DIF header',
    frameCount: frames,
  })
  const sound = soundIn(first, facts.profile ?? '')
  const notes: Note[] = [...picture.notes]
  let [concealed, seen] = [0, 0]
  const count = Math.min(looked, frames)
  for (let n = 0; n < count; n++) {
    const at = Math.floor((n * (frames - 1)) / Math.max(1, count - 1)) * frameBytes
    for (const status of statuses(await file.some(at, Math.min(frameBytes, 150_000)))) {
      seen++
      if (status !== 0) concealed++
    }
  }
  if (concealed > 0)
    notes.push({
      code: 'drop-outs',
      message: `${concealed} of ${seen} blocks of picture that were looked at are concealed: the tape dropped out there.`,
    })
  const over = file.size - frames * frameBytes
  return {
    reading: makeReading({
      kind: 'video',
      container: 'DV',
      sizeBytes: file.size,
      durationSec: frames / toNumber(dv.rate),
      video: picture.video,
      audio: sound ? [sound] : [],
      timecode: dv.timecode ? { start: dv.timecode.text, dropFrame: dv.timecode.dropFrame } : null,
      recordedAt: recordedAt(first),
      notes,
    }),
    origins: { ...picture.origins, 'video.frameCount': 'size', timecode: 'subcode' },
    fault:
      over > 0
        ? {
            code: 'truncated',
            message: `The last frame is cut off: ${frames} whole ones are there. Copy it again.`,
            offset: file.size,
          }
        : null,
  }
}

/** Sound by the source pack of the first audio block (IEC 61834-4): clock, kind of samples, how many channels. */
function soundIn(frame: Uint8Array, profile: string): AudioFacts | null {
  for (let block = 0; block < 9; block++) {
    const at = (6 + 16 * block) * blockLength
    if (byteAt(frame, at) >> 5 !== 3 || frame[at + 3] !== 0x50) continue
    const code = byteAt(frame, at + 7)
    const sampleRate = [48_000, 44_100, 32_000][(code >> 3) & 7] ?? null
    const isNonlinear = (code & 7) === 1
    const pairs = profile === 'DV100' ? 4 : profile === 'DV50' ? 2 : isNonlinear ? 2 : 1
    return { codec: 'PCM', channels: 2 * pairs, sampleRate, bitDepth: isNonlinear ? 12 : 16 }
  }
  return null
}

/** What is said of the blocks of picture: 0 where nothing was wrong. */
function* statuses(frame: Uint8Array): Generator<number> {
  for (let at = 0; at + blockLength <= frame.length; at += blockLength)
    if (byteAt(frame, at) >> 5 === 4) yield byteAt(frame, at + 3) >> 4
}

const digits = (byte: number, mask: number) => ((byte & mask) >> 4) * 10 + (byte & 15)

/** The date and time of recording, in the packs beside the picture. */
function recordedAt(frame: Uint8Array): string | null {
  let [day, time]: [string | null, string | null] = [null, null]
  const two = (n: number) => String(n).padStart(2, '0')
  for (let block = 3; block < 6; block++)
    for (let pack = 0; pack < 15; pack++) {
      const at = block * blockLength + 3 + pack * 5
      const byte = (i: number) => byteAt(frame, at + i)
      if (frame[at] === 0x62) {
        const year = digits(byte(4), 0xf0)
        const date = `${year < 50 ? 20 : 19}${two(year)}-${two(digits(byte(3), 0x10))}-${two(digits(byte(2), 0x30))}`
        if (!Number.isNaN(Date.parse(date))) day = date
      }
      if (frame[at] === 0x63) {
        const text = `${two(digits(byte(4), 0x30))}:${two(digits(byte(3), 0x70))}:${two(digits(byte(2), 0x70))}`
        if (/^([01]\d|2[0-3]):[0-5]\d:[0-5]\d$/.test(text)) time = text
      }
    }
  return day && time ? `${day}T${time}` : day
}
