import { type FormatOrigin, type SetBy } from '../model/timeline'
import type { Decision } from '../model/project'
import { formatName, tradeName } from '../format/format'

/** How a format came to be set, in a word or three. */
export const setByWords: Record<SetBy, string> = {
  typed: 'typed',
  standard: 'a standard format',
  own: 'an own format',
  clip: 'taken from a clip',
  recommended: 'recommended',
  tried: 'tried',
  delivery: 'as delivered',
}

/** How a timeline came by its own format: `typed`, `taken from bell.mp4`. */
export const originWords = ({ setBy, clip }: FormatOrigin): string =>
  clip ? `taken from ${clip}` : setByWords[setBy]

/** The decision log as text: when, what, from what, and why with the figures of that time. Newest first. */
export const logText = (projectName: string, decisions: readonly Decision[]): string =>
  [
    `${projectName}: decisions on the format`,
    ...[...decisions].reverse().map(({ at, format, setBy, reason }) => {
      const trade = tradeName(format)
      return `${at.slice(0, 16).replace('T', ' ')}  ${formatName(format)}${trade ? ` (${trade})` : ''}, ${setByWords[setBy]}. ${reason}`
    }),
  ].join('\n')
