import { toNumber } from '../rational/rational'
import { timecodeToFrame } from '../rate/timecode'
import type { Rate } from '../rate/rate'
import { exactDuration } from '../edit/place'
import { type Clip, type Doc, type Placement, type Timeline, type Track, formatOf } from '../edit/project'
import { formatText } from '../format/format'

/**
 * A timeline as OpenTimelineIO JSON. Schemas: Timeline.1, Stack.1, Track.1, Clip.2,
 * Gap.1, ExternalReference.1, TimeRange.1, RationalTime.1. Times are at the exact rate: source times at the clip's,
 * durations at the timeline's, so that the cut is whole in frames of the timeline.
 * @throws Error when the timeline has no format
 */
export function toOtio(doc: Doc, timeline: Timeline): object {
  const format = formatOf(doc, timeline)
  if (!format) throw new Error('a timeline without a format has no times to export')
  return {
    OTIO_SCHEMA: 'Timeline.1',
    name: timeline.name,
    metadata: { yard_tally: { project: doc.project.name, format: formatText(format) } },
    global_start_time: rationalTime(0, format.rate),
    tracks: {
      OTIO_SCHEMA: 'Stack.1',
      name: 'tracks',
      metadata: {},
      source_range: null,
      effects: [],
      markers: [],
      children: timeline.tracks.map((track, i) => toTrack(doc, track, format.rate, i)),
    },
  }
}

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

function toTrack(doc: Doc, track: Track, rate: Rate, index: number) {
  const children: object[] = []
  let at = 0
  for (const placement of track.placements) {
    if (placement.start > at) children.push(gap(placement.start - at, rate))
    children.push(toClip(doc.clips[placement.clipId], placement, rate))
    at = placement.start + placement.length
  }
  return {
    OTIO_SCHEMA: 'Track.1',
    name: `${track.kind === 'video' ? 'V' : 'A'}${index + 1}`,
    kind: track.kind === 'video' ? 'Video' : 'Audio',
    metadata: {},
    source_range: null,
    effects: [],
    markers: [],
    children,
  }
}

const gap = (frames: number, rate: Rate) => ({
  OTIO_SCHEMA: 'Gap.1',
  name: '',
  metadata: {},
  source_range: timeRange(rationalTime(0, rate), rationalTime(frames, rate)),
  effects: [],
  markers: [],
})

const urlOf = ({ folder, name }: Pick<Clip, 'folder' | 'name'>): string =>
  encodeURI(folder ? `${folder}/${name}` : name)

/** What a reference cannot say by itself: the reel, and the further files of a clip that lies in several. */
function mediaMetadata({ reading, parts }: Clip): object {
  const files = parts.map((part) => ({ target_url: urlOf(part), seconds: part.reading.durationSec }))
  const said = { ...(reading?.reel ? { reel: reading.reel } : {}), ...(files.length ? { files } : {}) }
  return Object.keys(said).length ? { yard_tally: said } : {}
}

/** The clock of a clip's source: its own rate, or the timeline's where it has none (stills, sound). */
const clockOf = (clip: Clip, rate: Rate): Rate => clip.reading?.video?.rate ?? rate

function toClip(clip: Clip, placement: Placement, rate: Rate) {
  const clock = clockOf(clip, rate)
  const first = startFrame(clip, clock)
  const frames = (seconds: { num: number; den: number }) =>
    (seconds.num * clock.num) / (seconds.den * clock.den)
  const start = rationalTime(first + frames(placement.sourceIn), clock)
  return {
    OTIO_SCHEMA: 'Clip.2',
    name: clip.name,
    metadata: { yard_tally: { treatment: placement.treatment } },
    source_range: timeRange(start, rationalTime(placement.length, rate)),
    effects: [],
    markers: [],
    enabled: true,
    active_media_reference_key: 'DEFAULT_MEDIA',
    media_references: {
      DEFAULT_MEDIA: {
        OTIO_SCHEMA: 'ExternalReference.1',
        name: clip.name,
        metadata: mediaMetadata(clip),
        target_url: urlOf(clip.parts[0] ?? clip),
        available_range: timeRange(
          rationalTime(first, clock),
          rationalTime(frames(exactDuration(clip)), clock),
        ),
        available_image_bounds: null,
      },
    },
  }
}

/** The frame number of the source's start timecode; 0 where it has none. */
function startFrame(clip: Clip, clock: Rate): number {
  const timecode = clip.reading?.timecode
  return timecode ? (timecodeToFrame(timecode.start, clock, timecode.dropFrame) ?? 0) : 0
}
