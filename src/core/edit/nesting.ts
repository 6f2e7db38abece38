import type { Format } from '../format/format'
import { sourceTimeAt, speedOf } from '../motion/shown'
import {
  type Rational,
  compare,
  divide,
  equal,
  multiply,
  rational,
  roundHalfUp,
  subtract,
} from '../rational/rational'
import { type Treatment } from '../treatment/treatment'
import type { PlacementsToPut } from './arranging'
import { carriedTimecode, framesLasting } from './carry'
import { beyond, faster, flattenedThrough } from './flatten'
import { newTimeline } from './placing'
import { type Doc, formatOf } from '../model/project'
import { runningOf, settlePlacement, timingOfPlacement, treatmentFor } from '../plan/running'
import { showsTimeline } from '../model/integrity'
import { shapeOf, withoutShape } from '../model/shape'
import { freeTrackName } from './track'
import {
  type FormatOrigin,
  type Placement,
  type Timeline,
  type Track,
  lengthOf,
  mostGain,
} from '../model/timeline'
import { type Draft, asIs } from './draft'

/** Whether a timeline can be placed in another: never in itself, nor in what it shows. */
export const canHold = (doc: Pick<Doc, 'timelines'>, outerId: string, innerId: string): boolean =>
  outerId !== innerId && !showsTimeline(doc, innerId, outerId)

/** Whether anything is heard of a timeline. */
const sounds = ({ tracks }: Timeline): boolean =>
  tracks.some(({ kind, placements }) => kind === 'audio' && placements.length > 0)

/**
 * What a timeline is placed as in another of a rate: its picture and its sound, paired, whole.
 * @param ids of the picture, of the sound, and of their pair
 */
export function placedTimeline(
  inner: Timeline,
  rate: Rational,
  [pictureId, soundId, pairId]: readonly [picture: string, sound: string, pair: string],
): PlacementsToPut[] {
  if (!inner.rate) return []
  const both = sounds(inner)
  const placement = {
    source: { kind: 'timeline', timelineId: inner.id },
    length: framesLasting(divide(rational(Math.max(1, lengthOf(inner))), inner.rate), rate),
    sourceIn: rational(0),
    treatment: {},
    framingByShape: {},
    gain: 0,
    channels: null,
    pairId: both ? pairId : null,
  } as const
  const part = (kind: PlacementsToPut['kind'], id: string): PlacementsToPut => ({
    kind,
    offset: 0,
    above: 0,
    placement: { ...placement, id },
  })
  return [part('video', pictureId), ...(both ? [part('audio', soundId)] : [])]
}

/** What a timeline that is made is called and when, and how ids are given. */
export interface NewTimelineNames {
  readonly name: string
  readonly at: string
  readonly newId: () => string
}

/** A timeline of another format in which an old one runs whole. */
export function nestedIn(
  inner: Timeline,
  format: Format,
  origin: FormatOrigin | null,
  { name, at, newId }: NewTimelineNames,
  dropFrame?: boolean,
): Timeline {
  const nested = newTimeline(newId(), name, at, format, origin)
  const wanted = placedTimeline(inner, format.rate, [newId(), newId(), newId()])
  return {
    ...nested,
    sampleRate: inner.sampleRate,
    soundLayout: inner.soundLayout,
    ...(inner.rate ? carriedTimecode(inner, inner.rate, format.rate, dropFrame) : {}),
    tracks: nested.tracks.map((track) => ({
      ...track,
      placements: wanted
        .filter(({ kind }) => kind === track.kind)
        .map(({ placement }) => ({ ...placement, start: 0 })),
    })),
  }
}

/**
 * A timeline in which a placed timeline has given way to what was placed in that one: by the rule of cuts, each treated as it was
 * treated in there and as its timeline was treated out here. Picture and sound of a pair go together.
 * @returns the timeline as it is where the placement shows no timeline
 */
