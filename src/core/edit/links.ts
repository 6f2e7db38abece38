import { deepEqual } from '../equality'
import { sourceTimeAfter, speedOf } from '../motion/shown'
import { divide, multiply, toNumber } from '../rational/rational'
import type { Override } from '../treatment/treatment'
import type { Draft } from './draft'
import {
  isHeardInStep,
  isInStep,
  magnitude,
  momentAt,
  overlap,
  plainlyInStep,
  runningIn,
  sameSource,
} from '../plan/in-step'
import { type Doc, formatOf } from '../model/project'
import { type Placement, type Timeline, type Track, placementsIn } from '../model/timeline'

/**
 * Links: one picture and its own sounds, which run in step. Operations change placements; what that means for their links is put right
 * here, once, after each of them: halves of a cut are linked each with its own, sounds run as fast as their picture and stand where it
 * stands in the source, and what cannot is linked no more.
 */

/** A placement with the track that it stands on. */
interface Member {
  readonly track: Track
  readonly placement: Placement
}

/** All of a timeline that bear one link. */
interface Group {
  readonly pictures: Member[]
  readonly sounds: Member[]
}

function groupsOf({ tracks }: Timeline): Map<string, Group> {
  const groups = new Map<string, Group>()
  for (const track of tracks)
    for (const placement of track.placements) {
      if (placement.pairId === null) continue
      let group = groups.get(placement.pairId)
      if (!group) groups.set(placement.pairId, (group = { pictures: [], sounds: [] }))
      group[track.kind === 'video' ? 'pictures' : 'sounds'].push({ track, placement })
    }
  return groups
}

const isPlain = ({ pictures: [picture, second], sounds }: Group): boolean =>
  picture !== undefined &&
  second === undefined &&
  sounds.length > 0 &&
  sounds.every(({ placement }) => plainlyInStep(picture.placement, placement))

/** What is written into a placement; null where it stays as it is. */
type Fix = Partial<Pick<Placement, 'pairId' | 'sourceIn' | 'start' | 'length'>> & {
  readonly treatment?: Override
}

/** What becomes of the placements of a timeline, so that each link is one: by id, and sounds that become two. */
interface Fixes {
  readonly set: Map<string, Fix>
  /** The later parts of sounds that were cut, by the track that they stand on. */
  readonly added: { readonly trackId: string; readonly placement: Placement }[]
}

/** A sound that runs under several pictures of its own, cut where each of the later ones begins. */
function partsUnder(
  doc: Doc,
  timeline: Timeline,
  sound: Member,
  pictures: readonly Member[],
  { newId, fixes }: { readonly newId: () => string; readonly fixes: Fixes },
): Member[] {
  const whole = sound.placement
  const under = pictures.filter(
    ({ placement }) => sameSource(placement.source, whole.source) && overlap(placement, whole) > 0,
  )
  const edges = under
    .slice(1)
    .map(({ placement }) => placement.start)
    .filter((edge) => edge > whole.start)
  const running = runningIn(doc, timeline, whole)
  if (sound.track.locked || edges.length === 0 || !running) return [sound]
  const starts = [whole.start, ...edges]
  return starts.map((start, i): Member => {
    const length = (starts[i + 1] ?? whole.start + whole.length) - start
    if (i === 0) {
      fixes.set.set(whole.id, { length })
      return { ...sound, placement: { ...whole, length } }
    }
    const sourceIn = sourceTimeAfter(running, running.timing, running.rate, start - whole.start)
    const placement = { ...whole, id: newId(), start, length, sourceIn }
    fixes.added.push({ trackId: sound.track.id, placement })
    return { ...sound, placement }
  })
}

/**
 * A sound brought into step with its picture: as fast, and from where the picture stands in the source. What of it would begin before
 * the source does is cut off.
 * @returns null where it cannot be
 */
