import { isHdr } from '../picture/colour'
import type { Picture } from '../picture/picture'
import { sizeKey } from '../picture/size'
import { uprightSize } from '../picture/turn'
import { equal } from '../rational/rational'
import type { Condition, Rule } from '../treatment/rule'
import type { FrameSize } from '../picture/size'
import { type Override, type Treatment, overridden } from '../treatment/treatment'
import { framesLeft } from '../motion/shown'
import { type Draft, readable } from './draft'
import { withLinked } from './linking'
import { timelineIn } from './operations'
import { type Doc, formatOf } from '../model/project'
import { settling, timingOfPlacement } from '../plan/running'
import { lying, shapeOf, withSet, withoutShape } from '../model/shape'
import { type Placement, type Timeline, placementsIn } from '../model/timeline'
import { shorten } from './trimming'

/** The placements of a timeline with one of these ids. */
function* placementsOf(
  doc: Draft<Doc>,
  timelineId: string,
  ids: readonly string[],
): Generator<Draft<Placement>> {
  const wanted = new Set(ids)
  for (const track of timelineIn(doc, timelineId).tracks)
    for (const placement of track.placements) if (wanted.has(placement.id)) yield placement
}

/** The frame that a timeline runs in. */
const frameOf = (doc: Draft<Doc>, timelineId: string): FrameSize | null =>
  formatOf(doc, timelineIn(doc, timelineId))

/**
 * Sets something of how placements are treated, over what rules and defaults say; what is not told stays as it was. Where they lie in
 * other shapes stays too. What is linked with them runs as fast as they do; what would reach beyond the end of its source ends there.
 */
export function treat(doc: Draft<Doc>, timelineId: string, ids: readonly string[], set: Override): void {
  const frame = frameOf(doc, timelineId)
  const { motion, fields } = set
  const pace: Override = { ...(motion ? { motion } : {}), ...(fields ? { fields } : {}) }
  toTheirEnds(doc, timelineId, motion || fields ? ids : [], (linked) => {
    for (const placement of placementsOf(doc, timelineId, ids))
      Object.assign(placement, withSet(placement as Placement, set, frame))
    for (const placement of placementsOf(doc, timelineId, linked))
      Object.assign(placement, withSet(placement as Placement, pace, frame))
  })
}

/**
 * Changes how fast placements run; those that then would reach beyond the end of their source, and did not before, end with it, and what
 * follows on their tracks moves up.
 * @param ids of what is changed; null for all of the timeline
 * @param act is told what is linked with them and not among them
 */
function toTheirEnds(
  doc: Draft<Doc>,
  timelineId: string,
  ids: readonly string[] | null,
  act: (linked: readonly string[]) => void,
): void {
  const isMeant = ids && withLinked(timelineIn(doc, timelineId), ids)
  const named = new Set(ids)
  /** The placements meant that reach beyond the end of their source, with the frames that they have to show. */
  const beyond = (): Map<string, number> => {
    const timeline = timelineIn(doc, timelineId) as Timeline
    const now = readable(doc)
    const settle = settling(now, timeline, formatOf(now, timeline))
    const found = new Map<string, number>()
    if (!timeline.rate || isMeant?.size === 0) return found
    for (const placement of placementsIn(timeline)) {
      if (isMeant && !isMeant.has(placement.id)) continue
      const course = { sourceIn: placement.sourceIn, way: settle(placement).way }
      const left = framesLeft(course, timingOfPlacement(now, placement), timeline.rate)
      if (left !== null && left < placement.length) found.set(placement.id, left)
    }
    return found
  }
  const reached = beyond()
  act([...(isMeant ?? [])].filter((id) => !named.has(id)))
  const ends = beyond()
  for (const id of reached.keys()) ends.delete(id)
  if (ends.size > 0) shorten(doc, timelineId, ends)
}

/** Gives placements the whole treatment of another one: what that sets of its own, and nothing else. */
export function treatLike(
  doc: Draft<Doc>,
  timelineId: string,
  ids: readonly string[],
  treatment: Override,
): void {
  const { motion, fields } = treatment
  toTheirEnds(doc, timelineId, ids, (linked) => {
    for (const placement of placementsOf(doc, timelineId, ids))
      placement.treatment = structuredClone(treatment)
    for (const placement of placementsOf(doc, timelineId, linked)) {
      const own = without(placement.treatment, ['motion', 'fields'])
      placement.treatment = {
        ...own,
        ...(motion ? { motion } : {}),
        ...(fields ? { fields } : {}),
      }
    }
  })
}

/** A part of a treatment that can be taken back by itself. */
export type TreatmentPart = Exclude<keyof Treatment, 'framing'> | `framing.${keyof Treatment['framing']}`

/** Takes back all that placements set of their own, or some parts of it: rules and defaults hold again. Other shapes stay as they are. */
export function untreat(
  doc: Draft<Doc>,
  timelineId: string,
  ids: readonly string[],
  parts: readonly TreatmentPart[] | null = null,
): void {
  const frame = frameOf(doc, timelineId)
  const pace = (parts ?? (['motion', 'fields'] as const)).filter(
    (part) => part === 'motion' || part === 'fields',
  )
  toTheirEnds(doc, timelineId, pace.length ? ids : [], (linked) => {
    for (const placement of placementsOf(doc, timelineId, ids)) {
      const { treatment, framingByShape } = placement as Placement
      placement.treatment = parts ? without(treatment, parts) : {}
      if (frame && (!parts || parts.some((part) => lying.some((key) => part === `framing.${key}`))))
        placement.framingByShape = withoutShape(framingByShape, shapeOf(frame))
    }
    for (const placement of placementsOf(doc, timelineId, linked))
      placement.treatment = without(placement.treatment, pace)
  })
}

