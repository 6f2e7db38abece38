import { deepEqual } from '../equality'
import { type Doc, formatOf, sourceName, timelinesOf } from '../model/project'
import { type Placement, type Timeline, leadsIn, placementsIn } from '../model/timeline'
import { formatName } from '../format/format'
import type { Corrections } from '../reading/correct'
import { rankingNames } from '../toll/weights'
import { overrideWords } from '../treatment/words'
import { counted } from '../words/figures'

/**
 * What is another in one state of a project than in another, in words: formats, clips, timelines, placements, treatments. Nothing
 * where both are the same.
 */
export function differencesBetween(before: Doc, after: Doc): string[] {
  return [
    ...projectDifferences(before, after),
    ...clipDifferences(before, after),
    ...timelineDifferences(before, after),
  ]
}

/** Names in a sentence: the first two, and how many more. */
function named(names: readonly string[]): string {
  const more = names.length - 2
  return `${names.slice(0, 2).join(', ')}${more > 0 ? ` and ${more} more` : ''}`
}

function projectDifferences({ project: a }: Doc, { project: b }: Doc): string[] {
  const formatIn = (format: typeof a.format) => (format ? formatName(format) : 'not chosen')
  const said: string[] = []
  if (a.name !== b.name) said.push(`called “${a.name}” → “${b.name}”`)
  if (!deepEqual(a.format, b.format))
    said.push(`project format ${formatIn(a.format)} → ${formatIn(b.format)}`)
  if (a.lean !== b.lean) said.push(`ranked for ${rankingNames[a.lean]} → ${rankingNames[b.lean]}`)
  if (!deepEqual(a.policy, b.policy)) said.push('own weights')
  if (!deepEqual(a.deliverables, b.deliverables))
    said.push(`deliverables ${a.deliverables.length} → ${b.deliverables.length}`)
  return said
}

/** The facts that are corrected otherwise, in words. */
const corrected = (a: Corrections, b: Corrections): string[] =>
  (Object.keys({ ...a, ...b }) as (keyof Corrections)[])
    .filter((fact) => !deepEqual(a[fact], b[fact]))
    .map((fact) => factWords[fact])
const factWords: Readonly<Record<keyof Corrections, string>> = {
  rate: 'rate',
  pixelAspect: 'pixel shape',
  scan: 'scan',
  fieldOrder: 'field order',
  rotation: 'turn',
  colour: 'colour',
  premultiplied: 'alpha',
  window: 'picture area',
  crop: 'baked bars',
  repeatsOut: 'repeats',
  pulldownOut: 'pulldown',
}

function clipDifferences(a: Doc, b: Doc): string[] {
  const nameIn = (doc: Doc) => (id: string) => doc.clips[id]?.name ?? id
  const [came, went] = [
    b.project.clipOrder.filter((id) => !a.clips[id]),
    a.project.clipOrder.filter((id) => !b.clips[id]),
  ]
  const said: string[] = []
  if (came.length) said.push(`${counted(came.length, 'clip')} more: ${named(came.map(nameIn(b)))}`)
  if (went.length) said.push(`${counted(went.length, 'clip')} less: ${named(went.map(nameIn(a)))}`)
  for (const id of b.project.clipOrder) {
    const [was, is] = [a.clips[id], b.clips[id]]
    if (!was || !is) continue
    const facts = corrected(was.corrections, is.corrections)
    if (facts.length) said.push(`${is.name} corrected otherwise: ${facts.join(', ')}`)
    if (was.priority !== is.priority) said.push(`${is.name} counts as ${is.priority}, not ${was.priority}`)
    if (was.hash !== is.hash || was.sizeBytes !== is.sizeBytes) said.push(`${is.name}: another file`)
  }
  return said
}

function timelineDifferences(a: Doc, b: Doc): string[] {
  const said: string[] = []
  for (const timeline of timelinesOf(b)) {
    const was = a.timelines[timeline.id]
    if (!was) {
      said.push(`“${timeline.name}” is there, with ${counted(leadsIn(timeline).length, 'placement')}`)
      continue
    }
    if (was === timeline) continue
    if (was.name !== timeline.name) said.push(`“${was.name}” is called “${timeline.name}”`)
    const [from, to] = [formatOf(a, was), formatOf(b, timeline)]
    if (!deepEqual(from, to))
      said.push(
        `“${timeline.name}”: ${from ? formatName(from) : 'no format'} → ${to ? formatName(to) : 'no format'}`,
      )
    said.push(
      ...placementDifferences(a, b, was, timeline).map((difference) => `“${timeline.name}”: ${difference}`),
    )
  }
  for (const { id, name } of timelinesOf(a)) if (!b.timelines[id]) said.push(`“${name}” is not there`)
  return said
}

function placementDifferences(a: Doc, b: Doc, was: Timeline, is: Timeline): string[] {
  const nameOf = (doc: Doc) => (placement: Placement) => sourceName(doc, placement.source)
  const [before, after] = [was, is].map(
    (timeline) => new Map(placementsIn(timeline).map((p) => [p.id, p])),
  ) as [Map<string, Placement>, Map<string, Placement>]
  const came = leadsIn(is).filter(({ id }) => !before.has(id))
  const went = leadsIn(was).filter(({ id }) => !after.has(id))
  const both = leadsIn(is).flatMap((after) => {
    const then = before.get(after.id)
    return then && then !== after ? [[then, after] as const] : []
  })
  const which = (differs: (then: Placement, after: Placement) => boolean) =>
    both.filter(([then, after]) => differs(then, after)).map(([, after]) => after)
  const list = (placements: readonly Placement[], does: string, doc: Doc) =>
    placements.length
      ? [`${counted(placements.length, 'placement')} ${does}: ${named(placements.map(nameOf(doc)))}`]
      : []
  const treated = which(
    (then, after) =>
      !deepEqual(then.treatment, after.treatment) || !deepEqual(then.framingByShape, after.framingByShape),
  )
  const [onlyTreated] = treated
  return [
    ...list(came, 'more', b),
    ...list(went, 'less', a),
    ...list(
      which((then, after) => then.start !== after.start),
      'moved',
      b,
    ),
    ...list(
      which((then, after) => then.length !== after.length || !deepEqual(then.sourceIn, after.sourceIn)),
      'trimmed',
      b,
    ),
    ...(onlyTreated && treated.length === 1
      ? [
          `${nameOf(b)(onlyTreated)} treated otherwise: ${overrideWords(onlyTreated.treatment) || 'as the timeline says'}`,
        ]
      : list(treated, 'treated otherwise', b)),
    ...(deepEqual(was.rules, is.rules) ? [] : [`rules ${was.rules.length} → ${is.rules.length}`]),
    ...(deepEqual(was.treatment, is.treatment) ? [] : ['other defaults']),
    ...(was.accepted.length === is.accepted.length
      ? []
      : [`findings accepted ${was.accepted.length} → ${is.accepted.length}`]),
    ...(was.tracks.length === is.tracks.length ? [] : [`tracks ${was.tracks.length} → ${is.tracks.length}`]),
  ]
}
