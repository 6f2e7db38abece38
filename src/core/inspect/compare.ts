import { type Clip } from '../model/clip'
import { factsOf } from './facts'

/** One fact of several clips, side by side. */
export interface ComparedFact {
  readonly name: string
  readonly values: readonly string[]
  readonly differs: boolean
}

/** The facts of clips in columns; a clip that lacks a fact shows a dash. */
export function compareClips(clips: readonly Clip[]): ComparedFact[] {
  const lines = clips.map((clip) => {
    const named = new Map<string, string>()
    for (const fact of factsOf(clip)) {
      const name = fact.name || 'also'
      named.set(name, named.has(name) ? `${named.get(name)}; ${fact.value}` : fact.value)
    }
    return named
  })
  const names = [...new Set(lines.flatMap((line) => [...line.keys()]))]
  return names.map((name) => {
    const values = lines.map((line) => line.get(name) ?? '–')
    return { name, values, differs: values.some((value) => value !== values[0]) }
  })
}

/** The comparison as text with tabs, for a message or a table elsewhere. */
export const comparisonText = (clips: readonly Clip[], facts: readonly ComparedFact[]): string =>
  [['', ...clips.map((clip) => clip.name)], ...facts.map((fact) => [fact.name, ...fact.values])]
    .map((row) => row.join('\t'))
    .join('\n')
