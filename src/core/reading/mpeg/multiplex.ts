import { rational } from '../../rational/rational'
import { kilobytes } from '../../words/figures'
import { type WrapperReading, assemblePicture, makeReading } from '../assemble'
import { codecOfSound, soundFacts } from '../audio/coded'
import { claimsOfStream, statedRateOf } from '../bitstream/frame-claims'
import type { FileWindow } from '../bytes/source'
import { ReadingFault } from '../fault'
import { frameTimesFrom } from '../frame-times'
import type { AudioFacts, Note } from '../reading'
import { startingAt } from '../sound-start'
import type { DeclaredStream, Demultiplexer, ElementaryStretch } from './demultiplex'
import { pictureTimingOf } from './picture-rate'
import { clock, goingOn, pictureTimes, wrap } from './picture-times'

/** A file of no more than this is read whole, and its pictures counted; of a longer one no more than this is read. */
const budget = 3_980_000
/** The head of a longer one; further, where something that is declared has not begun by then. */
const [headLength, furtherHead] = [1_200_000, 2_700_000]
/** The end is sought in so much of the tail, in more of it where it holds few pictures, and by probes where it holds none. */
const [tailLength, longerTail, probeLength] = [600_000, 1_200_000, 150_000]
/** So many pictures tell in which order they are shown. */
const enough = 4
/** Two places between tell whether the rate holds. */
const betweenLength = 700_000
/** The first headers of a stream lie within its first bytes. */
const [firstBytes, firstSoundBytes] = [256 * 1024, 16 * 1024]

interface Piece {
  readonly from: number
  readonly streams: ReadonlyMap<number, ElementaryStretch>
}
type Declared<Kind extends DeclaredStream['kind']> = readonly [
  id: number,
  stream: Extract<DeclaredStream, { kind: Kind }>,
]

/**
 * Reads a transport or program stream. No index says what lies in it: the head tells what there is, the end when its last picture is
 * shown, and places between whether the rate holds; a short one is read whole, and counted.
 */
export async function readingOfMultiplex(file: FileWindow, demux: Demultiplexer): Promise<WrapperReading> {
  const isWhole = file.size <= budget
  const pieceAt = async (from: number, length: number): Promise<Piece> => ({
    from,
    // A later read may take the place of these bytes.
    streams: demux.gather((await file.some(from, length)).slice(), from),
  })
  const streamsOf = <Kind extends DeclaredStream['kind']>(kind: Kind) =>
    [...demux.streams].filter(([, stream]) => stream.kind === kind) as unknown as Declared<Kind>[]

  let head = await pieceAt(0, isWhole ? file.size : headLength)
  const [picture] = streamsOf('picture')
  const hasBegun = () =>
    demux.streams.size > 0 &&
    (!picture || (head.streams.get(picture[0])?.times.length ?? 0) > 0) &&
    streamsOf('sound').every(([id, { coding, facts }]) => facts ?? heardIn([head], id, coding))
  let left = budget - headLength
  if (!isWhole && !hasBegun()) {
    head = await pieceAt(0, furtherHead)
    left = budget - furtherHead
  }

  const [main] = [...streamsOf('picture'), ...streamsOf('sound')]
  if (!main)
    throw new ReadingFault('damaged', 'The multiplex holds neither picture nor sound that is known.', 0)
  const pieces = [head]
  let hasEnd = isWhole
  if (!isWhole) {
    const tail = await lastOf(file, main[0], pieceAt, left)
    left -= tail.read
    for (const share of [1 / 3, 2 / 3])
      if (left >= betweenLength) {
        pieces.push(await pieceAt(Math.round(file.size * share), betweenLength))
        left -= betweenLength
      }
    if (tail.piece) pieces.push(tail.piece)
    hasEnd = tail.piece !== null
  }
  const sounds = streamsOf('sound')
  const shared = { file, demux, pieces, isWhole, hasEnd, sounds }
  const [, { kind }] = main
  return kind === 'picture' ? ofPictures(shared, main as Declared<'picture'>) : ofSoundAlone(shared, main[0])
}

interface Read {
  readonly file: FileWindow
  readonly demux: Demultiplexer
  /** From the first to the last; the last holds the end of what is sought, where it was found. */
  readonly pieces: readonly Piece[]
  readonly isWhole: boolean
  /** Whether the last of what is sought was found. */
  readonly hasEnd: boolean
  readonly sounds: readonly Declared<'sound'>[]
}

/**
 * The last stretch in which a time of a stream lies: sought backwards from the end, further and further, then between.
 * @param most bytes that may be read
 */
