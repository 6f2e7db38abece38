import { type Clip, claimsOf } from '../model/clip'
import { type Doc, formatOf, sourceName } from '../model/project'
import { settling, timingOfPlacement } from '../plan/running'
import { spanOf } from '../plan/span'
import { fileClock } from '../model/timing'
import { type Placement, type Timeline, type Track, timecodeAt } from '../model/timeline'
import { speedOver } from '../motion/shown'
import type { Rate } from '../rate/rate'
import { nominalRate } from '../rate/timecode'
import { type Rational, equal, rational, toNumber } from '../rational/rational'
import { counted } from '../words/figures'
import { labelAt, momentOf } from './edl-labels'
import { speedIn } from './edl-speed'

/** An edit decision list as CMX 3600 has it, and what of the cut it cannot say. */
export interface EdlWritten {
  readonly text: string
  readonly leavesOut: readonly string[]
}

const mostEvents = 9999
const reelLength = 8

/** A name of eight letters and figures for each source, no two alike. */
function reels(): (clip: Clip | null, name: string) => string {
  const known = new Map<string, string>()
  // These mean that nothing is shown.
  const taken = new Set(['BL', 'BLACK'])
  /** The first number that may be free, by the letters before it and how many figures it has. */
  const free = new Map<string, number>()

  /** The same letters with the lowest number that no other has. */
  function numbered(base: string): string {
    for (let figures = 1; ; figures++) {
      const letters = base.slice(0, reelLength - figures)
      const key = `${letters} ${figures}`
      for (let n = free.get(key) ?? Math.max(2, 10 ** (figures - 1)); n < 10 ** figures; n++) {
        free.set(key, n + 1)
        if (!taken.has(`${letters}${n}`)) return `${letters}${n}`
      }
    }
  }
  return (clip, name) => {
    const key = clip?.id ?? name
    const before = known.get(key)
    if (before) return before
    const stated = clip ? claimsOf(clip)?.reel : null
    const base = (stated || name.replace(/\.[^.]*$/, '')).toUpperCase().replace(/[^A-Z0-9]/g, '') || 'AX'
    const plain = base.slice(0, reelLength)
    const reel = taken.has(plain) ? numbered(base) : plain
    taken.add(reel)
    known.set(key, reel)
    return reel
  }
}

/** What is written as one event: a picture, a sound, or both of one link where they lie alike. */
interface Event {
  readonly placement: Placement
  readonly picture: boolean
  /** The channels on which its sound is recorded; null where there is none. */
  readonly sounds: readonly number[] | null
}

/** What of a cut cannot be told apart in events, by why. */
interface Left {
  /** Sounds for which no channel was free. */
  readonly unheard: Placement[]
  /** Sounds whose channels a list has no word for. */
  readonly channels: Placement[]
  readonly unlinked: Placement[]
}

const liesAlike = (a: Placement, b: Placement): boolean =>
  a.pairId !== null &&
  a.pairId === b.pairId &&
  a.start === b.start &&
  a.length === b.length &&
  equal(a.sourceIn, b.sourceIn)

/**
 * The events of a timeline: its lowest track of pictures, and sound on four channels, two for each sound that is on at once. What finds no
 * channel is left out and told.
 */
function eventsOf({ tracks }: Timeline): { events: readonly Event[]; above: Track[]; left: Left } {
  const [pictures, ...above] = tracks.filter(({ kind, hidden }) => kind === 'video' && !hidden)
  const left: Left = { unheard: [], channels: [], unlinked: [] }
  /** Up to which frame each channel is taken. */
  const busy = [0, 0, 0, 0]
  const shown = pictures?.placements ?? []
  const pictureOf = new Map(
    shown.flatMap((placement) => (placement.pairId === null ? [] : [[placement.pairId, placement] as const])),
  )
  const withPicture = new Map<Placement, readonly number[]>()
  const alone: Event[] = []
  const heard = tracks
    .filter(({ kind, muted }) => kind === 'audio' && !muted)
    .flatMap(({ placements }, row) => placements.map((placement) => ({ placement, row })))
    .sort((a, b) => a.placement.start - b.placement.start || a.row - b.row)
  for (const { placement, row } of heard) {
    const { start, length, channels, pairId } = placement
    const wanted = channelsFor(channels, row)
    const free = wanted.find((channels) =>
      channels.every((channel) => (busy[channel - 1] ?? Infinity) <= start),
    )
    if (!free) {
      left.unheard.push(placement)
      continue
    }
    for (const channel of free) busy[channel - 1] = start + length
    if (channels && !channels.every((channel, i) => free[i] === channel + 1)) left.channels.push(placement)
    const picture = pairId === null ? undefined : pictureOf.get(pairId)
    if (picture && liesAlike(picture, placement) && !withPicture.has(picture)) withPicture.set(picture, free)
    else {
      if (pairId !== null) left.unlinked.push(placement)
      alone.push({ placement, picture: false, sounds: free })
    }
  }
  const events = [
    ...shown.map((placement) => ({ placement, picture: true, sounds: withPicture.get(placement) ?? null })),
    ...alone,
  ].sort((a, b) => a.placement.start - b.placement.start)
  return { events, above, left }
}

