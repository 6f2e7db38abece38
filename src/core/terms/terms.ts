import { colourTerms } from './colour'
import { cutTerms } from './cut'
import { fieldTerms } from './fields'
import { fileTerms } from './files'
import { motionTerms } from './motion'
import { ownTerms } from './own'
import { sizeTerms } from './size'
import { soundTerms } from './sound'
import { type Family, type Term, families } from './term'

const byFamily: Readonly<Record<Family, readonly Term[]>> = {
  motion: motionTerms,
  fields: fieldTerms,
  'size and shape': sizeTerms,
  colour: colourTerms,
  files: fileTerms,
  'the cut': cutTerms,
  sound: soundTerms,
  'our own words': ownTerms,
}

/** Every term that is explained, family by family. */
export const termFamilies = families.map((family) => ({ family, terms: byFamily[family] }))
export const allTerms: readonly Term[] = termFamilies.flatMap(({ terms }) => terms)

const byId = new Map(allTerms.map((term) => [term.id, term]))
/** The term of an id; undefined where there is none. */
export const termOf = (id: string): Term | undefined => byId.get(id)

const byWriting = new Map(
  allTerms.flatMap((term) => [term.name, ...term.also].map((text) => [text.toLowerCase(), term] as const)),
)
/** The term that a label means: the label is the term, however it is written; undefined where it is none. */
export const termMeant = (label: string): Term | undefined => byWriting.get(label.trim().toLowerCase())

/** A piece of a text: plain, or one that means a term. */
export interface Piece {
  readonly text: string
  readonly term: Term | null
}

const escaped = (text: string) => text.replace(/[.*+?^${}()|[\]\\/]/g, '\\$&')
/** The longest writing first, so that “field order” is not taken for “order”. */
const writings = new RegExp(
  `(?<![\\p{L}\\p{N}])(${[...byWriting.keys()]
    .sort((a, b) => b.length - a.length)
    .map(escaped)
    .join('|')})(?![\\p{L}\\p{N}])`,
  'giu',
)

/** A text in pieces, the first mention of each term told apart; together the pieces are the text. */
export function marked(text: string): Piece[] {
  const pieces: Piece[] = []
  const seen = new Set<string>()
  let from = 0
  for (const match of text.matchAll(writings)) {
    const term = termMeant(match[0])
    if (!term || seen.has(term.id)) continue
    seen.add(term.id)
    if (match.index > from) pieces.push({ text: text.slice(from, match.index), term: null })
    pieces.push({ text: match[0], term })
    from = match.index + match[0].length
  }
  if (from < text.length || pieces.length === 0) pieces.push({ text: text.slice(from), term: null })
  return pieces
}

/** The terms in which every word of a search stands, those that bear it in their name first. */
export function termsFound(search: string): Term[] {
  const wanted = search.toLowerCase().split(/\s+/).filter(Boolean)
  const inName = ({ name, also }: Term) => [name, ...also].join(' ').toLowerCase()
  const inAll = (term: Term) => `${inName(term)} ${term.says} ${term.costs}`.toLowerCase()
  const found = allTerms.filter((term) => wanted.every((word) => inAll(term).includes(word)))
  const named = (term: Term) => wanted.every((word) => inName(term).includes(word))
  return [...found.filter(named), ...found.filter((term) => !named(term))]
}
