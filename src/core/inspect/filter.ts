import { differencesFrom, oddities } from './marks'
import { contradictionsOf } from './contradictions'
import { measuredOf } from './measured'
import { type Clip } from '../model/clip'
import type { Format } from '../format/format'
import { codecLabel, rateLabel, uprightSizeName } from './labels'

const texts = new WeakMap<Clip, string>()

/** All that a clip can be found by, in lower case; made once for each state of a clip. */
function findable(clip: Clip): string {
  const known = texts.get(clip)
  if (known !== undefined) return known
  const { reading } = clip
  const video = reading?.video
  const text = [
    clip.name,
    clip.folder,
    reading?.kind,
    reading?.container,
    codecLabel(clip),
    uprightSizeName(clip),
    uprightSizeName(clip).replace('×', 'x'),
    rateLabel(clip),
    video?.scan,
    video?.rateMode,
    video?.bitDepth && `${video.bitDepth} bit ${video.bitDepth}-bit`,
    video?.chroma,
    video?.alpha && 'alpha',
    ...(reading?.audio ?? []).map((sound) => `${sound.codec} ${sound.sampleRate}`),
    reading?.timecode?.start,
    reading?.reel,
    ...(reading ? oddities(reading).map((mark) => mark.short) : []),
    ...measuredOf(clip).map(({ short, kind }) => `${short} ${kind}`),
    contradictionsOf(clip).length > 0 && 'contradicts',
    clip.fault && `not read ${clip.fault.code}`,
  ]
    .filter(Boolean)
    .join(' ')
    .toLowerCase()
  texts.set(clip, text)
  return text
}

/** Whether every word of a query is found in a clip's name or facts; `differs` finds what differs from the project. */
export function matches(clip: Clip, query: string, format: Format | null): boolean {
  const words = query
    .toLowerCase()
    .split(/[\s,]+/)
    .filter(Boolean)
  return words.every((word) => {
    if (word === 'differs')
      return Boolean(format && clip.reading && differencesFrom(clip.reading, format).length)
    return findable(clip).includes(word)
  })
}
