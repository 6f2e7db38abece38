import { present } from '../assert'
import { type Format, type FormatColour, makeFormat } from '../format/format'
import { framesLeft, sourceTimeAfter } from '../motion/shown'
import { framesOf, timeOf } from '../motion/timing'
import { pictureOf } from '../picture/picture'
import { uprightSize } from '../picture/turn'
import { rational, subtract } from '../rational/rational'
import { framesLasting } from './carry'
import type { Clip } from '../model/clip'
import { type Draft, asIs, readable } from './draft'
import { timelineIn } from './operations'
import type { Doc } from '../model/project'
import { runningOf, timingOfPlacement } from '../plan/running'
import { exactDuration, timingOf } from '../model/timing'
import { type Placement, type Timeline, type TrackKind, endOf } from '../model/timeline'
import { partLinks, withLinked } from './linking'
import { closeUp, followPictures, oneMoreTrack, openUp, startsOf } from './track'

/** An empty timeline with one track for pictures and one for sound. */
export const newTimeline = (
  id: string,
  name: string,
  createdAt: string,
  ownFormat: Format | null = null,
  formatOrigin: Timeline['formatOrigin'] = null,
): Timeline => ({
  id,
  name,
  rate: ownFormat?.rate ?? null,
  ownFormat,
  formatOrigin: ownFormat && formatOrigin,
  startTimecode: '00:00:00:00',
  dropFrame: false,
  sampleRate: 48_000,
  soundLayout: 'stereo',
  treatment: {},
  rules: [],
  accepted: [],
  rasters: {},
  createdAt,
  tracks: [newTrack(`${id}-v1`, 'video', 1), newTrack(`${id}-a1`, 'audio', 1)],
})

const newTrack = (id: string, kind: TrackKind, number: number): Timeline['tracks'][number] => ({
  id,
  kind,
  name: `${kind === 'video' ? 'V' : 'A'}${number}`,
  hidden: false,
  muted: false,
  locked: false,
  placements: [],
})

/** A placement without the frame where it begins. */
export type Unplaced = Omit<Placement, 'start'>

/** A placement of the whole clip in a format. */
export const placementOf = (clip: Clip, format: Format, id: string): Unplaced => ({
  id,
  source: { kind: 'clip', clipId: clip.id },
  length: framesLasting(exactDuration(clip), format.rate),
  sourceIn: rational(0),
  treatment: {},
  framingByShape: {},
  gain: 0,
  channels: null,
  pairId: null,
})

/** From which frame of a clip to which, both shown. */
export interface Marks {
  readonly from: number
  readonly to: number
}

/**
 * What a clip is placed as in a format: its picture and its sound, paired, each on a track of its kind.
 * @param marks what of it; all of it where none are set
 * @param ids of the picture, of the sound, and of their pair
 */
export function placedClip(
  clip: Clip,
  format: Format,
  marks: Marks | null,
  ids: readonly [picture: string, sound: string, pair: string],
): {
  readonly kind: TrackKind
  readonly placement: Unplaced
  readonly offset: number
  readonly above: number
}[] {
  const [pictureId, soundId, pairId] = ids
  const steps = framesOf(timingOf(clip))
  const sourceIn = marks ? timeOf(steps, marks.from) : rational(0)
  const whole = placementOf(clip, format, pictureId)
  const until = marks && timeOf(steps, marks.to + 1)
  const length = until ? framesLasting(subtract(until, sourceIn), format.rate) : whole.length
  const { reading } = clip
  const remade = { ...whole, sourceIn, length }
  const parts: [TrackKind, string][] = [
    ...(reading?.video ? [['video', pictureId] as [TrackKind, string]] : []),
    ...(reading?.audio.length ? [['audio', soundId] as [TrackKind, string]] : []),
  ]
  return parts.map(([kind, id]) => ({
    kind,
    offset: 0,
    above: 0,
    placement: { ...remade, id, pairId: parts.length > 1 ? pairId : null },
  }))
}

/** The format that a video clip itself has; null for stills, sound and clips without a known rate. */
export function formatOfClip(clip: Clip, colour: FormatColour): Format | null {
  const video = clip.reading?.kind === 'video' ? clip.reading.video : null
  if (!video?.rate) return null
  const size = uprightSize(pictureOf(video))
  const interlaced = video.scan === 'interlaced'
  const format = makeFormat(size, video.rate, interlaced ? 'interlaced' : 'progressive', colour)
  return interlaced && video.fieldOrder !== 'unknown' ? { ...format, fieldOrder: video.fieldOrder } : format
}

