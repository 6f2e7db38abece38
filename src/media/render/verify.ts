import { LRUCache } from 'lru-cache'
import {
  type Pairs,
  type Reduced,
  type Verdict,
  judged,
  levelsOf,
  meanOffset,
  reduced,
  swapped,
  wholeDifference,
} from '../../core/dispatch/likeness'
import type { Planes } from '../../core/planes/planes'
import { type Compared, proofOf, saidLines, seenLines } from '../../core/dispatch/proof'
import type { Proof } from '../../core/model/proof'
import { type Timeline, placementsIn } from '../../core/model/timeline'
import { read } from '../../core/reading/read'
import { timingOfReading } from '../../core/model/timing'
import { openFrames } from '../frames'
import { kindOfReading } from '../frame-locator'
import { byteSource } from '../source'
import { plannedFrames } from './planned'
import type { Makers, RenderPlan, RenderProgress } from './plan'
import { soundCompared } from './sound-proof'

/** Frames that are looked at where not all are. */
const usualSamples = 120
/** More than these are not compared at once, even where all are asked for. */
const mostFrames = 10_000
/** Colours have to lie so far apart to be compared: what a codec leaves of fainter ones is noise. */
const leastColour = 3

/** Where all is of one level, what is off is told by the mean alone. */
function meansOf(pairs: Pairs) {
  const offset = meanOffset(pairs)
  return offset === null ? null : { slope: 1, offset }
}

/** Frames of a render that are compared: each side of every cut, and others evenly between. */
export function framesToCompare(
  timeline: Timeline,
  { from, to }: RenderPlan['range'],
  all: boolean,
): number[] {
  if (all && to - from <= mostFrames) return Array.from({ length: to - from }, (_, i) => from + i)
  const wanted = new Set<number>([from, to - 1])
  const cuts = placementsIn(timeline).flatMap(({ start, length }) => [start, start + length])
  for (const cut of cuts.slice(0, usualSamples)) for (const n of [cut - 1, cut]) wanted.add(n)
  const every = Math.max(1, (to - from) / usualSamples)
  for (let n = from; n < to; n += every) wanted.add(Math.floor(n))
  return [...wanted].filter((n) => n >= from && n < to).sort((a, b) => a - b)
}

/** A file that is to be read back. */
export interface ProofOrder {
  readonly file: File
  /** Whether every frame is compared. */
  readonly all: boolean
  /** When it is. */
  readonly at: string
}

/** Reads a rendered file back and holds it against what was asked: what it says of itself, its frames, levels and sound against the plan. */
export async function verify(
  order: RenderPlan,
  { file, all, at }: ProofOrder,
  { planes, mix }: Pick<Makers, 'planes' | 'mix'>,
  tell: (progress: RenderProgress) => void,
  signal: AbortSignal,
): Promise<Proof> {
  const { deliverable, range, sound } = order
  const { timeline, format, planesAt } = plannedFrames(order, planes)
  const locator = { kind: 'file', file } as const
  const result = await read(byteSource(locator), signal)
  if (!result.ok) throw new Error(`It cannot be read back: ${result.error.message}`)
  const { reading } = result
  const said = saidLines(deliverable, timeline, range, reading)
  const none: Compared = {
    verdicts: [],
    frames: range.to - range.from,
    levels: null,
    colours: null,
    sound: null,
  }
  const kind = kindOfReading(reading, timingOfReading(reading))
  if (!kind) return proofOf({ at, file: file.name }, said, none)

  /** What was planned, whole and reduced, kept for the frames beside it. */
  const known = new LRUCache<number, { readonly planes: Planes; readonly reduced: Reduced }>({ max: 3 })
  async function planned(n: number) {
    const before = known.get(n)
    if (before) return before
    const whole = await planesAt(n, signal)
    const picture = { planes: whole, reduced: reduced(whole) }
    known.set(n, picture)
    return picture
  }

  const access = await openFrames(locator, kind, 0, signal)
  const verdicts: (Verdict & { readonly n: number })[] = []
  const pairs: (readonly [Reduced, Reduced])[] = []
  const begun = performance.now()
  try {
    const frames = framesToCompare(timeline, range, all)
    for (const [i, n] of frames.entries()) {
      signal.throwIfAborted()
      const others: Record<string, Reduced> = {}
      if (n > range.from) others['the frame before it'] = (await planned(n - 1)).reduced
      const { planes: planPlanes, reduced: plan } = await planned(n)
      if (n + 1 < range.to) others['the frame after it'] = (await planned(n + 1)).reduced
      if (format.scan === 'interlaced') others['its fields swapped'] = swapped(plan)
      // What is the same picture cannot be told from it, nor need it be.
      for (const [name, picture] of Object.entries(others))
        if (picture.values.every((value, k) => value === plan.values[k])) delete others[name]
      const foundPlanes = (await access.planes(n - range.from, signal)).planes
      const found = reduced(foundPlanes)
      const whole = wholeDifference(foundPlanes, planPlanes)
      verdicts.push({ n: n - range.from, ...judged(found, plan, others, whole) })
      if (pairs.length < usualSamples) pairs.push([plan, found])
      const seconds = (performance.now() - begun) / 1000
      tell({ frames: i + 1, total: frames.length, framesPerSecond: (i + 1) / seconds })
    }
  } finally {
    access.close()
  }
  const heard = sound && deliverable.sound ? await soundCompared(order, locator, reading, mix, signal) : null
  const lumas = pairs.map(([plan, found]) => [plan.values, found.values] as const)
  const chromas = pairs.map(([plan, found]) => [plan.colours, found.colours] as const)
  const compared: Compared = {
    verdicts,
    frames: range.to - range.from,
    levels: levelsOf(lumas) ?? meansOf(lumas),
    colours: levelsOf(chromas, leastColour) ?? meansOf(chromas),
    sound: heard,
  }
  return proofOf({ at, file: file.name }, [...said, ...seenLines(compared, deliverable.sound)], compared)
}
