import { framesOf } from '../motion/timing'
import { toNumber } from '../rational/rational'
import type { Clip } from './clip'
import { speedOf } from './composing'
import { type Doc, formatOf } from './project'
import { settlePlacement, timingOfPlacement } from './running'
import { type Placement, type Timeline, deepestNesting } from './timeline'

/** A stretch of a timeline on which a clip is heard. */
export interface Heard {
  readonly clip: Clip
  /** Seconds of the timeline, from its start. */
  readonly from: number
  readonly to: number
  /** The moment of the clip at `from`, in seconds from its first frame. */
  readonly sourceSeconds: number
  /** Seconds of the clip for one of the timeline. */
  readonly speed: number
  /** Whether another speed leaves the pitch as it is. */
  readonly keepPitch: boolean
  /** Decibels. */
  readonly gain: number
  /** Which channels of the clip sound; null for all. */
  readonly channels: readonly number[] | null
}

/** All that is heard on a timeline, of timelines that are placed on its tracks of sound too: cut off, sped and louder as they are. */
export function heardIn(doc: Doc, timeline: Timeline, depth = 0): Heard[] {
  const rate = timeline.rate
  if (!rate) return []
  return timeline.tracks
    .filter(({ kind, muted }) => kind === 'audio' && !muted)
    .flatMap(({ placements }) => placements)
    .flatMap((placement) => {
      const from = placement.start / toNumber(rate)
      const to = (placement.start + placement.length) / toNumber(rate)
      const { way, treatment } = settlePlacement(doc, timeline, placement, formatOf(doc, timeline))
      const { motion } = treatment
      const speed = toNumber(speedOf(way, framesOf(timingOfPlacement(doc, placement)), rate))
      const keepPitch = motion.kind === 'speed' && motion.keepPitch
      return heardOf(doc, placement, { from, to, speed, keepPitch }, depth)
    })
}

function heardOf(
  doc: Doc,
  { source, sourceIn, gain, channels }: Placement,
  at: Pick<Heard, 'from' | 'to' | 'speed' | 'keepPitch'>,
  depth: number,
): Heard[] {
  const begins = toNumber(sourceIn)
  if (source.kind === 'clip') {
    const clip = doc.clips[source.clipId]
    return clip ? [{ ...at, clip, sourceSeconds: begins, gain, channels }] : []
  }
  const inner = source.kind === 'timeline' ? doc.timelines[source.timelineId] : undefined
  if (!inner || depth >= deepestNesting) return []
  /** When a moment of the inner timeline is heard on the outer one. */
  const outside = (seconds: number) => at.from + (seconds - begins) / at.speed
  return heardIn(doc, inner, depth + 1).flatMap((heard): Heard[] => {
    const from = Math.max(at.from, outside(heard.from))
    const to = Math.min(at.to, outside(heard.to))
    if (to <= from) return []
    const cutOff = (from - outside(heard.from)) * at.speed
    return [
      {
        ...heard,
        from,
        to,
        sourceSeconds: heard.sourceSeconds + cutOff * heard.speed,
        speed: heard.speed * at.speed,
        keepPitch: heard.keepPitch || at.keepPitch,
        gain: heard.gain + gain,
      },
    ]
  })
}
