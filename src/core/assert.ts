/**
 * Holds what must be true by the way the code is built.
 * @param sentence what was taken for granted, for whoever finds it broken
 * @throws Error where it is not: a mistake of ours, never of a file or of the editor
 */
export function assert(condition: unknown, sentence: string): asserts condition {
  if (!condition) throw new Error(`Broken promise: ${sentence}`)
}

/** A value that must be there, with the sentence that says why. @throws Error where it is not */
export function present<T>(value: T | null | undefined, sentence: string): T {
  assert(value !== null && value !== undefined, sentence)
  return value
}
