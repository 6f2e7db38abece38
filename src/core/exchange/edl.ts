import { type Clip, claimsOf } from '../edit/clip'
import { type Doc, formatOf, sourceName } from '../edit/project'
import { settling, timingOfPlacement } from '../edit/running'
import { type Placement, type Timeline, timecodeAt } from '../edit/timeline'
import { speedOf } from '../motion/shown'
import type { Rate } from '../rate/rate'
import { frameToTimecode, timecodeToFrame } from '../rate/timecode'
import { add, multiply, rational, roundHalfUp, toNumber } from '../rational/rational'
import { counted } from '../words/figures'

/** An edit decision list as CMX 3600 has it, and what of the cut it cannot say. */
export interface EdlWritten {
  readonly text: string
  readonly leavesOut: readonly string[]
}

const mostEvents = 9999
const reelLength = 8

/** Labels of a source at another rate: hours, minutes and seconds stay, frames are counted within the second. */
export function labelAt(clip: Clip | null, seconds: { num: number; den: number }, rate: Rate): string {
  const claims = clip && claimsOf(clip)
  const clock = claims?.video?.rate ?? rate
  const told = claims?.timecode
  const first = told ? (timecodeToFrame(told.start, clock, told.dropFrame) ?? 0) : 0
  const nominal = (of: Rate) => Math.round(toNumber(of))
  const frame = roundHalfUp(add(rational(first), multiply(seconds, clock)))
  const label = frameToTimecode(frame, clock, told?.dropFrame ?? false)
  const [hours = '', minutes = '', secondsIn = '', frames = ''] = label.split(/[:;]/)
  const within = Math.floor((Number(frames) * nominal(rate)) / nominal(clock))
  return [hours, minutes, secondsIn, String(within).padStart(2, '0')].join(':')
}

/** A name of eight letters and figures for each source, no two alike. */
function reels(): (clip: Clip | null, name: string) => string {
  const known = new Map<string, string>()
  const taken = new Set<string>()
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

/** The events of a timeline: its lowest track of pictures, and sound that is not of one of them. */
export function toEdl(doc: Doc, timeline: Timeline): EdlWritten {
  const format = formatOf(doc, timeline)
  const rate = timeline.rate
  if (!format || !rate) return { text: '', leavesOut: ['The timeline has no format yet.'] }
  const reelOf = reels()
  const settle = settling(doc, timeline, format)
  const [pictures, ...above] = timeline.tracks.filter(({ kind, hidden }) => kind === 'video' && !hidden)
  const sounds = timeline.tracks.filter(({ kind, muted }) => kind === 'audio' && !muted)
  const heard = sounds.flatMap(({ placements }) => placements)
  const keyOf = ({ start, length, pairId }: Placement) => `${start} ${length} ${pairId}`
  const paired = new Set(heard.filter(({ pairId }) => pairId !== null).map(keyOf))
  const shown = pictures?.placements ?? []
  const withPicture = new Set(shown.filter((one) => one.pairId !== null).map(keyOf))
  const alone = heard.filter((one) => !withPicture.has(keyOf(one)))
  const events = [
    ...shown.map((placement) => ({ placement, channels: paired.has(keyOf(placement)) ? 'AA/V' : 'V' })),
    ...alone.map((placement) => ({ placement, channels: 'AA' })),
  ].sort((a, b) => a.placement.start - b.placement.start)
  const lines = [
    `TITLE: ${timeline.name.replace(/[\r\n]+/g, ' ')}`,
    `FCM: ${timeline.dropFrame ? 'DROP FRAME' : 'NON-DROP FRAME'}`,
  ]
  events.slice(0, mostEvents).forEach(({ placement, channels }, i) => {
    const { source, sourceIn, start, length } = placement
    const clip = source.kind === 'clip' ? (doc.clips[source.clipId] ?? null) : null
    const name = sourceName(doc, source)
    const { way } = settle(placement)
    const speed = speedOf(way, timingOfPlacement(doc, placement), rate)
    const lasting = multiply(rational(length, 1), multiply(speed, rational(rate.den, rate.num)))
    const reel = reelOf(clip, name)
    const number = String(i + 1).padStart(3, '0')
    const times = [
      labelAt(clip, sourceIn, rate),
      labelAt(clip, add(sourceIn, lasting), rate),
      timecodeAt(timeline, start),
      timecodeAt(timeline, start + length),
    ]
    lines.push(`${number}  ${reel.padEnd(reelLength)} ${channels.padEnd(5)} C        ${times.join(' ')}`)
    if (speed.num !== speed.den) {
      const perSecond = (Math.round(toNumber(rate)) * toNumber(speed)).toFixed(1).padStart(5, '0')
      lines.push(`M2   ${reel.padEnd(reelLength)} ${perSecond}                ${times[0]}`)
    }
    lines.push(`* FROM CLIP NAME: ${name}`)
  })
  return {
    text: `${lines.join('\n')}\n`,
    leavesOut: leftOut(
      doc,
      timeline,
      above,
      events.map(({ placement }) => placement),
    ),
  }
}

/** What events cannot say. */
function leftOut(
  doc: Doc,
  timeline: Timeline,
  above: readonly Timeline['tracks'][number][],
  said: readonly Placement[],
): string[] {
  const over = above.flatMap(({ placements }) => placements)
  const framed = said.filter(({ treatment }) => treatment.framing || treatment.colour || treatment.fields)
  const nested = said.filter(({ source }) => source.kind !== 'clip')
  const louder = said.filter(({ gain }) => gain !== 0)
  return [
    over.length
      ? `${counted(over.length, 'picture')} on tracks above the first: ${over
          .slice(0, 3)
          .map((one) => `${sourceName(doc, one.source)} at ${timecodeAt(timeline, one.start)}`)
          .join(', ')}`
      : '',
    framed.length ? `framing, fields or colour of ${counted(framed.length, 'placement')}` : '',
    timeline.rules.length || Object.keys(timeline.treatment).length
      ? 'defaults and rules of the timeline'
      : '',
    nested.length
      ? `what ${counted(nested.length, 'placed timeline or figure', 'placed timelines and figures')} show: they stand as one source`
      : '',
    louder.length ? `gain of ${counted(louder.length, 'placement')}` : '',
    said.length > mostEvents ? `all events beyond ${mostEvents}` : '',
  ].filter(Boolean)
}
