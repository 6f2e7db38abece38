import type { Filter } from '../treatment/treatment'

/** A filter that weighs samples by how far they lie from where one is wanted. */
export interface FilterKernel {
  /** Beyond this distance it weighs nothing, in source samples where nothing is reduced. */
  readonly radius: number
  at(distance: number): number
}

const sinc = (x: number): number => (x === 0 ? 1 : Math.sin(Math.PI * x) / (Math.PI * x))

/** Keys 1981, a = −0.5. */
function keys(x: number): number {
  const a = Math.abs(x)
  if (a < 1) return (1.5 * a - 2.5) * a * a + 1
  return a < 2 ? ((-0.5 * a + 2.5) * a - 4) * a + 2 : 0
}

/** The filters that weigh; the nearest sample is taken as it is. */
export const filterKernelOf: Readonly<Record<Exclude<Filter, 'nearest'>, FilterKernel>> = {
  bilinear: { radius: 1, at: (x) => Math.max(0, 1 - Math.abs(x)) },
  bicubic: { radius: 2, at: keys },
  lanczos: { radius: 3, at: (x) => (Math.abs(x) < 3 ? sinc(x) * sinc(x / 3) : 0) },
}
