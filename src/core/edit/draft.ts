import { current, isDraft } from 'immer'
import type { Doc } from '../model/project'

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

/**
 * A document that is being written, to be read: its clips are what they are now, not a draft of them. Of 25 000 clips the first that is
 * read through a draft costs a copy of the whole table, 14 ms; an edit of a timeline reads one and writes none.
 */
export const readable = (doc: Draft<Doc>): Doc => ({ ...doc, clips: asIs<Doc['clips']>(doc.clips) })
