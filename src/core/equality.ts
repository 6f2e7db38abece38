import { dequal } from 'dequal/lite'

/**
 * Whether two values hold the same, whatever the order of their properties. A property that is there and undefined is another than none:
 * what is compared was parsed by a schema or made by our own functions, and has neither by chance.
 */
export const deepEqual = (a: unknown, b: unknown): boolean => dequal(a, b)
