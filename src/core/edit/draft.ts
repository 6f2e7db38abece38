/** A value that may be written, all the way down: what an edit is given. */
export type Draft<T> = T extends (...args: never[]) => unknown
  ? T
  : T extends readonly (infer Item)[]
    ? Draft<Item>[]
    : T extends object
      ? { -readonly [Key in keyof T]: Draft<T[Key]> }
      : T
