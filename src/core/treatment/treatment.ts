import * as z from 'zod'
import { Rational, rational, toNumber } from '../rational/rational'

/**
 * How one placed clip is made to run in its timeline's format: the value that toll, viewer, plan and render all read.
 * `auto` is what nobody's treatment is: fit, frames as they land, fields as they cost least.
 */

/** An exact number of pixels, from far left to far right of any raster. */
const Offset = Rational.refine((r) => Math.abs(toNumber(r)) <= 2 ** 20, { error: 'it lies off every raster' })
const Scale = Rational.refine((r) => toNumber(r) > 0 && toNumber(r) <= 1000, {
  error: 'a scale is more than 0 and at most 1000',
})

/** Pixels on each side of a picture or a frame. */
export const Sides = z
  .object({
    left: z.number().nonnegative(),
    right: z.number().nonnegative(),
    top: z.number().nonnegative(),
    bottom: z.number().nonnegative(),
  })
  .readonly()
export type Sides = z.infer<typeof Sides>
export const noSides: Sides = { left: 0, right: 0, top: 0, bottom: 0 }

/**
 * How a picture is laid into a frame. `one-to-one`: a stored row on each timeline row. `placed`: where it stands is said,
 * scales in timeline pixels per stored pixel, `x` and `y` from the middle of the frame to the middle of the picture.
 */
export const FramingMode = z
  .discriminatedUnion('kind', [
    z.object({ kind: z.literal('fit') }),
    z.object({ kind: z.literal('fill') }),
    z.object({ kind: z.literal('stretch') }),
    z.object({ kind: z.literal('one-to-one') }),
    z.object({ kind: z.literal('placed'), scaleX: Scale, scaleY: Scale, x: Offset, y: Offset }),
  ])
  .readonly()
export type FramingMode = z.infer<typeof FramingMode>

export const Filter = z.enum(['nearest', 'bilinear', 'bicubic', 'lanczos'])
export type Filter = z.infer<typeof Filter>

const FramingFields = z.object({
  mode: FramingMode,
  /** Enlargement on top of the mode, 1 = none. */
  zoom: Rational.refine((r) => toNumber(r) > 0 && toNumber(r) <= 100, {
    error: 'a zoom is more than 0 and at most 100',
  }),
  /** From where the mode puts the middle of the picture, in timeline pixels; right and down are positive. */
  position: z.object({ x: Offset, y: Offset }).readonly(),
  /** Stored pixels cut off on each side before framing, along the timeline's axes. */
  crop: Sides,
  /** Whether the crop keeps the timeline's shape while it is dragged. */
  cropToShape: z.boolean(),
  /** `kept`: scaled from the source at any zoom; `baked`: brought to the timeline's raster first. */
  reduction: z.enum(['kept', 'baked']),
  filter: Filter,
  /** Sharpening after scaling, by amount and radius in pixels; null for none. */
  sharpen: z
    .object({ amount: z.number().min(0).max(5), radius: z.number().min(0.1).max(20) })
    .readonly()
    .nullable(),
})
export const Framing = FramingFields.readonly()
export type Framing = z.infer<typeof Framing>

/** Where in the 2:3 pattern AA BB BC CD DD the frame at source time 0 stands. */
export const Phase = z.literal([0, 1, 2, 3, 4])
export type Phase = z.infer<typeof Phase>

/** How fast a clip passes: each of its frames on one of the timeline's, or so many times as fast as filmed. */
const Pace = z
  .discriminatedUnion('kind', [
    z.object({ kind: z.literal('every-frame') }),
    z.object({ kind: z.literal('factor'), factor: Scale }),
  ])
  .readonly()

export const Motion = z
  .discriminatedUnion('kind', [
    z.object({ kind: z.literal('auto') }),
    z.object({ kind: z.literal('hold') }),
    z.object({ kind: z.literal('blend') }),
    z.object({
      kind: z.literal('speed'),
      pace: Pace,
      /** Whether it is meant (slow motion), and so costs nothing. */
      wanted: z.boolean(),
      keepPitch: z.boolean(),
    }),
    z.object({ kind: z.literal('pulldown'), phase: Phase }),
    z.object({ kind: z.literal('remove-pulldown'), phase: Phase }),
  ])
  .readonly()
export type Motion = z.infer<typeof Motion>

/** How the missing lines of a field are made. */
export const FieldMethod = z.enum(['interpolate', 'adaptive', 'single'])
export type FieldMethod = z.infer<typeof FieldMethod>

export const Fields = z
  .discriminatedUnion('kind', [
    z.object({ kind: z.literal('auto') }),
    z.object({ kind: z.literal('weave') }),
    z.object({ kind: z.literal('from-frames') }),
    z.object({ kind: z.literal('blend') }),
    z.object({
      kind: z.literal('deinterlace'),
      method: FieldMethod,
      rate: z
        .discriminatedUnion('kind', [
          z.object({ kind: z.literal('same'), keep: z.enum(['first', 'second']) }),
          z.object({ kind: z.literal('double') }),
        ])
        .readonly(),
    }),
  ])
  .readonly()
export type Fields = z.infer<typeof Fields>

/** `auto`: what the format needs; else one conversion, named (ITU-R BT.2446 A, BT.2408), or none at all. */
export const ColourConversion = z.enum([
  'auto',
  'none',
  'matrix',
  'hdr-to-sdr',
  'sdr-to-hdr',
  'pq-to-hlg',
  'hlg-to-pq',
])
export type ColourConversion = z.infer<typeof ColourConversion>

const TreatmentFields = z.object({
  framing: Framing,
  motion: Motion,
  fields: Fields,
  /** Shows an interlaced picture one line lower, so that its field order becomes the other. */
  shiftOrder: z.boolean(),
  colour: ColourConversion,
})
export const Treatment = TreatmentFields.readonly()
export type Treatment = z.infer<typeof Treatment>

/** What of a treatment is set; all else is as it would be without. */
export const FramingOverride = FramingFields.partial().readonly()
export type FramingOverride = z.infer<typeof FramingOverride>
export const Override = TreatmentFields.partial().extend({ framing: FramingOverride.optional() }).readonly()
export type Override = z.infer<typeof Override>

/** What is set, with what is set over it; what is not told stays as it was. */
export function overridden(override: Override, set: Override): Override {
  const framing = { ...override.framing, ...withoutUnset(set.framing ?? {}) }
  return {
    ...override,
    ...withoutUnset(set),
    ...(Object.keys(framing).length > 0 ? { framing } : {}),
  }
}

/** Nobody's treatment. */
export const plainTreatment: Treatment = {
  framing: {
    mode: { kind: 'fit' },
    zoom: rational(1),
    position: { x: rational(0), y: rational(0) },
    crop: noSides,
    cropToShape: false,
    reduction: 'kept',
    filter: 'lanczos',
    sharpen: null,
  },
  motion: { kind: 'auto' },
  fields: { kind: 'auto' },
  shiftOrder: false,
  colour: 'auto',
}

/** A treatment with what is set on it; later ones win over earlier ones, fact by fact. */
export function treated(overrides: readonly Override[], base: Treatment = plainTreatment): Treatment {
  let [result, framing] = [base, base.framing]
  for (const override of overrides) {
    result = { ...result, ...withoutUnset(override) } as Treatment
    framing = { ...framing, ...withoutUnset(override.framing ?? {}) }
  }
  return { ...result, framing }
}

/** What is `undefined` sets nothing. */
const withoutUnset = <T extends object>(value: T): Partial<T> =>
  Object.fromEntries(Object.entries(value).filter(([, v]) => v !== undefined)) as Partial<T>
