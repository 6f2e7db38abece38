import { kilobytes } from '../words/figures'
import { type Rotation } from '../picture/turn'
import type { Rate } from '../rate/rate'
import { rational, toNumber } from '../rational/rational'
import { type PictureClaim, settleClaims } from './claims'
import { type Fault, ReadingFault } from './fault'
import type { Note, Origins, Reading, VideoFacts } from './reading'
import type { FrameTimes } from './frame-times'
import type { RateFacts } from './timing'

/** A reading with where its facts stand, and what was wrong, if anything was. */
export interface WrapperReading {
  readonly reading: Reading | null
  readonly origins: Origins
  readonly fault: Fault | null
  /** When each frame of a variable clip is on screen, where the wrapper lists them in one place. */
  readonly frameTimes?: FrameTimes | null
}

/** What a wrapper and its stream came to, before it is brought together. */
export interface PictureParts {
  readonly codec: string
  /** The profile that the wrapper's code tells, where the stream tells none. */
  readonly profile?: string | null
  /** First claims first; the bitstream wins over the wrapper. */
  readonly claims: readonly PictureClaim[]
  readonly rate: RateFacts
  readonly rateOrigin: string
  readonly frameCount: number | null
  readonly rotation?: Rotation
  /** What was wrong with the stream, where the wrapper's claims stand alone. */
  readonly fault?: Fault
}

/**
 * Brings the claims about the picture together into facts.
 * @throws ReadingFault `damaged` when nothing states its size
 */
export function assemblePicture(parts: PictureParts): {
  video: VideoFacts
  origins: Origins
  notes: Note[]
  fault: Fault | null
} {
  const { facts, origins, notes } = settleClaims(parts.claims)
  if (!facts.width || !facts.height)
    throw new ReadingFault('damaged', 'Nothing in the file states the size of the picture.')
  const scan = facts.scan ?? 'unknown'
  return {
    video: {
      codec: parts.codec,
      profile: facts.profile ?? parts.profile ?? null,
      width: facts.width,
      height: facts.height,
      pixelAspect: facts.pixelAspect ?? rational(1),
      rotation: parts.rotation ?? 0,
      ...parts.rate,
      captureRate: captureRateAbove(facts.captureRate ?? null, parts.rate.rate),
      frameCount: parts.frameCount,
      scan,
      fieldOrder: scan === 'progressive' ? null : (facts.fieldOrder ?? 'unknown'),
      bitDepth: facts.bitDepth ?? null,
      chroma: facts.chroma ?? null,
      alpha: facts.alpha ?? false,
      colour: {
        primaries: facts.primaries ?? null,
        transfer: facts.transfer ?? null,
        matrix: facts.matrix ?? null,
        range: facts.range ?? null,
      },
    },
    origins: { ...origins, ...(parts.rate.rate ? { 'video.rate': parts.rateOrigin } : {}) },
    notes,
    fault: parts.fault ?? null,
  }
}

/** A rate of recording matters where it is above the rate at which the file runs: what lies between was filmed to be slowed. */
export const captureRateAbove = (captured: Rate | null, rate: Rate | null): Rate | null =>
  captured && rate && toNumber(captured) > toNumber(rate) * 1.01 ? captured : null

/** The fault of a file that ends before it should, or null where nothing is missing. */
export const cutOff = (sizeBytes: number, missingBytes: number): Fault | null =>
  missingBytes <= 0
    ? null
    : {
        code: 'truncated',
        message: `Cut off after ${kilobytes(sizeBytes)} of ${kilobytes(sizeBytes + missingBytes)}. Copy it again.`,
        offset: sizeBytes,
      }

type Needed = 'kind' | 'container' | 'sizeBytes' | 'durationSec'

/** A reading from the parts that a wrapper has; what it does not state is null or empty. */
export const makeReading = (parts: Pick<Reading, Needed> & Partial<Reading>): Reading => ({
  kind: parts.kind,
  container: parts.container,
  sizeBytes: parts.sizeBytes,
  durationSec: parts.durationSec,
  video: parts.video ?? null,
  audio: parts.audio ?? [],
  timecode: parts.timecode ?? null,
  recordedAt: parts.recordedAt ?? null,
  reel: parts.reel ?? null,
  notes: parts.notes ?? [],
})
