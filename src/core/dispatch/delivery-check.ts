import { type Check, type Finding, checkTimeline } from '../check/check'
import { type PaysOtherwise, compared, nestedFindings } from '../check/pays-otherwise'
import type { Deliverable } from '../model/deliverable'
import { type Doc } from '../model/project'
import { sameFormat } from '../format/format'
import type { Charge } from '../toll/charge'
import { type Grade, grades, worse } from '../toll/grade'
import { type Breach, breachesOf } from './rules'
import { type Outgoing, outgoing } from './outgoing'

/** A deliverable held against its timeline before it is made. */
export interface DeliveryCheck {
  readonly out: Outgoing
  /** Whether it is the timeline as it is. */
  readonly same: boolean
  /** What is done to the frames of the whole cut on their way out: another rate, other fields. */
  readonly conversion: readonly Charge[]
  /** The worst that anything pays on its way out beyond what it pays in the timeline. */
  readonly grade: Grade
  /** Placements that pay more than in the timeline, the worst first, and less. */
  readonly paysMore: readonly PaysOtherwise[]
  readonly paysLess: readonly PaysOtherwise[]
  /** As it goes out. */
  readonly check: Check
  readonly breaches: readonly Breach[]
}

/** @returns null while nothing can be held against it */
export function deliveryCheck(doc: Doc, deliverable: Deliverable): DeliveryCheck | null {
  const out = outgoing(doc, deliverable)
  if (!out) return null
  const was = checkTimeline(doc, out.source)
  const cut = checkTimeline(out.doc, out.cut)
  const whole = out.cut.id === out.timeline.id ? null : checkTimeline(out.doc, out.timeline)
  if (!was || !cut) return null
  const findings: readonly Finding[] = whole ? nestedFindings(cut, whole) : cut.findings
  const pays = compared(was, findings)
  const more = (price: PaysOtherwise) => (price.loss[1] - price.loss[0]) * price.before.placement.length
  const paysMore = pays.filter((price) => more(price) > 1e-9 || price.adds.some(({ loss }) => loss > 1e-9))
  const conversion = whole?.findings[0]?.toll.charges.filter(({ grade }) => grade !== 'free') ?? []
  return {
    out,
    same: sameFormat(out.format, out.sourceFormat),
    conversion,
    grade: paysMore.reduce<Grade>(
      (worst, { adds }) => adds.reduce((grade, charge) => worse(grade, charge.grade), worst),
      'free',
    ),
    paysMore: [...paysMore].sort(
      (a, b) => grades.indexOf(b.grades[1]) - grades.indexOf(a.grades[1]) || more(b) - more(a),
    ),
    paysLess: pays.filter((price) => more(price) < -1e-9).sort((a, b) => more(a) - more(b)),
    check: whole ?? cut,
    breaches: breachesOf(deliverable),
  }
}
