import type { Override } from '../treatment/treatment'
import type { Draft } from './draft'
import { timelineIn } from './operations'
import type { Doc } from './project'
import type { Placement } from './timeline'

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

/** Sets something of how placements are treated, over what rules and defaults say; what is not told stays as it was. */
export function treat(doc: Draft<Doc>, timelineId: string, ids: readonly string[], set: Override): void {
  for (const placement of placementsOf(doc, timelineId, ids)) {
    const { treatment } = placement
    const framing = { ...treatment.framing, ...set.framing }
    placement.treatment = structuredClone({
      ...treatment,
      ...set,
      ...(Object.keys(framing).length > 0 ? { framing } : {}),
    }) as Draft<Placement>['treatment']
  }
}

/** Takes back all that placements set of their own: rules and defaults hold again. */
export function untreat(doc: Draft<Doc>, timelineId: string, ids: readonly string[]): void {
  for (const placement of placementsOf(doc, timelineId, ids)) placement.treatment = {}
}
