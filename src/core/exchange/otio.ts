import { checkTimeline } from '../check/check'
import { type Clip, type ClipFile, claimsOf, readingOfPart } from '../model/clip'
import { type Doc, formatOf } from '../model/project'
import { settlePlacement } from '../plan/running'
import { spanOf } from '../plan/span'
import { exactDuration, fileClock } from '../model/timing'
import { type Placement, type Timeline, type Track, deepestNesting } from '../model/timeline'
import { type Format, formatText } from '../format/format'
import { type Rational, equal, multiply, rational, toNumber } from '../rational/rational'
import { timecodeToFrame } from '../rate/timecode'
import { timecodeIn } from '../reading/reading'
import type { Rate } from '../rate/rate'
import type { Toll } from '../toll/charge'
import { shortWords, tollSentence } from '../toll/sentence'

/**
 * A timeline as OpenTimelineIO JSON. Schemas: Timeline.1, Stack.1, Track.1, Clip.2, Gap.1, ExternalReference.1,
 * GeneratorReference.1, LinearTimeWarp.1, Marker.2, TimeRange.1, RationalTime.1. What is found on a placement is a marker on it. Media is at the rate that its file claims, since that
 * is what other programs read; another speed, by treatment or by correction, is a time warp. Durations are at the timeline's
 * rate, so that the cut is whole in its frames.
 * @throws Error when the timeline has no format
 */
export function toOtio(doc: Doc, timeline: Timeline): object {
  const format = formatOf(doc, timeline)
  if (!format) throw new Error('a timeline without a format has no times to export')
  const start = timecodeToFrame(timeline.startTimecode, format.rate, timeline.dropFrame) ?? 0
  return {
    OTIO_SCHEMA: 'Timeline.1',
    name: timeline.name,
    metadata: {
      yard_tally: { project: doc.project.name, format: formatText(format), timeline: ownOf(timeline) },
    },
    global_start_time: rationalTime(start, format.rate),
    tracks: stackOf(doc, timeline, format, 'tracks'),
  }
}

function stackOf(doc: Doc, timeline: Timeline, format: Format, name: string, depth = 0) {
  const found = checkTimeline(doc, timeline)?.findings ?? []
  const tolls = new Map(found.map(({ placement, toll }) => [placement.id, toll]))
  return {
    OTIO_SCHEMA: 'Stack.1',
    name,
    ...plainItem,
    children: timeline.tracks.map((track) => trackOf(doc, timeline, track, { format, tolls }, depth)),
  }
}

/** Colours of markers that the format names, by how much is paid. */
const markerColour = { free: 'WHITE', light: 'CYAN', heavy: 'ORANGE', severe: 'MAGENTA' } as const

/** What a placement pays, as a marker over all of what is shown; none where it pays nothing. */
const markersOf = (toll: Toll | undefined, range: object): object[] =>
  !toll || toll.grade === 'free'
    ? []
    : [
        {
          OTIO_SCHEMA: 'Marker.2',
          name: toll.charges.map(shortWords).join(', '),
          comment: tollSentence(toll),
          color: markerColour[toll.grade],
          marked_range: range,
          metadata: {
            yard_tally: { finding: { grade: toll.grade, charges: toll.charges.map(({ kind }) => kind) } },
          },
        },
      ]

/** What of a timeline no published object says: all but its tracks. */
const ownOf = ({ tracks: _, ...own }: Timeline) => own

const plainItem = { metadata: {}, source_range: null, effects: [], markers: [], enabled: true }

const rationalTime = (value: number, rate: Rate) => ({
  OTIO_SCHEMA: 'RationalTime.1',
  value,
  rate: toNumber(rate),
})
const timeRange = (start: object, duration: object) => ({
  OTIO_SCHEMA: 'TimeRange.1',
  start_time: start,
  duration,
})

function trackOf(
  doc: Doc,
  timeline: Timeline,
  track: Track,
  { format, tolls }: { readonly format: Format; readonly tolls: ReadonlyMap<string, Toll> },
  depth: number,
) {
  const { rate } = format
  const children: object[] = []
  let at = 0
  for (const placement of track.placements) {
    if (placement.start > at) children.push(gap(placement.start - at, rate))
    const item = itemOf(doc, timeline, placement, format, depth)
    const toll = track.kind === 'video' ? tolls.get(placement.id) : undefined
    children.push({ ...item, markers: markersOf(toll, item.source_range) })
    at = placement.start + placement.length
  }
  return {
    OTIO_SCHEMA: 'Track.1',
    name: track.name,
    kind: track.kind === 'video' ? 'Video' : 'Audio',
    ...plainItem,
    metadata: { yard_tally: { track: { ...ownTrack(track) } } },
    enabled: track.kind === 'video' ? !track.hidden : !track.muted,
    children,
  }
}

