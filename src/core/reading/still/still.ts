import { unknownColour } from '../../picture/colour'
import { type Rotation } from '../../picture/turn'
import { type Rational, rational } from '../../rational/rational'
import { type Reading } from '../reading'

/** What a still's header tells; the rest is as it must be for a still. */
export interface StillFacts {
  readonly width: number
  readonly height: number
  readonly bitDepth: number | null
  readonly chroma: string | null
  readonly alpha: boolean
  readonly pixelAspect?: Rational
  readonly rotation?: Rotation
}

/** The reading of a single picture: no rate, no duration, progressive. */
export function stillReading(container: string, sizeBytes: number, facts: StillFacts): Reading {
  return {
    kind: 'still',
    container,
    sizeBytes,
    durationSec: null,
    video: {
      codec: container,
      profile: null,
      width: facts.width,
      height: facts.height,
      pixelAspect: facts.pixelAspect ?? rational(1),
      rotation: facts.rotation ?? 0,
      rate: null,
      rateMode: 'unknown',
      frameCount: 1,
      scan: 'progressive',
      fieldOrder: null,
      bitDepth: facts.bitDepth,
      chroma: facts.chroma,
      alpha: facts.alpha,
      colour: unknownColour,
    },
    audio: [],
    timecode: null,
    recordedAt: null,
    reel: null,
    notes: [],
  }
}