export function unnested(doc: Doc, outer: Timeline, placementId: string, newId: () => string): Timeline {
  const meant = outer.tracks
    .flatMap(({ placements }) => placements)
    .find(({ id, source }) => id === placementId && source.kind === 'timeline')
  if (!meant) return outer
  const isMeant = (placement: Placement) =>
    placement.source.kind === 'timeline' &&
    (placement.id === placementId || (placement.pairId !== null && placement.pairId === meant.pairId))
  const renamed = new Map<string, string>()
  const pairs = new Map<string, string>()
  let result = outer
  for (const track of outer.tracks)
    for (const placed of track.placements.filter(isMeant))
      result = spread(doc, outer, result, track, { placed, renaming: { newId, renamed, pairs } })
  const inner = meant.source.kind === 'timeline' ? doc.timelines[meant.source.timelineId] : undefined
  const accepted = (inner?.accepted ?? []).flatMap((accepted) => {
    const id = renamed.get(accepted.placementId)
    return id ? [{ ...accepted, placementId: id }] : []
  })
  const gone = new Set(
    outer.tracks.flatMap(({ placements }) => placements.filter(isMeant).map(({ id }) => id)),
  )
  return {
    ...result,
    accepted: [...result.accepted.filter((accepted) => !gone.has(accepted.placementId)), ...accepted],
  }
}

/** New names for what comes out of a timeline. */
interface Renaming {
  readonly newId: () => string
  readonly renamed: Map<string, string>
  readonly pairs: Map<string, string>
}

/** Spreads one placed timeline over its track and those above it. */
function spread(
  doc: Doc,
  outer: Timeline,
  into: Timeline,
  { id: trackId, kind }: Track,
  { placed, renaming }: { readonly placed: Placement; readonly renaming: Renaming },
): Timeline {
  const inner = placed.source.kind === 'timeline' ? doc.timelines[placed.source.timelineId] : undefined
  const [outerFormat, innerFormat] = [formatOf(doc, outer), inner ? formatOf(doc, inner) : null]
  if (!inner?.rate || !outer.rate || !outerFormat || !innerFormat) return into
  const out = outOf(doc, outer, placed, inner, { kind, names: renaming })
  const rows = inner.tracks
    .filter((track) => track.kind === kind)
    .map((track) => ({ track, placements: track.placements.length > 0 ? out(track.placements) : [] }))
    .filter(({ placements }) => placements.length > 0)
  const tracks = into.tracks.map((track) =>
    track.id === trackId
      ? { ...track, placements: track.placements.filter(({ id }) => id !== placed.id) }
      : track,
  )
  let at = tracks.findIndex(({ id }) => id === trackId)
  const [from, to] = [placed.start, placed.start + placed.length]
  const own = tracks[at]
  rows.forEach(({ track, placements }, i) => {
    const isFree = (other: Track | undefined) =>
      other?.kind === kind &&
      !other.locked &&
      other.hidden === (track.hidden || own?.hidden === true) &&
      other.muted === (track.muted || own?.muted === true) &&
      other.placements.every(({ start, length }) => start + length <= from || start >= to)
    // Higher ones go above: on the next track where it is free there, else on one of their own.
    if (i > 0) at++
    const there = tracks[at]
    if (there && isFree(there)) {
      const all = [...there.placements, ...placements].sort((a, b) => a.start - b.start)
      tracks[at] = { ...there, placements: all }
      return
    }
    if (i === 0) at++
    const outerTrack: Track = {
      ...track,
      id: renaming.newId(),
      name: freeTrackName(tracks, kind),
      hidden: track.hidden || own?.hidden === true,
      muted: track.muted || own?.muted === true,
      locked: false,
      placements,
    }
    tracks.splice(at, 0, outerTrack)
  })
  return { ...into, tracks }
}

