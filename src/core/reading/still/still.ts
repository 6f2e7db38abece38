import { type Colour, unknownColour } from '../../picture/colour'
import { type Rotation } from '../../picture/turn'
import { type Rational, rational } from '../../rational/rational'
import type { Rate } from '../../rate/rate'
import type { Note, Reading } from '../reading'

/** What a still's header tells; the rest is as it must be for a still. */
export interface StillFacts {
  /** Where it is another than the wrapper's name. */
  readonly codec?: string
  readonly width: number
  readonly height: number
  readonly bitDepth: number | null
  readonly chroma: string | null
  readonly alpha: boolean
  readonly premultiplied?: boolean
  readonly pixelAspect?: Rational
  readonly rotation?: Rotation
  readonly colour?: Partial<Colour>
  /** What the file holds, from the corner of what it shows, where that is another. */
  readonly dataWindow?: NonNullable<Reading['video']>['dataWindow']
  /** Frames a second, where the picture says that it is one of many. */
  readonly rate?: Rate | null
  /** Frames a second at which it was recorded, where that is above its rate. */
  readonly captureRate?: Rate | null
  readonly timecode?: Reading['timecode']
  readonly recordedAt?: string | null
  readonly reel?: string | null
  readonly notes?: readonly Note[]
}

/** The reading of a single picture: no rate, no duration, progressive. */
export function stillReading(container: string, sizeBytes: number, facts: StillFacts): Reading {
  return {
    kind: 'still',
    container,
    sizeBytes,
    durationSec: null,
    video: {
      codec: facts.codec ?? container,
      profile: null,
      width: facts.width,
      height: facts.height,
      pixelAspect: facts.pixelAspect ?? rational(1),
      rotation: facts.rotation ?? 0,
      rate: facts.rate ?? null,
      rateMode: 'unknown',
      captureRate: facts.captureRate ?? null,
      frameCount: 1,
      scan: 'progressive',
      fieldOrder: null,
      bitDepth: facts.bitDepth,
      chroma: facts.chroma,
      alpha: facts.alpha,
      ...(facts.alpha && facts.premultiplied ? { premultiplied: true as const } : {}),
      colour: { ...unknownColour, ...facts.colour },
      ...(facts.dataWindow ? { dataWindow: facts.dataWindow } : {}),
    },
    audio: [],
    timecode: facts.timecode ?? null,
    recordedAt: facts.recordedAt ?? null,
    reel: facts.reel ?? null,
    notes: facts.notes ?? [],
  }
}
