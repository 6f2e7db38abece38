import * as z from 'zod'

/** What the editor leans to when sizes are mixed. */
export const Ranking = z.enum(['balanced', 'sharp', 'detail', 'motion', 'majority'])
export type Ranking = z.infer<typeof Ranking>

const weight = z.number().min(0).max(1)

/** What a lean sets: how much it weighs that detail is left unused, that pixels are invented, that the frame stays empty. */
const rankingWeightsSchema = (unused: number, invented: number, bars: number) =>
  z.object({
    /** Loss for each share of the source's pixels that a reduction leaves unused. */
    unused: weight.default(unused),
    /** Loss for each share of the output's pixels that an enlargement invents. */
    invented: weight.default(invented),
    /** Loss for each share of the frame that is barred. */
    bars: weight.default(bars),
  })
const rankingWeights = (unused: number, invented: number, bars: number) =>
  rankingWeightsSchema(unused, invented, bars).prefault({})
export type RankingWeights = z.infer<ReturnType<typeof rankingWeights>>

/** Every weight of a charge and every share of the choice: the one place where they stand, shown to and changeable by the editor. */
export const Policy = z.object({
  /** Majority ranks otherwise and weighs as balanced does. */
  leans: z
    .object({
      balanced: rankingWeights(0.3, 1, 0.5),
      sharp: rankingWeights(0.12, 1, 0.5),
      // Bars lose no pixel.
      detail: rankingWeights(1, 0.25, 0.25),
      /** Loss for the share of frames that are left out, where every moment is to be kept. */
      motion: rankingWeightsSchema(0.3, 1, 0.5)
        .extend({ skip: weight.default(0.3) })
        .prefault({}),
    })
    .prefault({}),
  /** Loss for each share of the picture that is cropped. */
  crop: weight.default(0.5),
  distortion: z.number().min(0).max(10).default(2),
  /** Loss for the share of timeline frames that show a source frame again. */
  repeat: weight.default(0.06),
  /** Loss for the share of source frames that are left out. */
  skip: weight.default(0.08),
  slip: weight.default(0.02),
  /** Loss for each slip a minute, at most `slipMost`. */
  slipPerMinute: weight.default(0.01),
  slipMost: weight.default(0.1),
  /** Loss for each millisecond of judder, at most `judderMost`. */
  judderPerMs: weight.default(0.04),
  judderMost: weight.default(0.6),
  pulldown: weight.default(0.02),
  /** Loss for the share of frames that two source frames are mixed in, besides half of what unevenness costs. */
  blend: weight.default(0.1),
  speedSlight: weight.default(0.005),
  /** Two thirds of a semitone: 23.976, 24 and 25 in each other. */
  speedNear: weight.default(0.05),
  speed: weight.default(0.2),
  /** By method, whatever of it is shown; a single field has half of the lines, and both averaged are soft and double. */
  deinterlaceAdaptive: weight.default(0.08),
  deinterlaceInterpolate: weight.default(0.1),
  deinterlaceSingle: weight.default(0.13),
  weave: weight.default(0.6),
  fieldsFromFrames: weight.default(0.02),
  fieldOrder: weight.default(0.03),
  fieldRescale: weight.default(0.15),
  variableRate: weight.default(0.02),
  variableMost: weight.default(0.2),
  dynamicRange: weight.default(0.1),
  /** PQ to HLG and back. */
  transfer: weight.default(0.02),
  primaries: weight.default(0.01),
  /** A conversion of dynamic range, primaries or matrix that is needed and not made. */
  dynamicRangeWrong: weight.default(0.4),
  primariesWrong: weight.default(0.05),
  matrixWrong: weight.default(0.15),
  /** Light of a scene that is shown by a display's curve; a logarithm or raw that nobody has graded or developed. */
  linear: weight.default(0.02),
  undeveloped: weight.default(0.05),
  depth: weight.default(0.02),
  /** Of the enlargement of a timeline to the screen that it will be seen on, where no delivery is known. */
  screen: weight.default(0.6),
  /** An interlaced timeline where no delivery is known: screens are progressive. */
  interlacedOut: weight.default(0.06),
  /** A rate that is foreign to the mains region, where no delivery is known. */
  foreignRate: weight.default(0.03),
  /** Shares of the weight that something has to hold before it counts in the choice. */
  shares: z
    .object({
      /** To propose its size or its rate. */
      proposes: weight.default(0.1),
      /** For an orientation, upright or lying, to be offered. */
      orientation: weight.default(0.25),
      /** For a size that nobody would set up otherwise. */
      oddSize: weight.default(0.9),
      /** The same, where the largest share that is untouched decides. */
      oddSizeMajority: weight.default(0.5),
      /** For interlaced footage to propose an interlaced format, and its rate of frames. */
      interlaced: weight.default(0.5),
      /** For interlaced footage to propose its rate of fields. */
      fields: weight.default(1 / 3),
      /** For a rate that is foreign to the region, and for one that is not delivered where others are. */
      otherRate: weight.default(0.5),
      /** For clips of usual rates, before those count less that were filmed to be slowed or sped up. */
      usualRates: weight.default(0.05),
      /** What those count then. */
      filmedOtherwise: weight.default(0.1),
    })
    .prefault({}),
})
export type Policy = z.infer<typeof Policy>

export const defaultPolicy: Policy = Policy.parse({})

/** A policy under a lean: what tolls are weighed with. */
export type Weights = Policy & RankingWeights

/** The policy under a lean. */
export const weightsForRanking = (policy: Policy, lean: Ranking): Weights => ({
  ...policy,
  ...policy.leans[lean === 'majority' ? 'balanced' : lean],
})

export const defaultWeights: Weights = weightsForRanking(defaultPolicy, 'balanced')

/** The mains frequency of a region: where lamps flicker at 50 or at 60 Hz, rates that go with them do not beat. */
export const Mains = z.literal([50, 60])
export type Mains = z.infer<typeof Mains>
