import * as z from 'zod'
import { claimsOf, type Clip } from '../model/clip'
import type { Placement, Track } from '../model/timeline'
import { timecodeToFrame } from '../rate/timecode'
import { exactRate, type Rate } from '../rate/rate'
import {
  type Rational,
  add,
  divide,
  multiply,
  nearestRational,
  rational,
  roundHalfUp,
  subtract,
} from '../rational/rational'
import {
  type AnyObject,
  OtioClip as OtioClip,
  OtioGap,
  type MediaReference,
  type RationalTime,
  OtioStack,
  type TimeRange,
  OtioTrack as OtioTrack,
} from './otio-schema'

/** What objects of OpenTimelineIO come to, each by itself. */

/** Seconds of a time, exactly. */
export const secondsOf = ({ value, rate }: RationalTime): Rational =>
  divide(Number.isInteger(value) ? rational(value) : nearestRational(value, 1e-6), exactRate(rate))

/** What of a composition is seen, from which second to which; null for all of it. */
export type SeenRange = { readonly from: Rational; readonly to: Rational } | null

export const windowOf = (range: TimeRange | null | undefined): SeenRange => {
  if (!range) return null
  const from = secondsOf(range.start_time)
  return { from, to: add(from, secondsOf(range.duration)) }
}

/** An item that says what of it is seen. */
export const Ranged = z.object({ source_range: OtioTrack.shape.source_range })

/** What stands in a stack by itself, as a track of it alone; null where it is nothing that is shown. */
export function asTrack(child: AnyObject): OtioTrack | null {
  const isItem =
    OtioClip.safeParse(child).success ||
    OtioStack.safeParse(child).success ||
    OtioGap.safeParse(child).success
  return isItem ? { OTIO_SCHEMA: 'Track.1', kind: 'Video', children: [child] } : null
}

/** Placements of a track of which a part is seen, from its first frame on; what is cut off at its beginning begins later in its source. */
export function windowed(placements: readonly Placement[], window: SeenRange, rate: Rate): Placement[] {
  if (!window) return [...placements]
  const [first, last] = [window.from, window.to].map((time) => roundHalfUp(multiply(time, rate))) as [
    number,
    number,
  ]
  return placements.flatMap((placement) => {
    const [from, to] = [Math.max(first, placement.start), Math.min(last, placement.start + placement.length)]
    if (to <= from) return []
    const { motion } = placement.treatment
    const factor =
      motion?.kind === 'speed' && motion.pace.kind === 'factor' ? motion.pace.factor : rational(1)
    const passed = divide(multiply(rational(from - placement.start), factor), rate)
    return [
      { ...placement, start: from - first, length: to - from, sourceIn: add(placement.sourceIn, passed) },
    ]
  })
}

export const rateIs = (a: Rate, b: Rate): boolean => a.num === b.num && a.den === b.den

export function decoded(path: string): string {
  try {
    return decodeURIComponent(path)
  } catch {
    return path
  }
}

export const referenceOf = (clip: OtioClip): MediaReference | null =>
  clip.OTIO_SCHEMA === 'Clip.1'
    ? (clip.media_reference ?? null)
    : (clip.media_references?.[clip.active_media_reference_key ?? 'DEFAULT_MEDIA'] ?? null)

/** Where in its file a clip begins, from the first frame: media may be counted by its own timecode. */
export function sourceInOf(range: TimeRange | null, reference: MediaReference | null, clip: Clip): Rational {
  const available = reference?.available_range
  if (!range) return rational(0)
  const start = secondsOf(range.start_time)
  const claims = claimsOf(clip)
  const clock = claims?.video?.rate
  const claimed = claims?.timecode
  const first = available
    ? secondsOf(available.start_time)
    : claimed && clock
      ? divide(rational(timecodeToFrame(claimed.start, clock, claimed.dropFrame) ?? 0), clock)
      : rational(0)
  const from = subtract(start, first)
  if (from.num >= 0) return from
  return start.num >= 0 ? start : rational(0)
}

/** Picture and sound of one clip that stand beside each other move together. */
export function paired(tracks: Track[], isForeign: (placement: Placement) => boolean): Track[] {
  const keyOf = ({ source, start, length }: Placement) => `${JSON.stringify(source)} ${start} ${length}`
  const pictures = new Map(
    tracks
      .filter(({ kind }) => kind === 'video')
      .flatMap(({ placements }) => placements.map((placement) => [keyOf(placement), placement] as const)),
  )
  const pairs = new Map<string, string>()
  for (const { kind, placements } of tracks)
    if (kind === 'audio')
      for (const sound of placements) {
        const picture = pictures.get(keyOf(sound))
        if (
          picture &&
          picture.pairId === null &&
          sound.pairId === null &&
          isForeign(picture) &&
          isForeign(sound)
        )
          for (const { id } of [picture, sound]) pairs.set(id, `${picture.id} pair`)
      }
  if (pairs.size === 0) return tracks
  return tracks.map((track) => ({
    ...track,
    placements: track.placements.map((placement) => ({
      ...placement,
      pairId: placement.pairId ?? pairs.get(placement.id) ?? null,
    })),
  }))
}