function without(override: Override, parts: readonly TreatmentPart[]): Override {
  const framing: Record<string, unknown> = { ...override.framing }
  const rest: Record<string, unknown> = { ...override }
  for (const part of parts)
    if (part.startsWith('framing.')) delete framing[part.slice('framing.'.length)]
    else delete rest[part]
  delete rest.framing
  return { ...rest, ...(Object.keys(framing).length > 0 ? { framing } : {}) }
}

/** A timeline with some of its placements treated otherwise in its frame, by id: what is tried, and not taken. */
export function treatedAs(
  timeline: Timeline,
  sets: ReadonlyMap<string, Override>,
  frame: FrameSize | null,
): Timeline {
  const isMeant = ({ id }: Placement) => sets.has(id)
  return {
    ...timeline,
    tracks: timeline.tracks.map((track) =>
      track.placements.some(isMeant)
        ? {
            ...track,
            placements: track.placements.map((placement) => {
              const set = sets.get(placement.id)
              return set ? { ...placement, ...withSet(placement, set, frame) } : placement
            }),
          }
        : track,
    ),
  }
}

/** Sets something of a timeline's defaults; rules and placements go over them. */
export function setDefaults(doc: Draft<Doc>, timelineId: string, set: Override): void {
  const timeline = timelineIn(doc, timelineId)
  toTheirEnds(doc, timelineId, pacing(set), () => {
    timeline.treatment = overridden(timeline.treatment, set)
  })
}

/** All of a timeline, where something says how fast it runs; else nothing of it. */
const pacing = ({ motion, fields }: Override): readonly string[] | null => (motion || fields ? null : [])

/** Takes a timeline's defaults back: nobody's treatment holds again. */
export function clearDefaults(doc: Draft<Doc>, timelineId: string): void {
  const timeline = timelineIn(doc, timelineId)
  toTheirEnds(doc, timelineId, pacing(timeline.treatment), () => {
    timeline.treatment = {}
  })
}

/** Puts a rule behind the others, so that it goes over them; one that is there already (same id) is replaced where it stands. */
export function setRule(doc: Draft<Doc>, timelineId: string, rule: Rule): void {
  const { rules } = timelineIn(doc, timelineId)
  const at = rules.findIndex(({ id }) => id === rule.id)
  const was = at < 0 ? null : (rules[at] as Rule)
  toTheirEnds(doc, timelineId, pacing({ ...was?.set, ...rule.set }), () => {
    rules.splice(at < 0 ? rules.length : at, at < 0 ? 0 : 1, rule as Draft<Rule>)
  })
}

/** Takes a rule out. */
export function removeRule(doc: Draft<Doc>, timelineId: string, ruleId: string): void {
  const timeline = timelineIn(doc, timelineId)
  const rule = timeline.rules.find(({ id }) => id === ruleId)
  toTheirEnds(doc, timelineId, pacing(rule?.set ?? {}), () => {
    timeline.rules = timeline.rules.filter(({ id }) => id !== ruleId)
  })
}

/** Moves a rule by places in their order: a later one goes over an earlier one. */
export function moveRule(doc: Draft<Doc>, timelineId: string, ruleId: string, by: number): void {
  const { rules } = timelineIn(doc, timelineId)
  const from = rules.findIndex(({ id }) => id === ruleId)
  const to = Math.max(0, Math.min(rules.length - 1, from + by))
  if (from < 0 || to === from) return
  toTheirEnds(doc, timelineId, pacing(rules[from]?.set ?? {}), () => {
    rules.splice(to, 0, ...rules.splice(from, 1))
  })
}

/** Takes a finding as it is, with a word that says why; without one it is open again. */
export function acceptFindings(
  doc: Draft<Doc>,
  timelineId: string,
  ids: readonly string[],
  { charge, word, at }: { readonly charge: string; readonly word: string | null; readonly at: string },
): void {
  const timeline = timelineIn(doc, timelineId)
  const meant = new Set(ids)
  timeline.accepted = timeline.accepted.filter(
    (finding) => !meant.has(finding.placementId) || finding.charge !== charge,
  )
  if (word === null) return
  for (const placementId of meant) timeline.accepted.push({ placementId, charge, word, at })
}

/** What pictures have in common, as a condition that they all meet: the size, the rate, the scan and the range of light. */
export function commonCondition(pictures: readonly Picture[]): Condition {
  const common = <T>(valueOf: (picture: Picture) => T, same: (a: T, b: T) => boolean): T | undefined => {
    const [first, ...rest] = pictures.map(valueOf)
    return first !== undefined && rest.every((other) => same(other, first)) ? first : undefined
  }
  const size = common(uprightSize, (a, b) => sizeKey(a) === sizeKey(b))
  const rate = common(
    (picture) => picture.rate,
    (a, b) => (a && b ? equal(a, b) : a === b),
  )
  const alike = <T>(a: T, b: T) => a === b
  const scan = common((picture) => picture.scan, alike)
  const hdr = common((picture) => isHdr(picture.transfer), alike)
  return {
    ...(size ? { size: { width: size.width, height: size.height, pixelAspect: size.pixelAspect } } : {}),
    ...(rate ? { rate } : {}),
    ...(scan && scan !== 'unknown' ? { scan } : {}),
    ...(hdr === undefined ? {} : { hdr }),
  }
}
