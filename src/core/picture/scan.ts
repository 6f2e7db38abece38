import * as z from 'zod'

/** How a picture was scanned: whole frames, or two fields a frame; `unknown` where nothing states it. */
export const Scan = z.enum(['progressive', 'interlaced', 'unknown'])
export type Scan = z.infer<typeof Scan>

/** Which field of an interlaced frame was taken first. */
export const FieldOrder = z.enum(['top-first', 'bottom-first', 'unknown'])
export type FieldOrder = z.infer<typeof FieldOrder>

/** Which lines a field is made of: the first, third … (top), or the second, fourth … (bottom). */
export const Parity = z.enum(['top', 'bottom'])
export type Parity = z.infer<typeof Parity>

/** The lines of the field that comes first; top first where nothing says. */
export const firstParity = (order: FieldOrder | null): Parity => (order === 'bottom-first' ? 'bottom' : 'top')

export const otherParity = (parity: Parity): Parity => (parity === 'top' ? 'bottom' : 'top')

/** Whether two stated field orders contradict each other; an unknown one contradicts none. */
export const ordersDiffer = (a: FieldOrder | null, b: FieldOrder | null): boolean =>
  a !== null && b !== null && a !== 'unknown' && b !== 'unknown' && a !== b
