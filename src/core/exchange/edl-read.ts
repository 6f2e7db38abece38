import { type Clip, claimsOf } from '../edit/clip'
import { withTimeline } from '../edit/carrying'
import type { Making } from '../edit/nesting'
import { newTimeline } from '../edit/placing'
import type { Doc } from '../edit/project'
import { nonsenseOf } from '../edit/sense'
import type { Placement, Timeline } from '../edit/timeline'
import type { Rate } from '../rate/rate'
import { timecodeToFrame } from '../rate/timecode'
import { nearestRational, rational } from '../rational/rational'
import { counted } from '../words/figures'
import { labelAt } from './edl'

export type EdlRead =
  | { readonly ok: true; readonly timeline: Timeline; readonly notes: readonly string[] }
  | { readonly ok: false; readonly error: string }

/** One event: its reel, channels, kind of edit, four times; then its speed and its name as they follow. */
interface Event {
  readonly line: number
  readonly reel: string
  readonly channels: string
  readonly edit: string
  readonly times: readonly [string, string, string, string]
  perSecond: number | null
  name: string | null
}

const time = String.raw`(\d\d[:;]\d\d[:;]\d\d[:;.]\d\d)`
const eventLine = new RegExp(
  String.raw`^\s*\d{1,6}\s+(\S+)\s+(\S+)\s+(C|D|W\d+|K[BO]?)\s*(?:\d+)?\s+${time}\s+${time}\s+${time}\s+${time}`,
  'i',
)
const speedLine = /^M2\s+(\S+)\s+(-?\d+(?:\.\d+)?)/i
const nameLine = /^\*\s*(?:FROM|TO)?\s*CLIP NAME:\s*(.+?)\s*$/i

/**
 * A timeline out of an edit decision list (CMX 3600), for a document whose clips it shows. A list says no rate: its times are taken to be
 * of the project’s, or of the first clip that it names.
 */
