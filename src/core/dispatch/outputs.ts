import { present } from '../assert'
import { type Check, checkTimeline } from '../check/check'
import { type Becomes, becomes } from '../check/findings'
import { alikePlacementsOf, wholeOf } from '../check/alike-placements'
import type { Doc } from '../model/project'
import { reframed } from '../edit/reformat'
import type { Timeline } from '../model/timeline'
import { type Format, formatName } from '../format/format'
import { tollSentence } from '../toll/sentence'
import { counted, pays } from '../words/figures'
import { type DeliveryCheck, deliveryCheck } from './delivery-check'
import { timelineOfDeliverable } from './outgoing'

/** How a deliverable stands to its timeline, in a few words: the same wherever it is told. */
export function standsWords({ same, conversion, grade, paysMore }: DeliveryCheck): string {
  if (same) return 'the same'
  const [worst] = conversion
  if (worst) return tollSentence({ grade, loss: 0, untouched: false, charges: [worst] })
  return paysMore.length
    ? `${counted(paysMore.length, 'placement')} ${pays(paysMore.length)} more`
    : 'nothing more is paid'
}

/** A deliverable of a timeline whose picture is another than the timeline's. */
export interface OutputDiffers {
  readonly deliverableId: string
  readonly name: string
  readonly says: string
  /** What becomes of the timeline if it takes the deliverable's size, rate and scan. */
  readonly becomes: Becomes
  readonly format: Format
}

/** The deliverables of a timeline whose picture is another than its own; those of other timelines are held against theirs. */
export function outputsThatDiffer(doc: Doc, timeline: Timeline, check: Check): OutputDiffers[] {
  const checks = doc.project.deliverables.flatMap((deliverable) => {
    if (timelineOfDeliverable(doc, deliverable)?.id !== timeline.id) return []
    const found = deliveryCheck(doc, deliverable)
    return found && formatName(found.out.format) !== formatName(found.out.sourceFormat)
      ? [{ deliverable, found }]
      : []
  })
  if (checks.length === 0) return []
  const whole = wholeOf(alikePlacementsOf(doc, timeline, check))
  return checks.map(({ deliverable: { id, name, format }, found }) => {
    const { timeline: carried } = reframed(doc, doc, timeline, { ...timeline, ownFormat: format })
    const after = present(checkTimeline(doc, carried), 'a timeline with a format can be checked')
    return {
      deliverableId: id,
      name,
      format,
      says: `goes out as ${formatName(format)}: ${standsWords(found)}`,
      becomes: becomes(whole, wholeOf(alikePlacementsOf(doc, carried, after))),
    }
  })
}
