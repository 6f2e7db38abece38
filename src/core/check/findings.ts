import { present } from '../assert'
import { type Doc, formatOf } from '../edit/project'
import { reframed } from '../edit/reformat'
import { treatedAs } from '../edit/treating'
import type { Placement, Timeline } from '../edit/timeline'
import { type Format, formatName } from '../format/format'
import { hasHairline, fitPicture } from '../framing/framing'
import { type Charge, type ChargeKind } from '../toll/charge'
import { type Grade, grades, worse } from '../toll/grade'
import { sentence } from '../toll/sentence'
import type { Override } from '../treatment/treatment'
import { overrideWords } from '../treatment/words'
import { counted } from '../words/figures'
import { settling } from '../edit/running'
import { proposalsOf } from './better'
import { type Check, type Finding, checkTimeline } from './check'

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
  deinterlace: 'deinterlaced',
  weave: 'woven',
  'fields-from-frames': 'in fields from frames',
  'field-order': 'of the other field order',
  'field-rescale': 'with fields rescaled',
  colour: 'in other colour',
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

/** What the whole comes to. */
function wholeOf({ untouchedShare, countByGrade, findings, frames }: Check) {
  const loss = findings.reduce((sum, { toll, placement }) => sum + toll.loss * placement.length, 0)
  return { untouched: untouchedShare, ...countByGrade, loss: frames > 0 ? loss / frames : 0 }
}

function becomes(before: Check, after: Check): Becomes {
  const [a, b] = [wholeOf(before), wholeOf(after)]
  return {
    untouched: [a.untouched, b.untouched],
    severe: [a.severe, b.severe],
    heavy: [a.heavy, b.heavy],
    loss: [a.loss, b.loss],
  }
}

/** A timeline checked with placements treated otherwise. */
function checkedWith(doc: Doc, timeline: Timeline, treats: Cure['treats']): Check {
  const after = treatedAs(
    timeline,
    new Map(treats.map(({ placementId, set }) => [placementId, set])),
    formatOf(doc, timeline),
  )
  return present(checkTimeline(doc, after), 'a timeline that was checked can be checked')
}

/** What becomes of a timeline when placements are treated otherwise. */
export const becomesOf = (doc: Doc, timeline: Timeline, check: Check, treats: Cure['treats']): Becomes =>
  becomes(check, checkedWith(doc, timeline, treats))

/** What a kind of charge loses on a timeline, over the running time of those that pay it. */
const lostBy = ({ findings }: Check, kind: FindingGroup['kind']): number =>
  findings.reduce((sum, { toll, placement }) => {
    const charge = toll.charges.find((one) => one.kind === (kind === 'hairline' ? 'bars' : kind))
    return sum + (charge?.loss ?? 0) * placement.length
  }, 0)

/**
 * What happens on a timeline, grouped by kind, the worst first: by grade, then by what is lost over the running time. What costs
 * nothing is no finding.
 */
export function findingGroups(doc: Doc, timeline: Timeline, check: Check): FindingGroup[] {
  const groups = new Map<FindingGroup['kind'], { finding: Finding; charge: Charge | null }[]>()
  const put = (kind: FindingGroup['kind'], finding: Finding, charge: Charge | null) => {
    const known = groups.get(kind)
    if (known) known.push({ finding, charge })
    else groups.set(kind, [{ finding, charge }])
  }
  const settle = settling(doc, timeline, check.format)
  for (const finding of check.findings) {
    const isHairline = () => {
      const { picture, treatment } = settle(finding.placement)
      return picture !== null && hasHairline(fitPicture(picture, check.format, treatment.framing))
    }
    for (const charge of finding.toll.charges) {
      if (charge.grade === 'free') continue
      if (charge.kind === 'bars' && isHairline()) put('hairline', finding, charge)
      else put(charge.kind, finding, charge)
    }
  }
  const best = new Map(proposalsOf(doc, timeline).map(({ placement, set }) => [placement.id, set]))
  const made = [...groups].map(([kind, found]) => {
    const lost = ({ finding, charge }: (typeof found)[number]) =>
      (charge?.loss ?? 0) * finding.placement.length
    const worst = found.reduce((a, b) => (lost(b) > lost(a) ? b : a))
    const placements = found.map(({ finding }) => finding.placement)
    const group: FindingGroup = {
      kind,
      grade: found.reduce<Grade>((grade, { charge }) => worse(grade, charge?.grade ?? 'free'), 'free'),
      title: titleOf(kind, placements.length),
      says: worst.charge ? sentence(worst.charge) : '',
      placements,
      frames: placements.reduce((sum, { length }) => sum + length, 0),
      cure: cureOf(doc, timeline, check, kind, placements, best),
      accepted: acceptedWord(timeline, kind, placements),
    }
    return { group, lost: found.reduce((sum, one) => sum + lost(one), 0) }
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

/** The action of least loss for placements of a kind; null where none loses less than what is. */
function cureOf(
  doc: Doc,
  timeline: Timeline,
  check: Check,
  kind: FindingGroup['kind'],
  placements: readonly Placement[],
  best: ReadonlyMap<string, Override>,
): Cure | null {
  const proposed = placements.flatMap(({ id }) => {
    const set = best.get(id)
    return set ? [{ placementId: id, set }] : []
  })
  const ways = [
    ...(proposed.length ? [proposed] : []),
    ...(remedies[kind] ?? []).map((set) => placements.map(({ id }) => ({ placementId: id, set }))),
  ]
  let cure: Cure | null = null
  for (const treats of ways) {
    const helped = checkedWith(doc, timeline, treats)
    // What helps against something else is offered there.
    if (lostBy(helped, kind) >= lostBy(check, kind) - 1e-12) continue
    const made = becomes(check, helped)
    const [before, after] = made.loss
    if (after >= (cure?.becomes.loss[1] ?? before) - 1e-12) continue
    const said = [...new Set(treats.map(({ set }) => overrideWords(set)))]
    const does =
      said.length === 1 ? (said[0] ?? '') : `the best treatment for ${counted(treats.length, 'clip')}`
    cure = { does, treats, becomes: made }
  }
  return cure
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
  return doc.project.deliverables.flatMap(({ id, name, format, timelineId }) => {
    if (timelineId !== null && timelineId !== timeline.id) return []
    if (formatName(format) === formatName(own)) return []
    const { timeline: carried } = reframed(doc, doc, timeline, { ...timeline, ownFormat: format })
    const after = present(checkTimeline(doc, carried), 'a timeline with a format can be checked')
    return {
      deliverableId: id,
      name,
      format,
      says: `goes out as ${formatName(format)}: every frame of ${formatName(own)} is made once more`,
      becomes: becomes(check, after),
    }
  })
}
