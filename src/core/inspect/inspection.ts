import { differencesFrom, oddities } from './marks'
import { type Clip } from '../model/clip'
import type { Format } from '../format/format'
import { columns } from './columns'

/** The whole list as rows of a table, head first: every column, then what differs and what is odd, in sentences. */
export function inspectionRows(clips: readonly Clip[], format: Format | null): string[][] {
  const head = [...columns.map((column) => column.title), 'differs from the project', 'odd', 'not read']
  const rows = clips.map((clip) => [
    ...columns.map((column) => column.text(clip)),
    clip.reading && format
      ? differencesFrom(clip.reading, format)
          .map((mark) => mark.sentence)
          .join(' ')
      : '',
    clip.reading
      ? oddities(clip.reading)
          .map((mark) => mark.sentence)
          .join(' ')
      : '',
    clip.fault?.message ?? '',
  ])
  return [head, ...rows]
}
