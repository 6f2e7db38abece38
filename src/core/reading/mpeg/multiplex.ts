import { exactRate } from '../../rate/rate'
import { toNumber } from '../../rational/rational'
import { type WrapperReading, assemblePicture, makeReading } from '../assemble'
import { claimsOfStream } from '../bitstream/frame-claims'
import { ReadingFault } from '../fault'
import type { AudioFacts, Note } from '../reading'
import { startingAt } from '../sound-start'
import { type RateFacts, rateFromDurations, runsFromTimes } from '../timing'

/** What a multiplex came to: both of its ends, or all of it where it is small. */
export interface Multiplex {
  readonly container: 'MPEG-TS' | 'MPEG-PS'
  readonly sizeBytes: number
  readonly codec: string | null
  readonly video: Uint8Array
  /** Times of video packets at the head, in ticks of 90 kHz, in the order stored. */
  readonly times: readonly number[]
  /** The latest time at the tail. */
  readonly lastTime: number | null
  readonly sounds: readonly HeardSound[]
  readonly notes: readonly Note[]
}

/** A stream of sound, and the time of its first packet, in ticks of 90 kHz; null where it bears none. */
export interface HeardSound {
  readonly facts: AudioFacts
  readonly begins: number | null
}

const clock = 90_000
/** Times wrap after 33 bits, about a day. */
const wrap = 2 ** 33

/** Brings a transport or program stream together: the wrapper states little, so the bitstream says nearly all. */
export function readingOfMultiplex(mux: Multiplex): WrapperReading {
  if (!mux.codec && mux.sounds.length === 0)
    throw new ReadingFault('damaged', 'The multiplex holds neither picture nor sound that is known.', 0)
  const times = unwrapped(mux.times)
  if (!mux.codec) return wrapUp(mux, null, null)
  const stream = claimsOfStream(mux.codec, mux.video)
  if (stream.fault) throw new ReadingFault(stream.fault.code, stream.fault.message)
  if (stream.claims.length === 0) {
    throw new ReadingFault(
      'damaged',
      `${mux.codec} is announced, but no header of it is found at the start. The file may begin in the middle of a recording.`,
      0,
    )
  }
  const { rate, origin } = rateOfTimes(times, stream.statedRate ?? null, stream.fieldCoded ?? false)
  const last =
    mux.lastTime === null ? null : mux.lastTime + (mux.lastTime < (times[0] ?? -Infinity) ? wrap : 0)
  const span =
    times.length && last !== null
      ? (Math.max(last, ...times.slice(-1)) - Math.min(...times.slice(0, 32))) / clock
      : null
  const frames = span !== null && rate.rate ? Math.round(span * toNumber(rate.rate)) + 1 : null
  const picture = assemblePicture({
    codec: stream.codec ?? mux.codec,
    claims: stream.claims,
    rate,
    rateOrigin: origin,
    frameCount: frames,
  })
  const seconds = frames !== null && rate.rate ? frames / toNumber(rate.rate) : span
  return wrapUp(mux, { ...picture, timecode: stream.timecode ?? null }, seconds)
}

function wrapUp(
  mux: Multiplex,
  picture:
    (ReturnType<typeof assemblePicture> & { timecode: { text: string; dropFrame: boolean } | null }) | null,
  durationSec: number | null,
): WrapperReading {
  const times = unwrapped(mux.times)
  const [begins] = times
  const soundSpan = mux.lastTime !== null && begins !== undefined ? (mux.lastTime - begins) / clock : null
  const reading = makeReading({
    kind: picture ? 'video' : 'audio',
    container: mux.container,
    sizeBytes: mux.sizeBytes,
    durationSec: picture ? durationSec : soundSpan,
    video: picture?.video ?? null,
    audio: mux.sounds.map(({ facts, begins: heard }) => {
      const first = times.length ? Math.min(...times.slice(0, 32)) : null
      if (heard === null || first === null) return facts
      const apart = ((heard - first + 1.5 * wrap) % wrap) - wrap / 2
      return startingAt(facts, apart / clock, 0)
    }),
    timecode: picture?.timecode
      ? { start: picture.timecode.text, dropFrame: picture.timecode.dropFrame }
      : null,
    notes: [...mux.notes, ...(picture?.notes ?? [])],
  })
  return {
    reading,
    origins: { ...picture?.origins, durationSec: 'presentation times', timecode: 'group of pictures' },
    fault: null,
  }
}

function unwrapped(times: readonly number[]): number[] {
  const first = times[0] ?? 0
  return times.map((time) => (time < first - wrap / 2 ? time + wrap : time))
}

/** Times that tremble by a tick are constant; field pictures come with a time each, or one a frame. */
function rateOfTimes(
  times: readonly number[],
  stated: number | null,
  fieldCoded: boolean,
): { rate: RateFacts; origin: string } {
  const sorted = [...new Set(times)].sort((a, b) => a - b)
  // The last times of a cut stretch may lack their neighbours, which come later in the stream.
  const settled = sorted.slice(0, Math.max(3, sorted.length - 4))
  const measured = settled.length >= 3 ? rateFromDurations(runsFromTimes(settled), clock) : null
  if (measured?.rate && measured.rateMode === 'constant') {
    const halved = fieldCoded && stated !== null && Math.abs(toNumber(measured.rate) / stated - 2) < 0.01
    return {
      rate: halved ? { rate: exactRate(toNumber(measured.rate) / 2), rateMode: 'constant' } : measured,
      origin: 'presentation times',
    }
  }
  // Only key frames may bear a time: then what the stream states is all there is.
  if (stated !== null && (!measured?.rate || toNumber(measured.rate) < stated * 0.9)) {
    return {
      rate: { rate: exactRate(stated), rateMode: measured ? 'constant' : 'unknown' },
      origin: 'stream',
    }
  }
  return { rate: measured ?? { rate: null, rateMode: 'unknown' }, origin: 'presentation times' }
}
