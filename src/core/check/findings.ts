import { present } from '../assert'
import { type Doc, formatOf } from '../edit/project'
import { reframed } from '../edit/reformat'
import { settlePlacement } from '../edit/running'
import { withSet } from '../edit/shape'
import type { Placement, Timeline } from '../edit/timeline'
import { type Format, formatName } from '../format/format'
import { fitPicture, hasHairline } from '../framing/framing'
import { type Charge, type ChargeKind, type Toll } from '../toll/charge'
import { type Grade, grades, worse } from '../toll/grade'
import { sentence } from '../toll/sentence'
import type { Override } from '../treatment/treatment'
import { overrideWords } from '../treatment/words'
import { counted } from '../words/figures'
import { proposalsOf } from './better'
import { type Check, checkTimeline } from './check'
import { type Standing, type Whole, placesOf, standingsOf, wholeOf } from './standing'

/** What becomes of a whole timeline by an action: before and after. */
export interface Becomes {
  readonly untouched: readonly [before: number, after: number]
  readonly severe: readonly [before: number, after: number]
  readonly heavy: readonly [before: number, after: number]
  /** Loss over the running time. */
  readonly loss: readonly [before: number, after: number]
}

/** One action that treats all of a kind, with what becomes of the whole. */
export interface Cure {
  /** What it does, in a few words. */
  readonly does: string
  readonly treats: readonly { readonly placementId: string; readonly set: Override }[]
  readonly becomes: Becomes
}

/** All of a timeline to which the same happens: what, to how many, how long, and what would help. */
export interface FindingGroup {
  readonly kind: ChargeKind | 'hairline'
  readonly grade: Grade
  /** `3 enlarged`. */
  readonly title: string
  /** What happens to the worst of them. */
  readonly says: string
  readonly placements: readonly Placement[]
  readonly frames: number
  /** Null where nothing loses less; it can still be accepted. */
  readonly cure: Cure | null
  /** The word with which all of them were accepted; null while one of them is open. */
  readonly accepted: string | null
}

/** How many clips something happens to, as a title. */
const titles: Readonly<Record<FindingGroup['kind'], string>> = {
  enlarge: 'enlarged',
  reduce: 'reduced',
  bars: 'with bars',
  crop: 'cut at the sides',
  distort: 'distorted',
  turn: 'turned',
  'between-pixels': 'between pixels',
  'even-hold': 'held evenly',
  'even-skip': 'skipped evenly',
  slip: 'slipping',
  uneven: 'uneven',
  pulldown: 'pulled down',
  'remove-pulldown': 'without pulldown',
  blend: 'mixed',
  speed: 'at another speed',
  'variable-rate': 'of variable rate',
  'pictures-left-out': 'with pictures missing',
  deinterlace: 'deinterlaced',
  weave: 'woven',
  'fields-from-frames': 'in fields from frames',
  'field-order': 'of the other field order',
  'field-rescale': 'with fields rescaled',
  colour: 'in other colour',
  'colour-wrong': 'in wrong colour',
  'not-for-display': 'not made for a display',
  depth: 'of more bits',
  hairline: 'with a hairline',
}

/** What happens to so many, in two or three words: `3 enlarged`. */
export const titleOf = (kind: FindingGroup['kind'], count: number): string => `${count} ${titles[kind]}`

/** What besides the best treatment helps against a kind; never without being told. */
const remedies: Partial<Record<FindingGroup['kind'], readonly Override[]>> = {
  hairline: [{ framing: { mode: { kind: 'fill' } } }],
  bars: [{ framing: { mode: { kind: 'fill' } } }],
  crop: [{ framing: { mode: { kind: 'fit' } } }],
  distort: [{ framing: { mode: { kind: 'fit' } } }],
  slip: [{ motion: { kind: 'speed', pace: { kind: 'every-frame' }, wanted: false, keepPitch: true } }],
  uneven: [{ motion: { kind: 'blend' } }],
}

