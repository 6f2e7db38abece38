/** What falls due when, and what of it was shown: the one place where playing is counted. */
export interface Pace {
  /** The frame that is due at a moment; null before the first and once it is over. */
  dueAt(milliseconds: number): number | null
  /** Tells that a frame was shown while it was due. */
  show(milliseconds: number): void
  /** Frames that have fallen due by a moment, and those that were shown in time. */
  counted(milliseconds: number): { readonly due: number; readonly shown: number; readonly perSecond: number }
}

/**
 * @param startAt when the first frame falls due, in milliseconds of the clock that moments are told by
 * @param perSecond frames that fall due in a second
 * @param from the first frame of the stretch, `to` the one after its last, `start` where it begins within
 */
export function paceOf(
  startAt: number,
  perSecond: number,
  {
    from,
    to,
    start,
    loops,
  }: { readonly from: number; readonly to: number; readonly start: number; readonly loops: boolean },
): Pace {
  const length = Math.max(1, to - from)
  /** How manieth frame since the beginning falls due. */
  const ordinalAt = (milliseconds: number) =>
    // A frame is due from its first instant on; dust of the clock must not put it off to the next picture.
    Math.floor(((milliseconds - startAt) * perSecond) / 1000 + 1e-6)
  const all = loops ? Infinity : to - start
  let shown = 0
  let last = -1
  return {
    dueAt(milliseconds) {
      const ordinal = ordinalAt(milliseconds)
      if (ordinal < 0 || ordinal >= all) return null
      return from + ((start - from + ordinal) % length)
    },
    show(milliseconds) {
      const ordinal = ordinalAt(milliseconds)
      if (ordinal > last) {
        last = ordinal
        shown++
      }
    },
    counted(milliseconds) {
      const due = Math.max(0, Math.min(all, ordinalAt(milliseconds) + 1))
      return { due, shown, perSecond: due > 0 ? (perSecond * shown) / due : 0 }
    },
  }
}
