import type { Doc } from '../model/project'
import { settlePlacement } from '../plan/running'
import { withSet } from '../model/shape'
import type { Placement, Timeline } from '../model/timeline'
import type { Format } from '../format/format'
import { fitPicture, hasHairline } from '../framing/framing'
import { type Charge, type ChargeKind } from '../toll/charge'
import { type Grade, grades, worse } from '../toll/grade'
import { sentence } from '../toll/sentence'
import type { Override } from '../treatment/treatment'
import type { Offered } from '../choice/proposed'
import { counted } from '../words/figures'
import { type Taken, proposing, takenWords } from './proposals'
import type { Check } from './check'
import { type AlikePlacements, type Whole, placesOf, alikePlacementsOf, wholeOf } from './alike-placements'

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
  readonly treats: readonly Taken[]
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
  /** What is done as a matter of course; null where nothing more is. It can still be accepted. */
  readonly cure: Cure | null
  /** What loses less, where something does. */
  readonly less: Cure | null
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

/** What becomes of a whole, before and after. */
export const becomes = (before: Whole, after: Whole): Becomes => ({
  untouched: [before.untouched, after.untouched],
  severe: [before.severe, after.severe],
  heavy: [before.heavy, after.heavy],
  loss: [before.loss, after.loss],
})

/** What helps those that stand alike: what is set and corrected of each, and what they pay then. */
type Helps = ReadonlyMap<AlikePlacements, Pick<Offered, 'set' | 'change' | 'toll'>>

/** What all of a timeline pay when something is done. */
const paying = (standings: readonly AlikePlacements[], helps: Helps): readonly AlikePlacements[] =>
  standings.map((standing) => {
    const done = helps.get(standing)
    return done ? { ...standing, toll: done.toll } : standing
  })

type Kind = FindingGroup['kind']
/** What a kind of charge loses on a timeline, over the running time of those that pay it. */
const lostBy = (standings: readonly AlikePlacements[], kind: Kind): number =>
  standings.reduce((sum, { toll, frames }) => {
    const charge = toll.charges.find((charge) => charge.kind === (kind === 'hairline' ? 'bars' : kind))
    return sum + (charge?.loss ?? 0) * frames
  }, 0)

/** The standings to which each kind of thing happens, and what each pays for it. What costs nothing is no finding. */
function byKind(
  standings: readonly AlikePlacements[],
  format: Format,
): Map<Kind, Map<AlikePlacements, Charge>> {
  const kinds = new Map<Kind, Map<AlikePlacements, Charge>>()
  for (const standing of standings) {
    const { picture, treatment } = standing.settled
    const isHairline = () => picture !== null && hasHairline(fitPicture(picture, format, treatment.framing))
    for (const charge of standing.toll.charges) {
      if (charge.grade === 'free') continue
      const kind = charge.kind === 'bars' && isHairline() ? 'hairline' : charge.kind
      kinds.set(kind, (kinds.get(kind) ?? new Map<AlikePlacements, Charge>()).set(standing, charge))
    }
  }
  return kinds
}

/**
 * What happens on a timeline, grouped by kind, the worst first: by grade, then by what is lost over the running time. What costs
 * nothing is no finding.
 */
export function findingGroups(doc: Doc, timeline: Timeline, check: Check): FindingGroup[] {
  const standings = alikePlacementsOf(doc, timeline, check)
  const propose = proposing(doc, timeline)
  const offered = new Map(standings.map((standing) => [standing, propose(standing.first)]))
  const withSetOf = (set: Override) => (standing: AlikePlacements) => ({
    set,
    change: {},
    toll: settlePlacement(
      doc,
      timeline,
      { ...standing.first, ...withSet(standing.first, set, check.format) },
      check.format,
    ).toll,
  })
  const groups = [...byKind(standings, check.format)].map(([kind, found]) => {
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
      ...helpFor(kind, [...found.keys()], check, standings, [
        (standing) => offered.get(standing)?.first ?? null,
        (standing) => offered.get(standing)?.less ?? null,
        ...(remedies[kind] ?? []).map(withSetOf),
      ]),
      accepted: acceptedWord(timeline, kind, placements),
    }
    return { group, lost: charges.reduce((sum, [{ frames }, { loss }]) => sum + loss * frames, 0) }
  })
  return groups
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
    timeline.accepted
      .filter(({ charge }) => charge === kind)
      .map((accepted) => [accepted.placementId, accepted.word]),
  )
  if (accepted.size < placements.length) return null
  const words = placements.map(({ id }) => accepted.get(id))
  return words.includes(undefined) ? null : [...new Set(words)].filter(Boolean).join('; ')
}

/** What is done to each that stands so; null where nothing is. */
type Help = (standing: AlikePlacements) => Pick<Offered, 'set' | 'change' | 'toll'> | null

/**
 * What helps against a kind: what is proposed, where it helps, and the action of least loss where that is another.
 * @param helps what is proposed first; of the others the one of least loss is offered
 */
function helpFor(
  kind: Kind,
  found: readonly AlikePlacements[],
  check: Check,
  standings: readonly AlikePlacements[],
  helps: readonly Help[],
): Pick<FindingGroup, 'cure' | 'less'> {
  const wholeNow = wholeOf(standings)
  const cures = helps.map((help): { readonly sets: Helps; readonly whole: Whole } | null => {
    const sets = new Map(
      found.flatMap((standing) => {
        const done = help(standing)
        return done ? [[standing, done] as const] : []
      }),
    )
    const helped = paying(standings, sets)
    // What helps against something else is offered there.
    if (sets.size === 0 || lostBy(helped, kind) >= lostBy(standings, kind) - 1e-12) return null
    return { sets, whole: wholeOf(helped) }
  })
  const [usual, ...others] = cures
  const least = others.reduce(
    (a, b) => (b && b.whole.loss < (a?.whole.loss ?? Infinity) - 1e-12 ? b : a),
    null,
  )
  const isLess = least && least.whole.loss < (usual?.whole ?? wholeNow).loss - 1e-12
  const cureOf = (
    { sets, whole }: { readonly sets: Helps; readonly whole: Whole },
    several: string,
  ): Cure => {
    const at = new Map(
      [...sets].flatMap(([{ places }, done]) => places.map((place) => [place, done] as const)),
    )
    const treats = [...placesOf(sets.keys())].flatMap((place) => {
      const [placement, done] = [check.findings[place]?.placement, at.get(place)]
      return placement && done ? [{ placement, set: done.set, change: done.change }] : []
    })
    const said = [...new Set([...sets.values()].map(takenWords))]
    const does = said.length === 1 ? (said[0] ?? '') : `${several} for ${counted(treats.length, 'clip')}`
    return { does, treats, becomes: becomes(wholeNow, whole) }
  }
  return {
    cure: usual ? cureOf(usual, 'what is usual') : null,
    less: isLess ? cureOf(least, 'the way of least loss') : null,
  }
}
