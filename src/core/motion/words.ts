import { percent } from '../words/figures'
import type { Shown } from './shown'

/** What is shown, in a few words: `frame 12`, `frames 3 and 4, 40 % of the second`, `top field of frame 7`. */
export function shownWords(shown: Shown): string {
  switch (shown.kind) {
    case 'frame':
      return `source frame ${shown.index}`
    case 'field':
      return shown.method === 'blend'
        ? `both fields of source frame ${shown.frame}, averaged`
        : `${shown.parity} field of source frame ${shown.frame}`
    case 'mix':
      return `${shownWords(shown.a)} with ${percent(shown.weightOfB)} of ${shownWords(shown.b)}`
    case 'fields':
      return `fields of source frames ${shown.top.frame} and ${shown.bottom.frame}`
    case 'nothing':
      return 'nothing'
  }
}
