import type { Charge } from '../toll/charge'
import { type Grade, grades, worse } from '../toll/grade'
import type { Check, Finding } from './check'

/** What a placement pays otherwise than before. */
export interface PaysOtherwise {
  readonly name: string
  /** As it was, and as it came out. */
  readonly before: Finding
  readonly after: Finding
  readonly grades: readonly [before: Grade, after: Grade]
  readonly loss: readonly [before: number, after: number]
  /** Charges that it did not pay before, or not as dearly; the worst first. */
  readonly adds: readonly Charge[]
}

/** Of a nested cut: each pays what it pays inside, and what its timeline pays outside. */
export function nestedFindings(inner: Check, outer: Check): Finding[] {
  const [whole] = outer.findings
  return inner.findings.map((finding) => ({
    ...finding,
    toll: whole
      ? {
          grade: worse(finding.toll.grade, whole.toll.grade),
          loss: 1 - (1 - finding.toll.loss) * (1 - whole.toll.loss),
          untouched: finding.toll.untouched && whole.toll.untouched,
          charges: [...whole.toll.charges, ...finding.toll.charges],
        }
      : finding.toll,
  }))
}

/** Placements before and after, in the same order: what each pays otherwise. */
export function compared(before: Check, after: readonly Finding[]): PaysOtherwise[] {
  return before.findings.flatMap((was, i) => {
    const is = after[i]
    if (!is) return []
    return [
      {
        name: was.name,
        before: was,
        after: is,
        grades: [was.toll.grade, is.toll.grade] as const,
        loss: [was.toll.loss, is.toll.loss] as const,
        adds: added(was.toll.charges, is.toll.charges),
      },
    ]
  })
}

/** What is charged now and was not before, or not as dearly; the worst first. */
function added(before: readonly Charge[], after: readonly Charge[]): Charge[] {
  const paid = [...before]
  return [...after]
    .sort((a, b) => grades.indexOf(b.grade) - grades.indexOf(a.grade) || b.loss - a.loss)
    .filter((charge) => {
      const same = paid.findIndex(({ kind, loss }) => kind === charge.kind && loss >= charge.loss - 1e-9)
      if (same >= 0) paid.splice(same, 1)
      return same < 0
    })
}
