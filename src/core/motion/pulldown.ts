import type { FieldOrder } from '../reading/reading'

/** Fields that each of four film frames fills in turn: 2:3 pulldown, 24000/1001 progressive in 30000/1001 interlaced. */
const pattern = [2, 3, 2, 3] as const
const framesInCycle = 4
const fieldsInCycle = 10

/** Which of the four frames of the pattern the first source frame is: 0 = A … 3 = D. */
export type Phase = 0 | 1 | 2 | 3

/** The source frames whose lines the two fields of one output frame carry. */
export interface FieldPair {
  readonly top: number
  readonly bottom: number
}

/** The source frame that field `f` of the output carries, fields counted in the order shown. */
function sourceOfField(f: number, phase: Phase): number {
  const cycle = Math.floor(f / fieldsInCycle)
  let rest = f - cycle * fieldsInCycle
  for (let j = 0; ; j++) {
    const length = pattern[(j + phase) % framesInCycle]
    if (rest < length) return cycle * framesInCycle + j
    rest -= length
  }
}

/** The first field that carries source frame `j`. */
function firstFieldOf(j: number, phase: Phase): number {
  const cycle = Math.floor(j / framesInCycle)
  let field = cycle * fieldsInCycle
  for (let i = 0; i < j - cycle * framesInCycle; i++) field += pattern[(i + phase) % framesInCycle]
  return field
}

/**
 * 2:3 pulldown: for output frame `n`, the source frames of its top and its bottom field.
 * @param phase which frame of the pattern (A = 0) source frame 0 is
 */
export function pulldownFrame(n: number, phase: Phase = 0, order: FieldOrder = 'top-first'): FieldPair {
  const [first, second] = [sourceOfField(2 * n, phase), sourceOfField(2 * n + 1, phase)]
  return order === 'bottom-first' ? { top: second, bottom: first } : { top: first, bottom: second }
}

/**
 * The removal of a 2:3 pulldown: for source frame `j`, the output frames whose top and bottom field carry it. Woven,
 * they give the source frame back; of three fields the third repeats the first and is left out.
 */
export function removePulldown(j: number, phase: Phase = 0, order: FieldOrder = 'top-first'): FieldPair {
  const field = firstFieldOf(j, phase)
  const isTop = (f: number) => (f % 2 === 0) === (order !== 'bottom-first')
  const [top, bottom] = isTop(field) ? [field, field + 1] : [field + 1, field]
  return { top: Math.floor(top / 2), bottom: Math.floor(bottom / 2) }
}
