import { z } from 'zod'

/** What the editor leans to when sizes are mixed. */
export const Lean = z.enum(['balanced', 'sharp', 'detail', 'majority'])
export type Lean = z.infer<typeof Lean>

const weight = z.number().min(0).max(1)

/** The weights of all charges: the one place where they stand, shown to and changeable by the editor. */
export const Policy = z.object({
  /** Loss for each share of the source's pixels that a reduction leaves unused. */
  unusedDetail: weight.default(0.3),
  /** Loss for each share of the frame that is barred, or of the picture that is cropped. */
  barsOrCrop: weight.default(0.5),
  distortion: z.number().min(0).max(10).default(2),
  evenHold: weight.default(0.03),
  evenSkip: weight.default(0.05),
  slip: weight.default(0.02),
  /** Loss for each slip a minute, at most `slipMost`. */
  slipPerMinute: weight.default(0.01),
  slipMost: weight.default(0.1),
  /** Loss for each millisecond of judder, at most `judderMost`. */
  judderPerMs: weight.default(0.04),
  judderMost: weight.default(0.6),
  speedSlight: weight.default(0.005),
  speed: weight.default(0.2),
  deinterlaceSameRate: weight.default(0.15),
  deinterlaceDoubleRate: weight.default(0.08),
  weave: weight.default(0.6),
  fieldOrder: weight.default(0.03),
  fieldRescale: weight.default(0.15),
  variableRate: weight.default(0.02),
  variableMost: weight.default(0.2),
  dynamicRange: weight.default(0.1),
  primaries: weight.default(0.01),
  depth: weight.default(0.02),
})
export type Policy = z.infer<typeof Policy>

export const defaultPolicy: Policy = Policy.parse({})

/** What detail left unused weighs under each lean. Majority ranks otherwise and weighs as balanced does. */
const unusedDetail: Record<Lean, number> = { balanced: 0.3, sharp: 0.12, detail: 1, majority: 0.3 }

/** The policy under a lean: only the weight of unused detail moves. */
export const leaning = (policy: Policy, lean: Lean): Policy =>
  lean === 'balanced' ? policy : { ...policy, unusedDetail: unusedDetail[lean] }
