import { snapToStandard } from '../../rate/rate'
import { toNumber } from '../../rational/rational'
import { type WrapperReading, assemblePicture, makeReading } from '../assemble'
import { flacFacts } from '../audio/flac'
import { type TheoraHeader, framesAt, theoraHeader } from '../bitstream/theora'
import { Cursor, latin } from '../bytes/cursor'
import type { FileWindow } from '../bytes/source'
import { ReadingFault } from '../fault'
import type { AudioFacts } from '../reading'
import { type Page, pagesIn } from './pages'

/** The first pages of all streams stand together at the head, the last ones at the tail. */
const headLength = 64 * 1024
const tailLength = 128 * 1024

/** A sound stream: what it is, and how its positions become seconds. */
interface Sound {
  readonly facts: AudioFacts
  readonly seconds: (granule: number) => number
}

/** Reads Ogg (RFC 3533) with Theora, Vorbis, Opus and FLAC: first packets name the streams, last pages their length. */
export async function readOgg(file: FileWindow): Promise<WrapperReading> {
  const head = (await file.some(0, Math.min(file.size, headLength))).slice()
  const tailStart = Math.max(0, file.size - tailLength)
  const pages = [...pagesIn(head)]
  const last = lastGranules([...pages, ...pagesIn((await file.some(tailStart, tailLength)).slice())])
  let theora: { header: TheoraHeader; granule: bigint | null } | null = null
  const sounds: { sound: Sound; granule: bigint | null }[] = []
  const unknown: string[] = []
  for (const { serial, begins, packet } of pages) {
    if (!begins) continue
    const granule = last.get(serial) ?? null
    const header = theoraHeader(packet)
    const sound = header ? null : soundOf(packet)
    if (header) theora ??= { header, granule }
    else if (sound) sounds.push({ sound, granule })
    else unknown.push(latin(packet.subarray(0, 8)).replace(/[^\x20-\x7e]/g, ''))
  }
  if (!theora && sounds.length === 0)
    throw new ReadingFault(
      'unsupported',
      `The codec inside this Ogg is not known here${unknown[0] ? ` (${unknown[0]})` : ''}.`,
      27,
    )
  const picture = theora && pictureOf(theora.header, theora.granule)
  const spans = sounds.flatMap(({ sound, granule }) =>
    granule === null ? [] : Math.max(0, sound.seconds(Number(granule))),
  )
  const longest = spans.reduce((most, seconds) => Math.max(most, seconds), 0)
  const reading = makeReading({
    kind: picture ? 'video' : 'audio',
    container: 'Ogg',
    sizeBytes: file.size,
    durationSec: picture?.durationSec ?? (spans.length ? longest : null),
    video: picture?.video ?? null,
    audio: sounds.map(({ sound }) => sound.facts),
    notes: picture?.notes ?? [],
  })
  return { reading, origins: { ...picture?.origins, durationSec: 'last page' }, fault: null }
}

function pictureOf(header: TheoraHeader, granule: bigint | null) {
  const stated = header.rate
  const rate = stated && (snapToStandard(toNumber(stated)) ?? stated)
  const frames = granule === null ? null : framesAt(granule, header)
  const picture = assemblePicture({
    codec: 'Theora',
    claims: [{ layer: 'stream', origin: 'identification header', facts: header.facts }],
    rate: { rate, rateMode: rate ? 'constant' : 'unknown' },
    rateOrigin: 'identification header',
    frameCount: frames,
  })
  return { ...picture, durationSec: rate && frames ? frames / toNumber(rate) : null }
}

/** The furthest position of each stream; −1 stands for a page on which no packet ends. */
function lastGranules(pages: readonly Page[]): Map<number, bigint> {
  const last = new Map<number, bigint>()
  for (const { serial, granule } of pages)
    if (granule >= 0n && granule >= (last.get(serial) ?? 0n)) last.set(serial, granule)
  return last
}

function soundOf(packet: Uint8Array): Sound | null {
  const cursor = new Cursor(packet)
  const begins = (text: string, at = 0) => latin(packet.subarray(at, at + text.length)) === text
  if (begins('OpusHead') && packet.length >= 19) {
    cursor.skip(9)
    const channels = cursor.u8()
    const skip = cursor.u16(true)
    const facts = { codec: 'Opus', channels, sampleRate: 48000, bitDepth: null }
    return { facts, seconds: (granule) => (granule - skip) / 48000 }
  }
  if (begins('vorbis', 1) && packet.length >= 16) {
    cursor.skip(11)
    const channels = cursor.u8()
    const sampleRate = cursor.u32(true)
    if (!sampleRate) throw new ReadingFault('damaged', 'The sample rate is stated as 0.', 0)
    const facts = { codec: 'Vorbis', channels, sampleRate, bitDepth: null }
    return { facts, seconds: (granule) => granule / sampleRate }
  }
  if (begins('FLAC', 1) && packet.length >= 51) {
    const { facts } = flacFacts(packet.subarray(17, 51))
    return { facts, seconds: (granule) => granule / (facts.sampleRate ?? Infinity) }
  }
  return null
}