async function lastOf(
  file: FileWindow,
  id: number,
  pieceAt: (from: number, length: number) => Promise<Piece>,
  most: number,
): Promise<{ piece: Piece | null; read: number }> {
  const timesIn = (piece: Piece) => piece.streams.get(id)?.times.length ?? 0
  let read = 0
  const between = async (from: number, to: number) => {
    const begins = Math.max(0, from)
    const ends = Math.min(file.size, to)
    read += ends - begins
    return pieceAt(begins, ends - begins)
  }
  const tail = await between(file.size - tailLength, file.size)
  if (timesIn(tail) >= enough) return { piece: tail, read }
  if (timesIn(tail) > 0) return { piece: await between(file.size - longerTail, file.size), read }
  // What lies behind the last picture is long: leaps back, then halves.
  const canProbe = () => read + probeLength + tailLength <= most
  let [holds, lacks] = [file.size - tailLength, file.size - tailLength]
  let isFound = false
  for (let leap = 2 * tailLength; !isFound && canProbe() && holds > 0; leap *= 2) {
    ;[holds, lacks] = [Math.max(0, file.size - leap), holds]
    isFound = timesIn(await between(holds, holds + probeLength)) > 0
  }
  if (!isFound) return { piece: null, read }
  while (lacks - holds > probeLength && canProbe()) {
    const middle = Math.round((holds + lacks) / 2)
    if (timesIn(await between(middle, middle + probeLength)) > 0) holds = middle
    else lacks = middle
  }
  // The last picture that is stored is seldom the last that is shown.
  const end = lacks + probeLength
  return { piece: await between(end - tailLength, end), read }
}

/** What a stream of sound says where it is first heard. */
function heardIn(pieces: readonly Piece[], id: number, coding: string | null): AudioFacts | null {
  for (const { streams } of pieces) {
    const bytes = streams.get(id)?.bytes(firstSoundBytes)
    const facts = bytes && soundFacts(coding, bytes)
    if (facts) return facts
  }
  return null
}

/** The sounds beside a first time of the main stream, and what of them could not be said. */
function soundsOf({ pieces, sounds }: Read, first: number | null): { audio: AudioFacts[]; notes: Note[] } {
  const notes: Note[] = []
  const audio = sounds.map(([id, { coding, facts }]): AudioFacts => {
    const heard = facts ?? heardIn(pieces, id, coding)
    if (!heard) {
      const codec = codecOfSound(coding)
      const within = pieces.length > 1 ? `in the ${kilobytes(budget)} that were looked at` : 'in the file'
      notes.push({
        code: 'sound-not-said',
        message: `${codec === 'unknown' ? 'A sound' : codec} is declared (stream ${id}), and no header of it lies ${within}: channels and sample rate are not said.`,
      })
      return { codec, channels: null, sampleRate: null, bitDepth: null }
    }
    const begins = pieces[0]?.streams.get(id)?.times[0]?.time
    if (begins === undefined || first === null) return heard
    const apart = ((begins - first + 1.5 * wrap) % wrap) - wrap / 2
    return startingAt(heard, apart / clock, 0)
  })
  return { audio, notes }
}

function ofPictures(read: Read, [id, { codec: declared }]: Declared<'picture'>): WrapperReading {
  const { file, demux, pieces, isWhole } = read
  const codec = declared ?? 'unknown'
  const first = pieces[0]?.streams.get(id)
  const stream = claimsOfStream(codec, first?.bytes(firstBytes) ?? new Uint8Array(0))
  if (stream.fault) throw new ReadingFault(stream.fault.code, stream.fault.message)
  if (stream.claims.length === 0) {
    throw new ReadingFault(
      'damaged',
      `${codec} is announced, but no header of it is found at the start. The file may begin in the middle of a recording.`,
      0,
    )
  }
  const from = first?.times[0]?.time ?? 0
  const stretches = pieces.flatMap(({ streams }) => {
    const found = streams.get(id)
    return found ? [pictureTimes(codec, found, statedRateOf(stream), from)] : []
  })
  const timing = pictureTimingOf(stretches, stream, read)
  const picture = assemblePicture({
    codec: stream.codec ?? codec,
    claims: stream.claims,
    rate: timing.rate,
    rateOrigin: timing.origin,
    frameCount: timing.frames,
  })
  const { audio, notes } = soundsOf(read, timing.first)
  const times = isWhole && timing.rate.rateMode === 'variable' ? (stretches[0]?.times ?? []) : []
  return {
    reading: makeReading({
      kind: 'video',
      container: demux.container,
      sizeBytes: file.size,
      durationSec: timing.durationSec,
      video: picture.video,
      audio,
      timecode: stream.timecode
        ? { start: stream.timecode.text, dropFrame: stream.timecode.dropFrame }
        : null,
      notes: [...timing.notes, ...notes, ...picture.notes],
    }),
    origins: {
      ...picture.origins,
      ...(timing.frames === null ? {} : { 'video.frameCount': isWhole ? 'pictures, counted' : reckoned }),
      durationSec: 'presentation times',
      timecode: 'group of pictures',
    },
    fault: null,
    frameTimes: times.length > 1 ? frameTimesFrom(times, rational(clock), null) : null,
  }
}

const reckoned = 'first and last presentation time, reckoned'

function ofSoundAlone(read: Read, id: number): WrapperReading {
  const { file, demux, pieces } = read
  const timesIn = (piece: Piece | undefined) => piece?.streams.get(id)?.times.map(({ time }) => time) ?? []
  const times = timesIn(pieces[0])
  const first = times[0] ?? null
  const last = timesIn(pieces.at(-1)).at(-1) ?? null
  const between = times.length > 1 ? ((times.at(-1) ?? 0) - (times[0] ?? 0)) / (times.length - 1) : 0
  const { audio, notes } = soundsOf(read, null)
  return {
    reading: makeReading({
      kind: 'audio',
      container: demux.container,
      sizeBytes: file.size,
      durationSec: first === null || last === null ? null : (goingOn(last, first) - first + between) / clock,
      audio,
      notes,
    }),
    origins: { durationSec: 'presentation times' },
    fault: null,
  }
}
