import { current, isDraft } from 'immer'

/** A value that may be written, all the way down: what an edit is given. */
export type Draft<T> = T extends (...args: never[]) => unknown
  ? T
  : T extends readonly (infer Item)[]
    ? Draft<Item>[]
    : T extends object
      ? { -readonly [Key in keyof T]: Draft<T[Key]> }
      : T

/**
 * What a draft holds now, to be read. Going through a draft makes a draft of each item: of a hundred thousand placements that takes a
 * second. What was not changed is the value itself.
 */
export const asIs = <T>(draft: Draft<T>): T => (isDraft(draft) ? current(draft as never) : draft) as T
