/** What playing does when pictures are not made as fast as they fall due: the rules, without pictures. */

/** A stretch that plays: from its first frame to before its last. */
interface Stretch {
  readonly from: number
  readonly to: number
  readonly loops: boolean
}

/** Past this, a frame takes so long to make that the next ones are key frames: they can be had at once. */
const hopeless = 300

/** How long frames take to make, in milliseconds: what the last ones took. */
export function makingTime() {
  let took = 0
  return {
    /** Told how long one took. */
    add: (milliseconds: number) => void (took = took === 0 ? milliseconds : 0.5 * took + 0.5 * milliseconds),
    took: () => took,
    /** Whether any frame will do, since those that are due cannot be had in time. */
    isHopeless: () => took > hopeless,
  }
}

/**
 * The frame that is made next: the one that follows, or, where that fell due already, the first that can still be in time.
 * @param next that follows what was made last
 * @param due now; null before the first
 * @param took how long a frame takes to make, in milliseconds
 * @returns null where none is left
 */
export function frameToMake(
  next: number,
  due: number | null,
  took: number,
  perSecond: number,
  { from, to, loops }: Stretch,
): number | null {
  if (due === null) return next
  const length = to - from
  const ahead = loops ? (next - due + length) % length : next - due
  // Of a stretch that goes round, what is more than half of it ahead is behind.
  const isBehind = loops ? ahead === 0 || ahead > length / 2 : ahead <= 0
  if (!isBehind) return next
  const inTime = due + 1 + Math.ceil((took * perSecond) / 1000)
  if (loops) return from + ((inTime - from) % length)
  return inTime < to ? inTime : due < to - 1 ? to - 1 : null
}

/** The frame that is put on screen: the one that is due, else the newest that is ready and was not shown yet; null where none is. */
export function frameToShow(
  ready: Iterable<number>,
  due: number,
  shown: number,
  loops: boolean,
): number | null {
  let best: number | null = null
  for (const n of ready) {
    if (n === due) return due
    if (!loops && n < due && n > shown && (best === null || n > best)) best = n
  }
  return best
}

/** How large pictures are made, as a share of their view: smaller before fewer of them are shown. */
export function pictureSize() {
  let [share, due, shown, since] = [1, 0, 0, 0]
  return {
    share: () => share,
    /** Told at times what was counted so far. */
    count(time: number, counted: { readonly due: number; readonly shown: number }) {
      if (since === 0) since = time
      if (time - since < 250 || counted.due - due < 4) return
      const missed = counted.due - due - (counted.shown - shown)
      if (missed > (counted.due - due) / 5 && share > 0.25) share /= 2
      ;[due, shown, since] = [counted.due, counted.shown, time]
    },
  }
}