export function fromEdl(text: string, doc: Doc, making: Making): EdlRead {
  const events: Event[] = []
  const notes: string[] = []
  let title = making.name
  let dropFrame = false
  let unknown = 0
  text.split(/\r?\n/).forEach((line, i) => {
    const last = events.at(-1)
    const event = eventLine.exec(line)
    if (event) {
      const [, reel = '', channels = '', edit = '', a = '', b = '', c = '', d = ''] = event
      events.push({ line: i + 1, reel, channels, edit, times: [a, b, c, d], perSecond: null, name: null })
      return
    }
    const [, named] = nameLine.exec(line) ?? []
    const [, , speed] = speedLine.exec(line) ?? []
    const [, called] = /^TITLE:\s*(.+?)\s*$/i.exec(line) ?? []
    const [, counting] = /^FCM:\s*(NON-)?DROP/i.exec(line) ?? []
    if (called !== undefined) title = called
    else if (/^FCM:/i.test(line)) dropFrame = counting === undefined
    else if (named !== undefined && last) last.name ??= named
    else if (speed !== undefined && last) last.perSecond = Number(speed)
    else if (line.trim() && !line.startsWith('*')) unknown++
  })
  if (events.length === 0)
    return { ok: false, error: 'It holds no event of an edit decision list. Nothing was changed.' }
  if (unknown) notes.push(`Not understood: ${counted(unknown, 'line')}.`)

  const byName = new Map<string, Clip>()
  for (const clip of Object.values(doc.clips))
    for (const name of [claimsOf(clip)?.reel, clip.name.replace(/\.[^.]*$/, ''), clip.name])
      if (name) byName.set(name.toUpperCase(), clip)
  const clipOf = ({ name, reel }: Event): Clip | null =>
    (name ? byName.get(name.toUpperCase()) : undefined) ??
    byName.get(reel.toUpperCase()) ??
    [...byName].find(([known]) => known.replace(/[^A-Z0-9]/g, '').startsWith(reel.toUpperCase()))?.[1] ??
    null
  const named = events.map(clipOf).find((clip) => clip?.reading?.video?.rate)
  const rate: Rate = doc.project.format?.rate ?? named?.reading?.video?.rate ?? rational(25)
  const counts = dropFrame && /^(30000|60000)$/.test(String(rate.num))
  const frameOf = (label: string) => timecodeToFrame(label.replace('.', ':'), rate, counts) ?? 0
  const first = Math.min(...events.map(({ times }) => frameOf(times[2])))

  const pictures: Placement[] = []
  const sounds: Placement[] = []
  let softened = 0
  for (const event of events) {
    if (/^(BL|BLACK)$/i.test(event.reel)) continue
    if (!/^C$/i.test(event.edit)) softened++
    const start = frameOf(event.times[2]) - first
    const length = frameOf(event.times[3]) - first - start
    if (length <= 0) continue
    const clip = clipOf(event)
    if (!clip) {
      notes.push(
        `Line ${event.line}: “${event.name ?? event.reel}” is not among the clips: a gap stands in its place.`,
      )
      continue
    }
    const hasPicture = /V|B|NONE/i.test(event.channels)
    const hasSound = /^(A|B)/i.test(event.channels)
    const pairId = hasPicture && hasSound ? making.newId() : null
    const placed = (): Placement => ({
      id: making.newId(),
      source: { kind: 'clip', clipId: clip.id },
      start,
      length,
      sourceIn: sourceInOf(clip, event.times[0], rate),
      treatment: speedOf(event, rate),
      framingByShape: {},
      gain: 0,
      channels: null,
      pairId,
    })
    if (hasPicture) put(pictures, placed(), notes, event.line)
    if (hasSound) put(sounds, placed(), notes, event.line)
  }
  const standing = events.filter(({ perSecond }) => perSecond !== null && perSecond <= 0).length
  if (standing)
    notes.push(
      `Not understood: ${counted(standing, 'speed that stands or runs backwards', 'speeds that stand or run backwards')}.`,
    )
  if (softened)
    notes.push(`Not understood: ${counted(softened, 'dissolve or wipe', 'dissolves and wipes')}, cuts here.`)
  const timeline = newTimeline(making.newId(), title, making.at, null)
  const earliest = events.find(({ times }) => frameOf(times[2]) === first)
  const made: Timeline = {
    ...timeline,
    rate,
    ownFormat: null,
    startTimecode: (earliest?.times[2] ?? '00:00:00:00').replace('.', ':'),
    dropFrame: counts,
    tracks: timeline.tracks.map((track) => ({
      ...track,
      placements: [...(track.kind === 'video' ? pictures : sounds)].sort((a, b) => a.start - b.start),
    })),
  }
  const wrong = nonsenseOf(withTimeline(doc, made))
  return wrong ? { ok: false, error: `${wrong} Nothing was changed.` } : { ok: true, timeline: made, notes }
}

/** Puts a placement on a track where there is room for it. */
function put(track: Placement[], placement: Placement, notes: string[], line: number): void {
  const end = placement.start + placement.length
  const lies = track.some((one) => one.start < end && placement.start < one.start + one.length)
  if (lies) notes.push(`Line ${line}: it lies over another event and was left out.`)
  else track.push(placement)
}

/** Seconds into a clip that a label of it means: from its own first one, else from zero. */
function sourceInOf(clip: Clip, label: string, rate: Rate) {
  const begins = labelAt(clip, rational(0), rate)
  const frames = (text: string) => timecodeToFrame(text.replace(/[;.]/g, ':'), rate) ?? 0
  const told = claimsOf(clip)?.timecode
  const at = told ? frames(label) - frames(begins) : frames(label)
  return rational(Math.max(0, at) * rate.den, rate.num)
}

function speedOf({ perSecond }: Event, rate: Rate): Placement['treatment'] {
  const nominal = Math.round(rate.num / rate.den)
  if (perSecond === null || perSecond <= 0 || Math.abs(perSecond - nominal) < 0.05) return {}
  const factor = nearestRational(perSecond / nominal, 1e-3)
  return { motion: { kind: 'speed', pace: { kind: 'factor', factor }, wanted: true, keepPitch: false } }
}
