import { type Colour } from '../picture/colour'
import { type FieldOrder, type Scan } from '../picture/scan'
import { type Rational, equal } from '../rational/rational'
import type { Note, Origins } from './reading'

/** What one part of a file says of the picture. Facts that it does not state are left out. */
export interface ClaimedFacts {
  profile?: string | null
  width?: number
  height?: number
  pixelAspect?: Rational
  scan?: Scan
  fieldOrder?: FieldOrder | null
  bitDepth?: number | null
  chroma?: string | null
  alpha?: boolean
  captureRate?: Rational | null
  primaries?: Colour['primaries']
  transfer?: Colour['transfer']
  matrix?: Colour['matrix']
  range?: Colour['range']
}

/** A claim knows where it stands: in the wrapper, or in the bitstream, which wins. */
export interface PictureClaim {
  readonly layer: 'wrapper' | 'stream'
  /** Where exactly, in the standard's own term: `fiel`, `sequence parameter set`. */
  readonly origin: string
  readonly facts: ClaimedFacts
  /** Whether its standard says that it holds against the bitstream. */
  readonly decides?: boolean
}

const inWords: Record<keyof ClaimedFacts, string> = {
  profile: 'profile',
  width: 'width',
  height: 'height',
  pixelAspect: 'pixel shape',
  scan: 'scan',
  fieldOrder: 'field order',
  bitDepth: 'bit depth',
  chroma: 'chroma',
  alpha: 'alpha',
  captureRate: 'recorded rate',
  primaries: 'colour primaries',
  transfer: 'transfer',
  matrix: 'matrix',
  range: 'range',
}
const colourFacts = new Set<string>(['primaries', 'transfer', 'matrix', 'range'])

/** A silent fact: not stated, or stated as not known. */
const isSilent = (value: unknown) => value === undefined || value === null || value === 'unknown'

const same = (a: unknown, b: unknown) =>
  a === b || (typeof a === 'object' && typeof b === 'object' && equal(a as Rational, b as Rational))

const shown = (value: unknown) =>
  typeof value === 'object' && value !== null
    ? `${(value as Rational).num}:${(value as Rational).den}`
    : String(value)

/**
 * Brings the claims of a file together, fact by fact: what decides by its standard, else the bitstream, wins over the wrapper, within a
 * layer the first.
 * Where wrapper and bitstream contradict each other, a note keeps both.
 */
export function settleClaims(claims: readonly PictureClaim[]): {
  facts: ClaimedFacts
  origins: Origins
  notes: Note[]
} {
  const facts: Record<string, unknown> = {}
  const origins: Record<string, string> = {}
  const notes: Note[] = []
  for (const fact of Object.keys(inWords) as (keyof ClaimedFacts)[]) {
    const stated = claims.filter((claim) => !isSilent(claim.facts[fact]))
    const winner =
      stated.find(({ decides }) => decides) ?? stated.find(({ layer }) => layer === 'stream') ?? stated[0]
    if (!winner) continue
    facts[fact] = winner.facts[fact]
    origins[`video.${colourFacts.has(fact) ? 'colour.' : ''}${fact}`] = winner.origin
    const loser = stated.find(
      (claim) => claim.layer !== winner.layer && !same(claim.facts[fact], winner.facts[fact]),
    )
    // A wrapper that leaves the order open in an interlaced stream, or gives one in a progressive one, has lost already by scan.
    if (!loser || fact === 'profile' || (fact === 'fieldOrder' && facts.scan === 'progressive')) continue
    notes.push({
      code: `contradiction-${fact.replace(/[A-Z]/g, (c) => '-' + c.toLowerCase())}`,
      message: `${loser.origin} says ${inWords[fact]} ${shown(loser.facts[fact])}, the ${winner.origin} says ${shown(winner.facts[fact])}: the ${winner.layer === 'stream' ? 'stream' : 'box'} is believed.`,
    })
  }
  if (facts.scan === 'progressive') facts.fieldOrder = null
  return { facts: facts, origins, notes }
}