function broughtIntoStep(doc: Doc, timeline: Timeline, picture: Placement, sound: Placement): Fix | null {
  const { motion, fields } = picture.treatment
  const { motion: _motion, fields: _fields, ...others } = sound.treatment
  const treatment = { ...others, ...(motion ? { motion } : {}), ...(fields ? { fields } : {}) }
  const moment = momentAt(doc, timeline, picture, sound.start)
  if (!moment) return null
  if (moment.num >= 0) return { treatment, sourceIn: moment }
  const running = runningIn(doc, timeline, picture)
  if (!running) return null
  const { way, timing, rate } = running
  const late = Math.ceil(
    toNumber(divide(multiply(magnitude(moment), rate), speedOf(way, timing, rate))) - 1e-9,
  )
  const start = sound.start + late
  const sourceIn = momentAt(doc, timeline, picture, start)
  return late < sound.length && sourceIn && sourceIn.num >= 0
    ? { treatment, sourceIn, start, length: sound.length - late }
    : null
}

/** Works out what becomes of one group. @param wasOne whether two of it were linked, and in step, before the edit */
function settleGroup(
  doc: Doc,
  timeline: Timeline,
  link: string,
  {
    group,
    wasOne,
  }: { readonly group: Group; readonly wasOne: (picture: Placement, sound: Placement) => boolean },
  { newId, fixes }: { readonly newId: () => string; readonly fixes: Fixes },
): void {
  const pictures = [...group.pictures].sort((a, b) => a.placement.start - b.placement.start)
  const own = new Map(pictures.map((picture) => [picture, [] as Member[]]))
  const fix = (placement: Placement, set: Fix) => {
    const added = fixes.added.find((sound) => sound.placement.id === placement.id)
    if (added) Object.assign(added, { placement: { ...added.placement, ...set } })
    else fixes.set.set(placement.id, { ...fixes.set.get(placement.id), ...set })
  }
  const sounds = group.sounds.flatMap((sound) =>
    pictures.length > 1 ? partsUnder(doc, timeline, sound, pictures, { newId, fixes }) : [sound],
  )
  for (const sound of sounds) {
    const [nearest] = pictures
      .filter(({ placement }) => sameSource(placement.source, sound.placement.source))
      .sort((a, b) => overlap(b.placement, sound.placement) - overlap(a.placement, sound.placement))
    const isOf =
      nearest &&
      (plainlyInStep(nearest.placement, sound.placement) ||
        keepsStep(doc, timeline, nearest.placement, sound, { wasOne, fix }))
    if (isOf) own.get(nearest)?.push(sound)
    else fix(sound.placement, { pairId: null })
  }
  let isFirst = true
  for (const [{ placement }, heard] of own) {
    const pairId = heard.length === 0 ? null : isFirst ? link : newId()
    if (pairId !== null) isFirst = false
    for (const member of [placement, ...heard.map((sound) => sound.placement)])
      if (member.pairId !== pairId) fix(member, { pairId })
  }
}

/** Whether a sound is in step with its picture, or was and is brought there again. */
function keepsStep(
  doc: Doc,
  timeline: Timeline,
  picture: Placement,
  { track, placement: sound }: Member,
  {
    wasOne,
    fix,
  }: {
    readonly wasOne: (picture: Placement, sound: Placement) => boolean
    readonly fix: (placement: Placement, set: Fix) => void
  },
): boolean {
  if (track.locked) return isHeardInStep(doc, timeline, picture, sound)
  // What was pushed off its picture altogether goes its own way, and says what it said.
  const isBeside = wasOne(picture, sound) && overlap(picture, sound) > 0
  const follows = isBeside || isInStep(doc, timeline, picture, sound)
  const set = follows ? broughtIntoStep(doc, timeline, picture, sound) : null
  if (set) fix(sound, set)
  return set !== null
}

/** A timeline and its placements by id, as they were before an edit; null where there was none. */
interface Before {
  readonly doc: Doc
  readonly timeline: Timeline
  readonly placements: ReadonlyMap<string, Placement>
  /** How many bore a link. */
  readonly linked: ReadonlyMap<string, number>
}

function asBefore(doc: Doc | null, timelineId: string): Before | null {
  const timeline = doc?.timelines[timelineId]
  if (!doc || !timeline) return null
  const placements = new Map<string, Placement>()
  const linked = new Map<string, number>()
  for (const placement of placementsIn(timeline)) {
    placements.set(placement.id, placement)
    const { pairId } = placement
    if (pairId !== null) linked.set(pairId, (linked.get(pairId) ?? 0) + 1)
  }
  return { doc, timeline, placements, linked }
}