const becomes = (before: Whole, after: Whole): Becomes => ({
  untouched: [before.untouched, after.untouched],
  severe: [before.severe, after.severe],
  heavy: [before.heavy, after.heavy],
  loss: [before.loss, after.loss],
})

/** What is set over what placements set: the same for all that stand alike. */
type Sets = ReadonlyMap<Standing, Override>
/** What all of a timeline pay when something is set. */
type PayingWith = (sets: Sets) => readonly Standing[]

/** What is paid when something is set; each standing is settled once for each set. */
function payingWith(
  doc: Doc,
  timeline: Timeline,
  format: Format,
  standings: readonly Standing[],
): PayingWith {
  const known = new Map<Override, Map<Standing, Toll>>()
  const tollWith = (standing: Standing, set: Override): Toll => {
    const tolls = known.get(set) ?? new Map<Standing, Toll>()
    known.set(set, tolls)
    const { first } = standing
    const toll =
      tolls.get(standing) ??
      settlePlacement(doc, timeline, { ...first, ...withSet(first, set, format) }, format).toll
    tolls.set(standing, toll)
    return toll
  }
  return (sets) =>
    standings.map((standing) => {
      const set = sets.get(standing)
      return set ? { ...standing, toll: tollWith(standing, set) } : standing
    })
}

type Kind = FindingGroup['kind']
/** What a kind of charge loses on a timeline, over the running time of those that pay it. */
const lostBy = (standings: readonly Standing[], kind: Kind): number =>
  standings.reduce((sum, { toll, frames }) => {
    const charge = toll.charges.find((one) => one.kind === (kind === 'hairline' ? 'bars' : kind))
    return sum + (charge?.loss ?? 0) * frames
  }, 0)

/** The standings to which each kind of thing happens, and what each pays for it. What costs nothing is no finding. */
function byKind(standings: readonly Standing[], format: Format): Map<Kind, Map<Standing, Charge>> {
  const kinds = new Map<Kind, Map<Standing, Charge>>()
  for (const standing of standings) {
    const { picture, treatment } = standing.settled
    const isHairline = () => picture !== null && hasHairline(fitPicture(picture, format, treatment.framing))
    for (const charge of standing.toll.charges) {
      if (charge.grade === 'free') continue
      const kind = charge.kind === 'bars' && isHairline() ? 'hairline' : charge.kind
      kinds.set(kind, (kinds.get(kind) ?? new Map<Standing, Charge>()).set(standing, charge))
    }
  }
  return kinds
}

/**
 * What happens on a timeline, grouped by kind, the worst first: by grade, then by what is lost over the running time. What costs
 * nothing is no finding.
 */
export function findingGroups(doc: Doc, timeline: Timeline, check: Check): FindingGroup[] {
  const standings = standingsOf(doc, timeline, check)
  const paying = payingWith(doc, timeline, check.format, standings)
  const firsts = new Map(standings.map((standing) => [standing.first.id, standing]))
  const best = new Map<Standing, Override>()
  for (const { placement, set } of proposalsOf(doc, timeline, new Set(firsts.keys()))) {
    const standing = firsts.get(placement.id)
    if (standing) best.set(standing, set)
  }
  const made = [...byKind(standings, check.format)].map(([kind, found]) => {
    const charges = [...found]
    const [, worst] = charges.reduce((a, b) => (b[1].loss * b[0].longest > a[1].loss * a[0].longest ? b : a))
    const placements = [...placesOf(found.keys())].flatMap((place) => check.findings[place]?.placement ?? [])
    const group: FindingGroup = {
      kind,
      grade: charges.reduce<Grade>((grade, [, charge]) => worse(grade, charge.grade), 'free'),
      title: titleOf(kind, placements.length),
      says: sentence(worst),
      placements,
      frames: charges.reduce((sum, [{ frames }]) => sum + frames, 0),
      cure: cureOf(kind, [...found.keys()], check, standings, best, paying),
      accepted: acceptedWord(timeline, kind, placements),
    }
    return { group, lost: charges.reduce((sum, [{ frames }, { loss }]) => sum + loss * frames, 0) }
  })
  return made
    .sort(
      (a, b) =>
        Number(a.group.accepted !== null) - Number(b.group.accepted !== null) ||
        grades.indexOf(b.group.grade) - grades.indexOf(a.group.grade) ||
        b.lost - a.lost,
    )
    .map(({ group }) => group)
}

