import type { Result } from '../result'
import * as z from 'zod'
import type { Clip } from '../model/clip'
import { fileClock } from '../model/timing'
import { withTimeline } from '../edit/carrying'
import { Id, shortened } from '../model/id'
import type { NewTimelineNames } from '../edit/nesting'
import { newTimeline } from '../edit/placing'
import type { Doc } from '../model/project'
import { nonsenseOf } from '../model/integrity'
import { Placement, Timeline, type Track, deepestNesting, lengthOf } from '../model/timeline'
import { departure, issueWords } from '../words/reason'
import { frameToTimecode } from '../rate/timecode'
import { exactRate, type Rate } from '../rate/rate'
import {
  type Rational,
  add,
  divide,
  multiply,
  nearestRational,
  rational,
  roundHalfUp,
} from '../rational/rational'
import { counted } from '../words/figures'
import {
  Marker,
  AnyObject,
  OtioClip as OtioClip,
  OtioGap,
  LinearTimeWarp,
  type MediaReference,
  OtioTimeline,
  type RationalTime,
  OtioStack,
  OtioTrack as OtioTrack,
} from './otio-schema'
import {
  Ranged,
  type SeenRange,
  asTrack,
  decoded,
  paired,
  rateIs,
  referenceOf,
  secondsOf,
  sourceInOf,
  windowOf,
  windowed,
} from './otio-objects'

/** What came of an OpenTimelineIO file: timelines, those that others show first, and what of it was not understood. */
export type OtioRead = Result<{ timelines: readonly Timeline[]; notes: readonly string[] }>

/** What only our own files say. */
const OwnPlacement = Placement.unwrap().omit({ start: true, length: true, treatment: true })
const OwnTrack = z.object({
  id: Id,
  locked: z.boolean(),
  hidden: z.boolean().default(false),
  muted: z.boolean().default(false),
})
const OwnTimeline = Timeline.unwrap().omit({ tracks: true })
const own = (metadata: unknown): Record<string, unknown> => {
  const found = z.object({ yard_tally: z.record(z.string(), z.unknown()) }).safeParse(metadata)
  return found.success ? found.data.yard_tally : {}
}

/**
 * Timelines out of OpenTimelineIO JSON, for a document whose clips they show. What is ours comes back as it went out; what comes from
 * others is read as far as it is understood, and the rest is listed.
 */
export function fromOtio(text: string, doc: Doc, making: NewTimelineNames): OtioRead {
  let json: unknown
  try {
    json = JSON.parse(text)
  } catch {
    return { ok: false, error: 'It is no JSON. Nothing was changed.' }
  }
  const any = AnyObject.safeParse(json)
  if (!any.success)
    return { ok: false, error: 'It is no OpenTimelineIO file: it names no schema. Nothing was changed.' }
  const collected = firstTimeline(any.data)
  const found = OtioTimeline.safeParse(collected ?? json)
  if (!found.success) {
    const [issue] = found.error.issues
    const where = issue?.path.join('.') || 'its beginning'
    return {
      ok: false,
      error: `${any.data.OTIO_SCHEMA} cannot be read as a timeline: at ${where}, ${issue ? issueWords(issue) : 'it is none'}. Nothing was changed.`,
    }
  }
  const reader = readerOf(doc, making)
  const timeline = reader.timeline(found.data)
  const timelines = [...reader.inner, timeline]
  for (const timeline of timelines) {
    const parsed = Timeline.safeParse(timeline)
    if (!parsed.success)
      return {
        ok: false,
        error: `“${timeline.name}” cannot be kept so: ${departure(parsed.error)}. Nothing was changed.`,
      }
  }
  const wrong = nonsenseOf(timelines.reduce(withTimeline, doc))
  if (wrong) return { ok: false, error: `${wrong} Nothing was changed.` }
  return { ok: true, timelines, notes: reader.notes() }
}