/** Brings placements of an inner timeline out to where their timeline is placed. */
function outOf(
  doc: Doc,
  outer: Timeline,
  placed: Placement,
  inner: Timeline,
  { kind, names }: { readonly kind: Track['kind']; readonly names: Renaming },
) {
  const outerFormat = formatOf(doc, outer)
  const innerFormat = formatOf(doc, inner)
  const settledTimeline = settlePlacement(doc, outer, placed, outerFormat)
  const { rate: innerRate } = inner
  const { rate } = outer
  return (placements: readonly Placement[]): Placement[] => {
    if (!rate || !innerRate || !outerFormat || !innerFormat) return []
    const by = speedOf(settledTimeline.way, timingOfPlacement(doc, placed), rate)
    const { motion } = settledTimeline.treatment
    const keepPitch = motion.kind === 'speed' && motion.keepPitch
    /** Where a frame of the inner timeline comes to lie, from where it is placed on. */
    const carried = (frame: number) =>
      roundHalfUp(divide(multiply(subtract(divide(rational(frame), innerRate), placed.sourceIn), rate), by))
    // A speed is told of each placement; what else the placed timeline says of motion is said of them too.
    const treatedTimeline: Treatment = {
      ...settledTimeline.treatment,
      motion: motion.kind === 'speed' ? { kind: 'auto' } : motion,
    }
    let free = 0
    return placements.flatMap((placement) => {
      const [from, to] = [carried(placement.start), carried(placement.start + placement.length)]
      const start = Math.max(free, from)
      const end = Math.min(placed.length, Math.max(start + 1, to))
      if (to <= 0 || start >= placed.length || end <= start) return []
      const settled = settlePlacement(doc, inner, placement, innerFormat)
      // Where the picture of a clip lies is nothing to its sound.
      const composed = flattenedThrough(kind === 'audio' ? { ...settled, picture: null } : settled, {
        inner: innerFormat,
        outer: outerFormat,
        treatment: treatedTimeline,
      })
      if (!composed) return []
      free = end
      const timing = timingOfPlacement(doc, placement)
      const staysAsFast =
        equal(by, rational(1)) && (equal(rate, innerRate) || settled.way.passing.kind === 'in-time')
      const asFast = staysAsFast
        ? composed
        : faster({ treatment: composed, way: settled.way }, by, keepPitch, timing, innerRate)
      const given = treatmentFor(outer, settled.picture)
      const id = names.newId()
      names.renamed.set(placement.id, id)
      return [
        {
          ...placement,
          id,
          start: placed.start + start,
          length: end - start,
          sourceIn: from < 0 ? inAfter(doc, inner, placement, placed.sourceIn) : placement.sourceIn,
          treatment: beyond(asFast, given),
          framingByShape: withoutShape(placement.framingByShape, shapeOf(outerFormat)),
          gain: Math.max(-mostGain, Math.min(mostGain, placement.gain + placed.gain)),
          pairId: pairFor(placement.pairId, names),
        },
      ]
    })
  }
}

function pairFor(pairId: string | null, { pairs, newId }: Renaming): string | null {
  if (pairId === null) return null
  const known = pairs.get(pairId) ?? newId()
  pairs.set(pairId, known)
  return known
}

/** Where a placement stands in its source at a time of its timeline. */
function inAfter(doc: Doc, timeline: Timeline, placement: Placement, seconds: Rational): Rational {
  const rate = timeline.rate
  if (!rate) return placement.sourceIn
  const frames = subtract(multiply(seconds, rate), rational(placement.start))
  if (compare(frames, rational(0)) <= 0) return placement.sourceIn
  const running = runningOf(doc, timeline, placement)
  return sourceTimeAt(running, timingOfPlacement(doc, placement), rate, frames)
}

/** Puts what a placed timeline holds in the place of its placement. */
export function unnest(doc: Draft<Doc>, outerId: string, placementId: string, newId: () => string): void {
  const plain = asIs(doc)
  const outer = plain.timelines[outerId]
  if (outer) doc.timelines[outerId] = unnested(plain, outer, placementId, newId) as Draft<Timeline>
}