function acceptedWord(timeline: Timeline, kind: string, placements: readonly Placement[]): string | null {
  const accepted = new Map(
    timeline.accepted.filter(({ charge }) => charge === kind).map((one) => [one.placementId, one.word]),
  )
  if (accepted.size < placements.length) return null
  const words = placements.map(({ id }) => accepted.get(id))
  return words.includes(undefined) ? null : [...new Set(words)].filter(Boolean).join('; ')
}

/** The action of least loss for standings of a kind; null where none loses less than what is. */
function cureOf(
  kind: Kind,
  found: readonly Standing[],
  check: Check,
  standings: readonly Standing[],
  best: Sets,
  paying: PayingWith,
): Cure | null {
  const proposed = new Map(
    found.flatMap((standing) => {
      const set = best.get(standing)
      return set ? [[standing, set] as const] : []
    }),
  )
  const ways: Sets[] = [
    ...(proposed.size ? [proposed] : []),
    ...(remedies[kind] ?? []).map((set) => new Map(found.map((standing) => [standing, set]))),
  ]
  const now = wholeOf(standings)
  let taken: { readonly sets: Sets; readonly whole: Whole } | null = null
  for (const sets of ways) {
    const helped = paying(sets)
    // What helps against something else is offered there.
    if (lostBy(helped, kind) >= lostBy(standings, kind) - 1e-12) continue
    const whole = wholeOf(helped)
    if (whole.loss < (taken?.whole ?? now).loss - 1e-12) taken = { sets, whole }
  }
  if (!taken) return null
  const { sets, whole } = taken
  const setAt = new Map([...sets].flatMap(([{ places }, set]) => places.map((place) => [place, set])))
  const treats = [...placesOf(sets.keys())].flatMap((place) => {
    const [placement, set] = [check.findings[place]?.placement, setAt.get(place)]
    return placement && set ? [{ placementId: placement.id, set }] : []
  })
  const said = [...new Set([...sets.values()].map(overrideWords))]
  const does =
    said.length === 1 ? (said[0] ?? '') : `the best treatment for ${counted(treats.length, 'clip')}`
  return { does, treats, becomes: becomes(now, whole) }
}

/** An output picture that differs from the timeline's: every frame of it is made once more (as the last thing before it leaves). */
export interface OutputDiffers {
  readonly deliverableId: string
  readonly name: string
  readonly says: string
  /** What becomes of the timeline if it takes the deliverable's size, rate and scan. */
  readonly becomes: Becomes
  readonly format: Format
}

/** The deliverables of a timeline whose picture is another than its own. Those of no timeline are meant for all. */
export function outputsThatDiffer(doc: Doc, timeline: Timeline, check: Check): OutputDiffers[] {
  const own = formatOf(doc, timeline)
  if (!own) return []
  const differing = doc.project.deliverables.filter(
    ({ format, timelineId }) =>
      (timelineId === null || timelineId === timeline.id) && formatName(format) !== formatName(own),
  )
  if (differing.length === 0) return []
  const now = wholeOf(standingsOf(doc, timeline, check))
  return differing.map(({ id, name, format }) => {
    const { timeline: carried } = reframed(doc, doc, timeline, { ...timeline, ownFormat: format })
    const after = present(checkTimeline(doc, carried), 'a timeline with a format can be checked')
    return {
      deliverableId: id,
      name,
      format,
      says: `goes out as ${formatName(format)}: every frame of ${formatName(own)} is made once more`,
      becomes: becomes(now, wholeOf(standingsOf(doc, carried, after))),
    }
  })
}