/** Whether two of a timeline were linked before an edit, and in step. */
function wasOneIn(before: Before | null, picture: Placement, sound: Placement): boolean {
  const [earlierPicture, other] = [before?.placements.get(picture.id), before?.placements.get(sound.id)]
  if (
    !before ||
    !earlierPicture ||
    !other ||
    earlierPicture.pairId === null ||
    earlierPicture.pairId !== other.pairId
  )
    return false
  return isInStep(before.doc, before.timeline, earlierPicture, other)
}

/** Whether nothing that decides how fast all of a timeline passes was changed. */
const passesAsBefore = (before: Before, after: Doc, timeline: Timeline): boolean =>
  before.timeline.treatment === timeline.treatment &&
  before.timeline.rules === timeline.rules &&
  before.timeline.rate === timeline.rate &&
  formatOf(before.doc, before.timeline) === formatOf(after, timeline)

/** Whether a placement and what it shows are what they were. */
function isAsBefore(before: Before, after: Doc, placement: Placement): boolean {
  if (before.placements.get(placement.id) !== placement) return false
  const { source } = placement
  return source.kind === 'clip'
    ? before.doc.clips[source.clipId] === after.clips[source.clipId]
    : source.kind === 'figure' || before.doc.timelines === after.timelines
}

/**
 * Puts the links of a document right after an edit, on a draft of it.
 * @param before as it was; null where nothing is known of it (it has just come in): what is out of step then is linked no more
 * @param after as the edit left it
 */
export function settleLinks(draft: Draft<Doc>, before: Doc | null, after: Doc, newId: () => string): void {
  const untouched = before?.clips === after.clips && before.project === after.project
  if (untouched && before.timelines === after.timelines) return
  // What shows another timeline follows its rate: while none changes, a timeline that is as it was has its links as they were.
  const sameRates =
    untouched && Object.values(before.timelines).every((timeline) => isAtRateOf(timeline, after))
  for (const [id, timeline] of Object.entries(after.timelines)) {
    if (sameRates && before.timelines[id] === timeline) continue
    const fixes: Fixes = { set: new Map(), added: [] }
    let was: Before | null | undefined
    let alike = false
    for (const [link, group] of groupsOf(timeline)) {
      if (isPlain(group)) continue
      if (was === undefined) {
        was = asBefore(before, id)
        alike = was !== null && passesAsBefore(was, after, timeline)
      }
      const known = was
      const members = [...group.pictures, ...group.sounds]
      const isUntouched =
        alike &&
        known?.linked.get(link) === members.length &&
        members.every(({ placement }) => isAsBefore(known, after, placement))
      if (isUntouched) continue
      const wasOne = (picture: Placement, sound: Placement) => wasOneIn(known, picture, sound)
      settleGroup(after, timeline, link, { group, wasOne }, { newId, fixes })
    }
    const into = draft.timelines[id]
    if (into && (fixes.set.size > 0 || fixes.added.length > 0)) write(into, timeline, fixes)
  }
}

const isAtRateOf = (before: Timeline, { timelines }: Doc): boolean => {
  const timelineNow = timelines[before.id]
  return timelineNow === before || (timelineNow !== undefined && timelineNow.rate === before.rate)
}

function write(into: Draft<Timeline>, as: Timeline, { set, added }: Fixes): void {
  as.tracks.forEach(({ id, placements }, i) => {
    const track = into.tracks[i]
    if (!track) return
    placements.forEach((placement, k) => {
      const fix = set.get(placement.id)
      const written = track.placements[k]
      if (!fix || !written) return
      for (const [key, value] of Object.entries(fix) as [keyof Placement, never][])
        if (!deepEqual(placement[key], value)) (written as Record<keyof Placement, unknown>)[key] = value
    })
    const more = added.filter(({ trackId }) => trackId === id)
    if (more.length > 0)
      track.placements = [
        ...track.placements,
        ...more.map(({ placement }) => placement as Draft<Placement>),
      ].sort((a, b) => a.start - b.start)
  })
}