/** Places one after the other at the end of the first track of their kind; where there is none, one is made. */
export function append(doc: Draft<Doc>, timelineId: string, wanted: readonly Unplaced[]): void {
  const { clips } = readable(doc)
  for (const placement of wanted) {
    const { source } = placement
    const isSound = source.kind === 'clip' && clips[source.clipId]?.reading?.kind === 'audio'
    const track = trackOf(timelineIn(doc, timelineId), isSound ? 'audio' : 'video')
    track.placements.push({ ...placement, start: endOf(track.placements) } as Draft<Placement>)
  }
}

/** The first track of a kind that is not locked; a new one where there is none. Pictures stand before sound. */
const trackOf = (timeline: Draft<Timeline>, kind: TrackKind) =>
  timeline.tracks.find((track) => track.kind === kind && !track.locked) ?? oneMoreTrack(timeline, kind)

/**
 * Moves a placement to another position in the order of its track. The gap that it leaves is closed, and what stands at the
 * new position moves on; other gaps stay.
 */
export function movePlacement(doc: Draft<Doc>, timelineId: string, id: string, toIndex: number): void {
  const timeline = timelineIn(doc, timelineId)
  const before = startsOf(asIs(timeline))
  for (const track of timeline.tracks) {
    const moved = track.placements.find((p) => p.id === id)
    if (!moved) continue
    const others = closeUp(
      track.placements.filter((p) => p.id !== id),
      [moved],
    )
    const index = Math.max(0, Math.min(toIndex, others.length))
    const start = others[index]?.start ?? endOf(others)
    const opened = openUp(others, start, moved.length)
    opened.splice(index, 0, { ...moved, start })
    track.placements = opened
  }
  followPictures(timeline, before)
}

/**
 * Cuts placements, and what is linked with them, in two at a frame of the timeline, but on tracks that are locked; both halves show what
 * they showed, and are linked each on its own side.
 * @returns the ids of the halves behind the cut
 */
export function cutAt(
  doc: Draft<Doc>,
  timelineId: string,
  ids: Iterable<string>,
  frame: number,
  newId: () => string,
): string[] {
  const timeline = timelineIn(doc, timelineId)
  const meant = withLinked(timeline, ids)
  const newIds: string[] = []
  const cut = new Set<string>()
  for (const track of timeline.tracks) {
    if (track.locked || !timeline.rate) continue
    const isCut = ({ id, start, length }: Draft<Placement>) =>
      meant.has(id) && start < frame && frame < start + length
    if (!track.placements.some(isCut)) continue
    track.placements = track.placements.flatMap((placement) => {
      if (!isCut(placement)) return [placement]
      const id = newId()
      newIds.push(id)
      if (placement.pairId !== null) cut.add(placement.pairId)
      const front = { ...placement, length: frame - placement.start }
      return [front, behind(doc, timeline, placement, frame, id)]
    })
  }
  partLinks(timeline, cut, frame, newId)
  return newIds
}

/** The half of a placement behind a frame of the timeline; it shows what it showed there. */
export function behind(
  doc: Draft<Doc>,
  timeline: Draft<Timeline>,
  placement: Draft<Placement>,
  frame: number,
  id: string,
): Draft<Placement> {
  const [frozen, plain, whole] = [readable(doc), timeline as Timeline, placement as Placement]
  const into = frame - placement.start
  const rate = present(plain.rate, 'what is placed has a rate')
  const sourceIn = sourceTimeAfter(
    runningOf(frozen, plain, whole),
    timingOfPlacement(frozen, whole),
    rate,
    into,
  )
  return { ...placement, id, start: frame, length: placement.length - into, sourceIn }
}

/** How many frames a placement has to show from its in-point on; null for what never ends. */
export function framesThere(doc: Doc, timeline: Timeline, placement: Placement): number | null {
  if (!timeline.rate) return null
  return framesLeft(runningOf(doc, timeline, placement), timingOfPlacement(doc, placement), timeline.rate)
}
