import type { FrameSize } from '../picture/size'
import { displayAspect } from '../picture/size'
import {
  type FramingOverride,
  type Override,
  noSides,
  overridden,
  plainTreatment,
} from '../treatment/treatment'
import { ratio } from '../words/figures'
import type { Placement } from './timeline'

/** The shape of a frame as framings are kept by it: `9:16`. */
export const shapeOf = (frame: FrameSize): string => ratio(displayAspect(frame))

/** What of a framing says where a picture lies, and so may be another in each shape; the rest holds in all of them. */
export const lying = ['mode', 'zoom', 'position', 'crop', 'cropToShape'] as const
type Lying = Pick<FramingOverride, (typeof lying)[number]>

/** Laid as nobody laid it: fitted into the middle, nothing cropped. */
export const plainlyLying: Required<Lying> = {
  mode: plainTreatment.framing.mode,
  zoom: plainTreatment.framing.zoom,
  position: plainTreatment.framing.position,
  crop: noSides,
  cropToShape: false,
}

/** A framing apart: what says where the picture lies, and the rest. */
export function apart(framing: FramingOverride): { readonly lies: Lying; readonly rest: FramingOverride } {
  const framingsBut = (isMeant: (key: string) => boolean) =>
    Object.fromEntries(Object.entries(framing).filter(([key]) => isMeant(key)))
  const isLying = (key: string) => (lying as readonly string[]).includes(key)
  return { lies: framingsBut(isLying), rest: framingsBut((key) => !isLying(key)) }
}

type Treated = Pick<Placement, 'treatment' | 'framingByShape'>

/** All that a placement sets of its own in a frame: where it lies there is told by the shape, where it has a framing for it. */
export function ownTreatment({ treatment, framingByShape }: Treated, frame: FrameSize | null): Override {
  const forShape = frame && framingByShape[shapeOf(frame)]
  return forShape ? overridden(treatment, { framing: forShape }) : treatment
}

/**
 * A placement with something set over what it sets of its own. Where it has a framing for the shape of the frame, that is what is
 * changed of where it lies, and other shapes stay.
 */
export function withSet(
  { treatment, framingByShape }: Treated,
  set: Override,
  frame: FrameSize | null,
): Treated {
  const shape = frame && shapeOf(frame)
  const forShape = shape === null ? undefined : framingByShape[shape]
  if (!forShape || !shape || !set.framing) return { treatment: overridden(treatment, set), framingByShape }
  const { lies, rest } = apart(set.framing)
  return {
    treatment: overridden(treatment, { ...set, framing: rest }),
    framingByShape: {
      ...framingByShape,
      [shape]: overridden({ framing: forShape }, { framing: lies }).framing ?? {},
    },
  }
}

/** Framings by shape without one of them. */
export const withoutShape = (
  framings: Placement['framingByShape'],
  shape: string | null,
): Placement['framingByShape'] =>
  Object.fromEntries(Object.entries(framings).filter(([other]) => other !== shape))