/** What of a track no published object says. */
const ownTrack = ({ id, locked, hidden, muted }: Track) => ({ id, locked, hidden, muted })

const gap = (frames: number, rate: Rate) => ({
  OTIO_SCHEMA: 'Gap.1',
  name: '',
  ...plainItem,
  source_range: timeRange(rationalTime(0, rate), rationalTime(frames, rate)),
})

function itemOf(
  doc: Doc,
  timeline: Timeline,
  placement: Placement,
  format: Format,
  depth: number,
): { readonly source_range: object; readonly [other: string]: unknown } {
  const { source } = placement
  const { way } = settlePlacement(doc, timeline, placement, format)
  const { from, speed } = spanOf(doc, timeline, placement, way)
  const length = rationalTime(placement.length, format.rate)
  const { start: _start, length: _length, treatment, ...kept } = placement
  const metadata = { yard_tally: { treatment, placement: kept } }
  if (source.kind === 'timeline') {
    const inner = doc.timelines[source.timelineId]
    const innerFormat = inner && formatOf(doc, inner)
    if (!inner || !innerFormat || depth >= deepestNesting) return gap(placement.length, format.rate)
    const start = rationalTime(toNumber(multiply(placement.sourceIn, innerFormat.rate)), innerFormat.rate)
    return {
      ...stackOf(doc, inner, innerFormat, inner.name, depth + 1),
      metadata: { yard_tally: { ...metadata.yard_tally, timeline: ownOf(inner) } },
      source_range: timeRange(start, length),
      effects: timeWarps(speed),
    }
  }
  if (source.kind === 'figure') {
    const start = rationalTime(toNumber(multiply(placement.sourceIn, source.rate)), source.rate)
    const parameters = { ...source.size, rate: toNumber(source.rate), scan: source.scan }
    return clipOf('test figure', metadata, timeRange(start, length), timeWarps(speed), {
      OTIO_SCHEMA: 'GeneratorReference.1',
      name: 'test figure',
      metadata: {},
      generator_kind: 'test figure',
      parameters,
      available_range: null,
      available_image_bounds: null,
    })
  }
  const clip = doc.clips[source.clipId]
  if (!clip) return gap(placement.length, format.rate)
  const media = mediaOf(clip, format.rate)
  const start = rationalTime(media.first + toNumber(multiply(from, media.clock)), media.clock)
  return clipOf(clip.name, metadata, timeRange(start, length), timeWarps(speed), {
    OTIO_SCHEMA: 'ExternalReference.1',
    name: clip.name,
    metadata: mediaMetadata(clip),
    target_url: urlOf(clip.parts[0] ?? clip),
    available_range: timeRange(
      rationalTime(media.first, media.clock),
      rationalTime(toNumber(multiply(fileClock(clip).inFile(exactDuration(clip)), media.clock)), media.clock),
    ),
    available_image_bounds: null,
  })
}

const clipOf = (
  name: string,
  metadata: object,
  source_range: object,
  effects: readonly object[],
  reference: object,
) => ({
  OTIO_SCHEMA: 'Clip.2',
  name,
  ...plainItem,
  metadata,
  source_range,
  effects,
  active_media_reference_key: 'DEFAULT_MEDIA',
  media_references: { DEFAULT_MEDIA: reference },
})

const timeWarps = (speed: Rational): object[] =>
  equal(speed, rational(1))
    ? []
    : [
        {
          OTIO_SCHEMA: 'LinearTimeWarp.1',
          name: '',
          metadata: {},
          effect_name: 'LinearTimeWarp',
          time_scalar: toNumber(speed),
        },
      ]

/** Folder and name as the path of a URL: every character that means something in one is written out. */
const urlOf = ({ folder, name }: Pick<Clip | ClipFile, 'folder' | 'name'>): string =>
  [...folder.split('/').filter(Boolean), name].map(encodeURIComponent).join('/')

/** What a reference cannot say by itself: the reel, and the further files of a clip that lies in several. */
function mediaMetadata(clip: Clip): object {
  const { reading, parts } = clip
  const files = parts.map((part) => ({
    target_url: urlOf(part),
    seconds: readingOfPart(clip, part).durationSec,
  }))
  const said = { ...(reading?.reel ? { reel: reading.reel } : {}), ...(files.length ? { files } : {}) }
  return Object.keys(said).length ? { yard_tally: said } : {}
}

/** A clip's media by its own claims: its clock, and the number of its first frame. Stills and sound are counted at the timeline's rate. */
function mediaOf(clip: Clip, timeline: Rate): { readonly clock: Rate; readonly first: number } {
  const claims = claimsOf(clip)
  const clock = (claims?.kind === 'video' ? claims.video?.rate : null) ?? timeline
  const timecode = claims && timecodeIn(claims, clock)
  return { clock, first: timecode ? (timecodeToFrame(timecode.start, clock, timecode.dropFrame) ?? 0) : 0 }
}
