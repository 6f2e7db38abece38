/** What did not come about, and why. */
export interface Failure<E = string> {
  readonly ok: false
  readonly error: E
}

/**
 * What can fail as expected: what came of it, or why nothing did, in a sentence. What is thrown is a bug of ours, or an abort by whoever
 * asked.
 */
export type Result<T extends object, E = string> = (Readonly<T> & { readonly ok: true }) | Failure<E>

export const failure = <E>(error: E): Failure<E> => ({ ok: false, error })
