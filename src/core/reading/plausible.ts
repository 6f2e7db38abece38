import { rational } from '../rational/rational'
import { type Note, Reading } from './reading'

/** Facts that are never null, and what stands in for an absurd one. */
const standIns: Record<string, unknown> = { pixelAspect: rational(1), rotation: 0, sizeBytes: 0 }

/**
 * Passes a reading through its schema: a fact that no recording can have (a rate of 90 000, a month of film, a size of no
 * raster) becomes null, and a note carries what was claimed. A picture without a believable size is left out whole.
 */
export function plausible(claimed: Reading): Reading {
  const first = Reading.safeParse(claimed)
  if (first.success) return first.data
  const reading = structuredClone(claimed) as unknown as Record<string, unknown>
  const notes: Note[] = []
  for (const { path } of first.error.issues) {
    const fact = factAt(path)
    const dropped = drop(reading, fact)
    if (dropped !== undefined) notes.push({ code: 'implausible', message: inWords(fact, dropped) })
  }
  return Reading.parse({ ...reading, notes: [...claimed.notes, ...notes] })
}

/** The fact that an issue is about: `video.rate` for `video.rate.num`. */
const factAt = (path: readonly PropertyKey[]): string[] =>
  path.slice(0, path[0] === 'video' ? 2 : path[0] === 'audio' ? 3 : 1).map(String)

/** Takes a fact out and gives what it was; undefined where it is gone already. */
function drop(reading: Record<string, unknown>, fact: readonly string[]): unknown {
  const key = fact.at(-1) ?? ''
  let holder: Record<string, unknown> | null = reading
  for (const step of fact.slice(0, -1)) holder = (holder?.[step] ?? null) as Record<string, unknown> | null
  if (!holder) return undefined
  const was = holder[key]
  if (fact[0] === 'video' && (key === 'width' || key === 'height')) {
    const { width, height } = holder
    reading.video = null
    return { width, height }
  }
  if (key in standIns) holder[key] = standIns[key]
  else if (/Rate$|Share$/.test(key) && fact[0] === 'video') delete holder[key]
  else holder[key] = null
  return was
}

const names: Record<string, string> = {
  durationSec: 'duration in seconds',
  frameCount: 'number of frames',
  pixelAspect: 'pixel shape',
  bitDepth: 'bit depth',
  sampleRate: 'sample rate',
  recordedAt: 'date',
  width: 'picture size',
  height: 'picture size',
}

function inWords(fact: readonly string[], value: unknown): string {
  const key = fact.at(-1) ?? ''
  const name = names[key] ?? key.replace(/[A-Z]/g, (letter) => ` ${letter.toLowerCase()}`)
  return `The file claims a ${name} of ${shown(value)}: that is not believed.`
}

function shown(value: unknown): string {
  if (typeof value !== 'object' || value === null) return String(value)
  const { width, height, num, den } = value as Record<string, unknown>
  if (width !== undefined) return `${String(width)}×${String(height)}`
  return num === undefined ? JSON.stringify(value) : `${String(num)}/${String(den)}`
}