/** The first timeline of a collection. */
function firstTimeline({ OTIO_SCHEMA, children }: AnyObject): unknown {
  if (OTIO_SCHEMA !== 'SerializableCollection.1' || !Array.isArray(children)) return null
  return children.find((child) => OtioTimeline.safeParse(child).success) ?? null
}

function readerOf(doc: Doc, making: NewTimelineNames) {
  const inner: Timeline[] = []
  /** What stacks became, and tracks that stand as one. */
  const innerTimelines = new Map<object, Timeline>()
  const stacks = new Map<object, OtioStack | null>()
  const counts = new Map<string, number>()
  const said: string[] = []
  /** Placements that come back as they went out. */
  const oursIds = new Set<string>()
  const count = (what: string) => void counts.set(what, (counts.get(what) ?? 0) + 1)
  const byName = new Map<string, Clip[]>()
  for (const clip of Object.values(doc.clips)) byName.set(clip.name, [...(byName.get(clip.name) ?? []), clip])

  /** The clip that a reference means: by the end of its place, else by its name. */
  function clipOf(reference: MediaReference | null, name: string): Clip | null {
    const url = reference?.target_url ?? ''
    const path = decoded(url.replace(/^[a-z]+:\/\/[^/]*/i, '').replace(/[?#].*$/, ''))
    const file = path.split('/').at(-1) ?? ''
    for (const wanted of [file, reference?.name ?? '', name]) {
      const known = byName.get(wanted) ?? []
      const near = known.find(({ folder }) => folder && path.endsWith(`${folder}/${file}`))
      if (near ?? known[0]) return near ?? known[0] ?? null
    }
    return null
  }

  /**
   * The rate of what is read: as it says, as its pictures are told, or as the document has it. Sound is told in samples, which are no
   * frames.
   */
  function rateFor(start: RationalTime | null | undefined, stack: OtioStack): Rate {
    const isRate = (rate: number) => rate <= 1000
    if (start && isRate(start.rate)) return exactRate(start.rate)
    const pictures = stack.children.flatMap((child) => {
      const track = OtioTrack.safeParse(child).data
      return track ? (track.kind === 'Audio' ? [] : track.children) : [child]
    })
    for (const child of pictures) {
      const range = Ranged.safeParse(child).data?.source_range
      if (range && isRate(range.duration.rate)) return exactRate(range.duration.rate)
    }
    return doc.project.format?.rate ?? rational(25)
  }

  function timeline({ name, metadata, global_start_time: start, tracks }: OtioTimeline): Timeline {
    const ours = OwnTimeline.safeParse(own(metadata).timeline)
    if (ours.success)
      return { ...ours.data, name: shortened(name || ours.data.name), tracks: tracksOf(tracks, ours.data, 0) }
    return foreign(name || making.name, tracks, rateFor(start, tracks), start ?? null, {
      depth: 0,
      window: windowOf(tracks.source_range),
    })
  }

  function foreign(
    name: string,
    stack: OtioStack,
    rate: Rate,
    start: RationalTime | null,
    { depth, window = null }: { readonly depth: number; readonly window?: SeenRange },
  ): Timeline {
    const follows = doc.project.format !== null && rateIs(doc.project.format.rate, rate)
    const format = doc.project.format && !follows ? { ...doc.project.format, rate } : null
    const fresh = newTimeline(making.newId(), shortened(name), making.at, format)
    const first = start ? roundHalfUp(multiply(secondsOf(start), rate)) : 0
    const settings = { ...fresh, rate, startTimecode: frameToTimecode(first, rate) }
    return { ...settings, tracks: tracksOf(stack, settings, depth, window) }
  }

  function tracksOf(
    stack: OtioStack,
    settings: Pick<Timeline, 'rate'>,
    depth: number,
    window: SeenRange = null,
  ): Track[] {
    const rate = settings.rate ?? rational(25)
    const numbers = { video: 0, audio: 0 }
    const tracks = stack.children.flatMap((child): Track[] => {
      const found = OtioTrack.safeParse(child)
      // What stands in a stack by itself is a layer like a track.
      const layer = found.data ?? asTrack(child)
      if (!layer) {
        count(child.OTIO_SCHEMA)
        return []
      }
      const { kind, name, enabled, metadata, children, effects } = layer
      for (const effect of effects ?? []) count(`${effect.OTIO_SCHEMA} of a track`)
      if (kind && kind !== 'Video' && kind !== 'Audio') {
        count(`track of ${kind}`)
        return []
      }
      const type = kind === 'Audio' ? 'audio' : 'video'
      const number = ++numbers[type]
      const ours = OwnTrack.safeParse(own(metadata).track)
      const placed = windowed(placementsOf(children, rate, depth), windowOf(layer.source_range), rate)
      return [
        {
          id: ours.success ? ours.data.id : making.newId(),
          kind: type,
          name: shortened(name ?? '') || `${type === 'video' ? 'V' : 'A'}${number}`,
          hidden: type === 'video' ? enabled === false : (ours.data?.hidden ?? false),
          muted: type === 'audio' ? enabled === false : (ours.data?.muted ?? false),
          locked: ours.success && ours.data.locked,
          placements: windowed(placed, window, rate),
        },
      ]
    })
    countMarkers(stack.markers)
    return paired(tracks, ({ id }) => !oursIds.has(id))
  }

  /** Markers of others are not kept; ours say what is found anew here. */
  function countMarkers(markers: readonly AnyObject[] | null | undefined): void {
    for (const marker of markers ?? []) {
      const read = Marker.safeParse(marker)
      if (!read.success) count(marker.OTIO_SCHEMA)
      else if (own(read.data.metadata).finding === undefined) count('of the markers, which are not kept here')
    }
  }

  function placementsOf(children: readonly AnyObject[], rate: Rate, depth: number): Placement[] {
    const placements: Placement[] = []
    let at = rational(0)
    for (const child of children) {
      const lasting = lastingOf(child, rate, depth)
      // Transitions lie over what is beside them and take no time of their own.
      if (!lasting) continue
      const start = roundHalfUp(multiply(at, rate))
      at = add(at, lasting)
      const length = roundHalfUp(multiply(at, rate)) - start
      if (length <= 0) continue
      const placed = placementOf(child, rate, depth)
      if (placed) placements.push({ ...placed, start, length })
    }
    return placements
  }

  /** A child that holds others, as a stack: a track within a track is one of a single track. */
  function asStack(child: AnyObject): OtioStack | null {
    const known = stacks.get(child)
    if (known !== undefined) return known
    const track = OtioTrack.safeParse(child).data
    const stack: OtioStack | null = track
      ? {
          ...{ OTIO_SCHEMA: 'Stack.1', name: track.name, metadata: track.metadata, enabled: track.enabled },
          ...{ effects: track.effects, markers: track.markers, source_range: track.source_range },
          children: [{ ...track, effects: [], markers: [], source_range: null, enabled: true }],
        }
      : (OtioStack.safeParse(child).data ?? null)
    stacks.set(child, stack)
    return stack
  }

  /** Seconds that a child of a track takes; null for what takes none. */
  function lastingOf(child: AnyObject, rate: Rate, depth: number): Rational | null {
    const range = z.object({ source_range: OtioTrack.shape.source_range }).safeParse(child)
    if (range.success && range.data.source_range) return secondsOf(range.data.source_range.duration)
    const clip = OtioClip.safeParse(child)
    const available = clip.success ? referenceOf(clip.data)?.available_range : null
    if (available) return secondsOf(available.duration)
    const stack = asStack(child)
    if (stack && depth < deepestNesting) {
      const within = innerOf(stack, rate, depth)
      return divide(rational(lengthOf(within)), within.rate ?? rate)
    }
    if (child.OTIO_SCHEMA.startsWith('Transition.')) count('transition, a cut here')
    else if (!clip.success) count(child.OTIO_SCHEMA)
    else said.push(`“${child.name ?? 'a clip'}” does not say how long it is and was left out.`)
    return null
  }

  function placementOf(
    child: AnyObject,
    rate: Rate,
    depth: number,
  ): Omit<Placement, 'start' | 'length'> | null {
    if (OtioGap.safeParse(child).success) return null
    const clip = OtioClip.safeParse(child)
    const stack = clip.success ? null : asStack(child)
    const item = clip.data ?? stack
    if (!item) {
      count(child.OTIO_SCHEMA)
      return null
    }
    const { enabled, metadata, markers, effects, source_range: range } = item
    const ours = OwnPlacement.safeParse(own(metadata).placement)
    const treatment = Placement.unwrap().shape.treatment.safeParse(own(metadata).treatment)
    countMarkers(markers)
    if (enabled === false && !ours.success) {
      count('item that is switched off, a gap here')
      return null
    }
    if (ours.success && treatment.success) {
      const { source } = ours.data
      if (source.kind === 'timeline' && stack) innerOf(stack, rate, depth)
      if (source.kind !== 'clip' || doc.clips[source.clipId]) {
        oursIds.add(ours.data.id)
        return { ...ours.data, treatment: treatment.data }
      }
    }
    const fresh = { id: making.newId(), framingByShape: {}, gain: 0, channels: null, pairId: null }
    if (stack) {
      if (depth >= deepestNesting) return null
      const innerTimeline = innerOf(stack, rate, depth)
      const sourceIn = range ? secondsOf(range.start_time) : rational(0)
      return {
        ...fresh,
        source: { kind: 'timeline', timelineId: innerTimeline.id },
        sourceIn,
        treatment: speedOf(effects, rational(1)),
      }
    }
    const reference = clip.success ? referenceOf(clip.data) : null
    const name = child.name || reference?.name || 'a clip'
    const source = clipOf(reference, child.name ?? '')
    if (!source) {
      said.push(`“${name}” is not among the clips: a gap stands in its place.`)
      return null
    }
    const clock = fileClock(source)
    return {
      ...fresh,
      source: { kind: 'clip', clipId: source.id },
      sourceIn: clock.inClip(sourceInOf(range ?? null, reference, source)),
      treatment: speedOf(effects, clock.factor ?? rational(1)),
    }
  }

  /** A timeline that is shown within another. */
  function innerOf(stack: OtioStack, rate: Rate, depth: number): Timeline {
    const ours = OwnTimeline.safeParse(own(stack.metadata).timeline)
    const known = ours.success ? inner.find(({ id }) => id === ours.data.id) : innerTimelines.get(stack)
    if (known) return known
    const ownTimeline = ours.success
      ? { ...ours.data, tracks: tracksOf(stack, ours.data, depth + 1) }
      : foreign(stack.name || 'Inner', stack, rate, null, { depth: depth + 1 })
    inner.push(ownTimeline)
    innerTimelines.set(stack, ownTimeline)
    return ownTimeline
  }

  /** What effects come to: a speed; all else is listed. */
  function speedOf(
    effects: readonly AnyObject[] | null | undefined,
    correction: Rational,
  ): Placement['treatment'] {
    let factor = rational(1)
    for (const effect of effects ?? []) {
      const warp = LinearTimeWarp.safeParse(effect)
      if (warp.success && warp.data.time_scalar > 0)
        factor = multiply(factor, nearestRational(warp.data.time_scalar, 1e-9))
      else count(warp.success ? 'speed that stands or runs backwards' : effect.OTIO_SCHEMA)
    }
    const passing = divide(factor, correction)
    if (passing.num === passing.den) return {}
    return {
      motion: { kind: 'speed', pace: { kind: 'factor', factor: passing }, wanted: true, keepPitch: false },
    }
  }

  return {
    inner,
    timeline,
    notes: () => [
      ...said,
      ...[...counts].map(([what, times]) => `Not understood: ${counted(times, what, what)}.`),
    ],
  }
}
