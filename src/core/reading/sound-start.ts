import type { AudioFacts } from './reading'

/** What is shorter than this is no distance: a tick of the coarsest clock, in seconds. */
const least = 1e-6

/**
 * Sound with when it begins to be heard, counted from the first frame.
 * @param sound its first heard sample, in seconds by the clock of the file; null where that is not known
 * @param picture the first frame that is shown, by the same clock; null without one
 */
export function startingAt(facts: AudioFacts, sound: number | null, picture: number | null): AudioFacts {
  if (sound === null || picture === null) return facts
  const startSec = Math.round((sound - picture) * 1e9) / 1e9
  return Number.isFinite(startSec) && Math.abs(startSec) > least ? { ...facts, startSec } : facts
}
