import { codedPictures } from '../bitstream/pictures'
import type { ElementaryStretch } from './demultiplex'

/** Times wrap after 33 bits, about a day. */
export const wrap = 2 ** 33
/** Times are counted in ticks of 90 kHz. */
export const clock = 90_000

/** A time as it goes on from another, however often the count began anew. */
export const goingOn = (time: number, from: number): number => (time < from - wrap / 2 ? time + wrap : time)

/** What the pictures of a stretch come to. */
export interface StretchTimes {
  /** Frames whose first header lies in the stretch. */
  readonly frames: number
  /** How many fields all of them are shown for. */
  readonly fields: number
  /** How many are shown for three. */
  readonly repeats: number
  /** When they are shown, rising, in ticks; a frame whose time nothing tells is left out. */
  readonly times: readonly number[]
  /** How many of the times at each end may lack a neighbour that is stored beyond it. */
  readonly unsettled: { readonly first: number; readonly last: number }
}

interface Frame {
  time: number | null
  readonly fields: number
  readonly order: number | null
  readonly opensGroup: boolean
}

/**
 * When the pictures of a stretch are shown. A time belongs to the first picture that begins in its packet (ISO/IEC 13818-1 §2.4.3.7);
 * those between are reckoned from their place in the group and from the picture rate.
 * @param stated frames a second, as the stream has it; null where it does not
 * @param from a time that all of them go on from
 */
export function pictureTimes(
  codec: string,
  stretch: ElementaryStretch,
  stated: number | null,
  from: number,
): StretchTimes {
  const marks = stretch.times.map(({ at, time }) => ({ at, time: goingOn(time, from) }))
  const coded = codedPictures(codec, stretch.bytes())
  const frames: Frame[] = coded
    ? coded.map(({ fields, order, opensGroup }) => ({ time: null, fields, order, opensGroup }))
    : marks.map(({ time }) => ({ time, fields: 2, order: null, opensGroup: false }))
  if (coded) {
    let next = 0
    for (const [i, { at, time }] of marks.entries()) {
      while (next < coded.length && (coded[next]?.at ?? 0) < at) next++
      const [frame, begins] = [frames[next], coded[next]?.at ?? Infinity]
      if (frame && begins < (marks[i + 1]?.at ?? Infinity)) frame.time = time
    }
    if (stated !== null) fillGroups(frames, clock / (2 * stated))
  }
  const stored = frames.flatMap(({ time }) => (time === null ? [] : [time]))
  return {
    frames: frames.length,
    fields: frames.reduce((sum, { fields }) => sum + fields, 0),
    repeats: frames.filter(({ fields }) => fields === 3).length,
    times: [...new Set(stored)].sort((a, b) => a - b),
    unsettled: unsettled(stored),
  }
}

/** Gives the pictures of groups that are numbered the times that they lack. */
function fillGroups(frames: readonly Frame[], fieldTicks: number): void {
  let [begin, goesOn]: [number, number | null] = [0, null]
  while (begin < frames.length) {
    let end = begin + 1
    while (end < frames.length && !frames[end]?.opensGroup) end++
    const group = frames.slice(begin, end).filter(({ order }) => order !== null)
    group.sort((a, b) => (a.order ?? 0) - (b.order ?? 0))
    const repeats = group.some(({ fields }) => fields !== 2)
    const first = group[0]?.order ?? 0
    let passed = 0
    const places = group.map(({ order, fields }) => {
      const place = repeats ? passed : ((order ?? 0) - first) * 2
      passed += fields
      return place * fieldTicks
    })
    const known = group.findIndex(({ time }) => time !== null)
    const base: number | null = known < 0 ? goesOn : (group[known]?.time ?? 0) - (places[known] ?? 0)
    if (base !== null) {
      group.forEach((frame, i) => (frame.time ??= Math.round(base + (places[i] ?? 0))))
      goesOn = base + (places.at(-1) ?? 0) + (group.at(-1)?.fields ?? 2) * fieldTicks
    }
    begin = end
  }
}

/** How far pictures are stored out of their order: behind how many later ones, and in front of how many earlier ones. */
function unsettled(stored: readonly number[]): StretchTimes['unsettled'] {
  const deepest = 32
  let [first, last] = [0, 0]
  stored.forEach((time, i) => {
    let [later, earlier] = [0, 0]
    for (let j = Math.max(0, i - deepest); j < i; j++) if ((stored[j] ?? 0) > time) later++
    for (let j = i + 1; j < Math.min(stored.length, i + deepest); j++) if ((stored[j] ?? 0) < time) earlier++
    last = Math.max(last, later)
    first = Math.max(first, earlier)
  })
  return { first, last }
}
