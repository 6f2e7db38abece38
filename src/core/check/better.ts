import { type Better, bestTreatment } from '../choice/best'
import { type Doc, formatOf, weightsOf } from '../edit/project'
import { settling } from '../edit/running'
import type { Placement, Timeline } from '../edit/timeline'
import { pictureKey } from '../picture/picture'
import type { Settled } from '../toll/toll'

/** What a placement would lose less by. */
export interface Proposal extends Better {
  readonly placement: Placement
  /** What it pays as it is, and how it runs. */
  readonly now: Settled
}

/** The best treatments of placed pictures; those that stand alike and are treated alike are looked at once. */
function proposing(doc: Doc, timeline: Timeline): (placement: Placement) => Proposal | null {
  const format = formatOf(doc, timeline)
  const weights = weightsOf(doc.project)
  const known = new Map<string, Better | null>()
  const standing = new Map<Settled, Better | null>()
  const settle = settling(doc, timeline, format)
  return (placement) => {
    const stands = settle(placement)
    const { picture, treatment, toll, way } = stands
    if (!picture || !format) return null
    let better = standing.get(stands)
    if (better === undefined) {
      const key = `${pictureKey(picture)} ${JSON.stringify(treatment)}`
      const seen = known.get(key)
      better = seen === undefined ? bestTreatment(picture, format, treatment, weights) : seen
      known.set(key, better)
      standing.set(stands, better)
    }
    return better && { ...better, placement, now: { toll, way } }
  }
}

/** The best treatment of a placed picture; null where none loses less than its own. */
export const proposalOf = (doc: Doc, timeline: Timeline, placement: Placement): Proposal | null =>
  proposing(doc, timeline)(placement)

/**
 * The best treatments of placed pictures of a timeline that would lose less by one.
 * @param only the ids of those that are meant; all where none are told
 */
export function proposalsOf(doc: Doc, timeline: Timeline, only?: ReadonlySet<string>): Proposal[] {
  const propose = proposing(doc, timeline)
  return timeline.tracks
    .filter(({ kind }) => kind === 'video')
    .flatMap(({ placements }) => placements)
    .filter(({ id }) => !only || only.has(id))
    .flatMap((placement) => propose(placement) ?? [])
}
