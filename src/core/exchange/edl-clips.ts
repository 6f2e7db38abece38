import { type Result, failure } from '../result'
import { type Clip, claimsOf } from '../model/clip'
import { secondsInFile } from '../model/timing'
import type { Rate } from '../rate/rate'
import { toNumber } from '../rational/rational'
import { counted } from '../words/figures'
import { inFile, momentOf } from './edl-labels'
import type { EventLine } from './edl-text'

const withoutEnding = (name: string): string => name.replace(/\.[^.]*$/, '')
const lettersOf = (name: string): string => name.toUpperCase().replace(/[^A-Z0-9]/g, '')

/**
 * Finds the clip that a line of a list means: by its name, its reel and the timecode that lies within it, each where the ones before it
 * leave several.
 * @returns a function that gives the clip, or why there is none, in a sentence
 */
export function clipFinder(clips: readonly Clip[]) {
  const named = new Map<string, Clip[]>()
  const reeled = new Map<string, Clip[]>()
  const add = (into: Map<string, Clip[]>, key: string, clip: Clip) => {
    const known = into.get(key)
    if (!known) into.set(key, [clip])
    else if (!known.includes(clip)) known.push(clip)
  }
  for (const clip of clips) {
    for (const name of [clip.name, withoutEnding(clip.name)]) add(named, name.toUpperCase(), clip)
    const reel = claimsOf(clip)?.reel
    if (reel) add(reeled, lettersOf(reel), clip)
    else add(reeled, lettersOf(withoutEnding(clip.name)), clip)
  }
  const byReel = (reel: string): readonly Clip[] => {
    const letters = lettersOf(reel)
    const whole = reeled.get(letters)
    if (whole) return whole
    // Reels of a list have eight letters.
    return [...reeled].flatMap(([name, found]) => (letters && name.startsWith(letters) ? found : []))
  }
  const holds = (clip: Clip, label: string, rate: Rate): boolean => {
    const moment = momentOf(clip, label, rate)
    if (!moment) return false
    const lasts = secondsInFile(clip)
    const still = clip.reading?.kind === 'still'
    return still || (moment.num >= 0 && toNumber(inFile(clip, moment)) <= lasts + 1 / toNumber(rate))
  }
  return (line: EventLine, rate: Rate | null): Result<{ clip: Clip }> => {
    const called = line.name ?? line.reel
    const wanted = line.name === null ? [] : (named.get(line.name.toUpperCase()) ?? [])
    const file = line.file?.replace(/\\/g, '/')
    const placed = file
      ? wanted.filter(({ folder, name }) => file.endsWith(folder ? `${folder}/${name}` : name))
      : []
    const ofReel = byReel(line.reel)
    const within = (clips: readonly Clip[]) =>
      rate ? clips.filter((clip) => holds(clip, line.sourceIn.text, rate)) : clips
    const known = placed.length === 1 ? placed : wanted.length > 0 ? wanted : ofReel
    if (known.length === 0) return failure(`“${called}” is not among the clips`)
    const narrowed = known.length > 1 ? known.filter((clip) => ofReel.includes(clip)) : known
    const left = narrowed.length > 0 ? narrowed : known
    const [only, second] = within(left)
    const [onlyClip] = within(known)
    const found = only ?? (narrowed.length > 0 ? onlyClip : undefined)
    if (!found) return failure(`“${called}” holds no ${line.sourceIn.text}`)
    if (second && rate)
      return failure(`${counted(within(left).length, 'clip')} are “${called}” and hold ${line.sourceIn.text}`)
    return { ok: true, clip: found }
  }
}
