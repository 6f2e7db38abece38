import type { Format } from '../format/format'
import type { Picture } from '../picture/picture'
import type { Toll } from '../toll/charge'
import { grades } from '../toll/grade'
import type { Weights } from '../toll/policy'
import { settleToll } from '../toll/toll'
import { landsWhole } from '../toll/ways'
import type { FieldMethod, Fields, Motion, Override, Phase, Treatment } from '../treatment/treatment'
import type { Run } from '../treatment/run'

/** A treatment that loses less than the one in force: what it sets, what it pays, and how the clip runs so. */
export interface Better {
  readonly set: Override
  readonly toll: Toll
  readonly way: Run
}

/** In this order where they lose alike: what is in force comes before all of them. */
const methods: readonly FieldMethod[] = ['adaptive', 'interpolate', 'single']

/** Ways to pass through time that leave the length as it is. Speed changes it: whoever set one keeps it, and gets none unasked. */
function motionsFor(picture: Picture, { motion }: Treatment): readonly Motion[] {
  if (motion.kind === 'speed') return [motion]
  const { pulldownPhase } = picture
  return [
    motion,
    { kind: 'auto' },
    { kind: 'hold' },
    { kind: 'blend' },
    { kind: 'pulldown', phase: 0 },
    // Which frames are film's is known where it was measured; a guess would throw away the wrong ones.
    ...(pulldownPhase === null ? [] : [{ kind: 'remove-pulldown', phase: pulldownPhase as Phase } as const]),
  ]
}

function fieldsFor({ rate }: Picture, format: Format, { fields }: Treatment): readonly Fields[] {
  const deinterlacedAt = (rate: Extract<Fields, { kind: 'deinterlace' }>['rate']) =>
    methods.map((method): Fields => ({ kind: 'deinterlace', method, rate }))
  return [
    fields,
    { kind: 'auto' },
    // Where every second of the frames is left out again, double rate shows what the same rate does.
    ...(rate && landsWhole(rate, format.rate) ? [] : deinterlacedAt({ kind: 'double' })),
    ...deinterlacedAt({ kind: 'same', keep: 'first' }),
    { kind: 'from-frames' },
    { kind: 'blend' },
  ]
}

/**
 * The treatment of least toll that keeps what was meant: framing mode, zoom, position and crop, the length, and whether a speed
 * is wanted. Among equals the one in force stands, then the earlier in order.
 * @returns null where nothing loses less than what is in force
 */
export function bestTreatment(
  picture: Picture,
  format: Format,
  inForce: Treatment,
  weights: Weights,
): Better | null {
  let best = settleToll(picture, format, inForce, weights)
  let set: Override | null = null
  const isLess = ({ loss, grade }: Toll, than: Toll): boolean =>
    loss < than.loss - 1e-12 ||
    (loss < than.loss + 1e-12 && grades.indexOf(grade) < grades.indexOf(than.grade))
  for (const motion of motionsFor(picture, inForce))
    for (const fields of fieldsFor(picture, format, inForce))
      for (const reduction of new Set([inForce.framing.reduction, 'kept' as const])) {
        const settled = settleToll(
          picture,
          format,
          { ...inForce, motion, fields, framing: { ...inForce.framing, reduction } },
          weights,
        )
        if (!isLess(settled.toll, best.toll)) continue
        best = settled
        set = {
          ...(motion === inForce.motion ? {} : { motion }),
          ...(fields === inForce.fields ? {} : { fields }),
          ...(reduction === inForce.framing.reduction ? {} : { framing: { reduction } }),
        }
      }
  return set && { set, toll: best.toll, way: best.way }
}