/** The channels on which a sound may be recorded, those of its track first. */
function channelsFor(channels: Placement['channels'], row: number): readonly (readonly number[])[] {
  if (channels?.length === 1) {
    const [channel = 0] = channels
    return [[channel + 1], ...[1, 2, 3, 4].filter((other) => other !== channel + 1).map((other) => [other])]
  }
  const pairs = [
    [1, 2],
    [3, 4],
  ]
  return row === 1 ? pairs.toReversed() : pairs
}

/** How channels are written: in the line, and in a further one. */
function channelWords(
  picture: boolean,
  sounds: readonly number[] | null,
): { field: string; more: string | null } {
  const key = sounds?.join(' ') ?? ''
  const short = { '1': 'A', '2': 'A2', '1 2': 'AA' }[key]
  if (short) return { field: picture ? `${short}/V` : short, more: null }
  return { field: picture ? 'V' : 'NONE', more: sounds ? `AUD  ${sounds.join('    ')}` : null }
}

/** The events of a timeline as a list, and what it cannot say. */
export function toEdl(doc: Doc, timeline: Timeline): EdlWritten {
  const format = formatOf(doc, timeline)
  const rate = timeline.rate
  if (!format || !rate) return { text: '', leavesOut: ['The timeline has no format yet.'] }
  const reelOf = reels()
  const settle = settling(doc, timeline, format)
  const { events, above, left } = eventsOf(timeline)
  const isShared = sharedNames(Object.values(doc.clips))
  const rounded = { speed: 0, label: 0 }
  const lines = [
    `TITLE: ${timeline.name.replace(/[\r\n]+/g, ' ')}`,
    `FCM: ${timeline.dropFrame ? 'DROP FRAME' : 'NON-DROP FRAME'}`,
  ]
  events.slice(0, mostEvents).forEach(({ placement, picture, sounds }, i) => {
    const { source, sourceIn, start, length } = placement
    const isStill = timingOfPlacement(doc, placement).kind === 'still'
    const clip = source.kind === 'clip' ? (doc.clips[source.clipId] ?? null) : null
    const name = sourceName(doc, source)
    const { way } = settle(placement)
    const { from, to, speed } = spanOf(doc, timeline, placement, way)
    const reel = reelOf(clip, name)
    const number = String(i + 1).padStart(3, '0')
    const times = [
      labelAt(clip, from, rate),
      labelAt(clip, to, rate),
      timecodeAt(timeline, start),
      timecodeAt(timeline, start + length),
    ]
    const { field, more } = channelWords(picture, sounds)
    lines.push(`${number}  ${reel.padEnd(reelLength)} ${field.padEnd(5)} C        ${times.join(' ')}`)
    if (more) lines.push(more)
    if (!equal(speed, rational(1))) {
      const perSecond = nominalRate(rate) * toNumber(speed)
      lines.push(
        `M2   ${reel.padEnd(reelLength)} ${perSecond.toFixed(1).padStart(5, '0')}                ${times[0]}`,
      )
    }
    lines.push(`* FROM CLIP NAME: ${name}`)
    if (clip && isShared(clip))
      lines.push(`* SOURCE FILE: ${clip.folder ? `${clip.folder}/` : ''}${clip.name}`)
    const asRead = readBack(clip, times, speed, { length, rate })
    if (asRead && !isStill) {
      if (!equal(asRead.sourceIn, sourceIn)) rounded.label++
      const own = speedOver({ sourceIn, way }, timingOfPlacement(doc, placement), rate, length)
      if (!equal(asRead.speed, own)) rounded.speed++
    }
  })
  const said = events.map(({ placement }) => placement)
  return { text: `${lines.join('\n')}\n`, leavesOut: leftOut(doc, timeline, { above, said }, left, rounded) }
}

/** What a reader makes of an event: so it is known what it will lose. */
function readBack(
  clip: Clip | null,
  [from = '', to = '']: readonly string[],
  speed: Rational,
  { length, rate }: { readonly length: number; readonly rate: Rate },
) {
  const [begin, end] = clip ? [momentOf(clip, from, rate), momentOf(clip, to, rate)] : [null, null]
  if (!clip || !begin) return null
  const correction = fileClock(clip).factor ?? rational(1)
  const stated = equal(speed, rational(1)) ? null : Number((nominalRate(rate) * toNumber(speed)).toFixed(1))
  const source = end && { from: begin, to: end }
  return { sourceIn: begin, speed: speedIn(stated, source, { length, rate, correction }) }
}

/** Whether another clip bears the name of one. */
function sharedNames(clips: readonly Clip[]): (clip: Clip) => boolean {
  const counts = new Map<string, number>()
  for (const { name } of clips) counts.set(name.toUpperCase(), (counts.get(name.toUpperCase()) ?? 0) + 1)
  return ({ name }) => (counts.get(name.toUpperCase()) ?? 0) > 1
}

/** What events cannot say. */
function leftOut(
  doc: Doc,
  timeline: Timeline,
  { above, said }: { readonly above: readonly Track[]; readonly said: readonly Placement[] },
  { unheard, channels, unlinked }: Left,
  rounded: { readonly speed: number; readonly label: number },
): string[] {
  const over = above.flatMap(({ placements }) => placements)
  const heard = timeline.tracks.filter(({ kind }) => kind === 'audio').flatMap(({ placements }) => placements)
  const framed = said.filter(
    ({ treatment: { framing, colour, fields, motion }, framingByShape }) =>
      framing ||
      colour ||
      fields ||
      (motion && motion.kind !== 'speed') ||
      Object.keys(framingByShape).length > 0,
  )
  const nested = said.filter(({ source }) => source.kind !== 'clip')
  const louder = [...new Set([...said, ...heard])].filter(({ gain }) => gain !== 0)
  const pitch = said.filter(({ treatment: { motion } }) => motion?.kind === 'speed' && motion.keepPitch)
  const offAir = timeline.tracks.filter(
    ({ hidden, muted, placements }) => (hidden || muted) && placements.length > 0,
  )
  const namesAt = (placements: readonly Placement[]) =>
    placements
      .slice(0, 3)
      .map((placement) => `${sourceName(doc, placement.source)} at ${timecodeAt(timeline, placement.start)}`)
      .join(', ')
  return [
    over.length ? `${counted(over.length, 'picture')} on tracks above the first: ${namesAt(over)}` : '',
    unheard.length
      ? `${counted(unheard.length, 'sound')} that ${unheard.length === 1 ? 'is' : 'are'} on while all four channels are taken: ${namesAt(unheard)}`
      : '',
    framed.length ? `framing, fields, motion or colour of ${counted(framed.length, 'placement')}` : '',
    timeline.rules.length || Object.keys(timeline.treatment).length
      ? 'defaults and rules of the timeline'
      : '',
    nested.length
      ? `what ${counted(nested.length, 'placed timeline or figure', 'placed timelines and figures')} show: they stand as one source`
      : '',
    louder.length ? `gain of ${counted(louder.length, 'placement')}` : '',
    channels.length ? `channels of ${counted(channels.length, 'sound')}` : '',
    pitch.length ? `kept pitch of ${counted(pitch.length, 'placement')}` : '',
    unlinked.length
      ? `links of ${counted(unlinked.length, 'sound')} that do not begin and end with their picture`
      : '',
    offAir.length ? `what is on ${counted(offAir.length, 'hidden or muted track')}` : '',
    rounded.label
      ? `in-points of ${counted(rounded.label, 'event')} between frames of the list: they begin up to a frame early or late`
      : '',
    rounded.speed
      ? `speeds of ${counted(rounded.speed, 'event')} that a tenth of a frame a second does not tell`
      : '',
    said.length > mostEvents ? `all events beyond ${mostEvents}` : '',
  ].filter(Boolean)
}
