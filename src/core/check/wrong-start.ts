import type { Clip } from '../model/clip'
import { formatOfClip } from '../edit/placing'
import { type Decision, type Doc, clipsOf } from '../model/project'
import { type Format, formatKey, formatName, tradeName } from '../format/format'
import { sameSize } from '../picture/size'
import { equal } from '../rational/rational'
import { percent, ratio } from '../words/figures'

/** A project's format that the footage speaks against. */
export interface WrongStart {
  /** What most of the footage is. */
  readonly format: Format
  /** Shares of the running time: of that, and of the project's format. */
  readonly share: number
  readonly shareNow: number
  /** Where the project's format came from, and what the footage is, in one sentence. */
  readonly says: string
}

/** So much of the footage has to agree, and so little of it with the project, before anything is said. */
const [most, hardlyAny] = [0.5, 0.1]

const sameRaster = (a: Format, b: Format) => sameSize(a, b) && equal(a.rate, b.rate) && a.scan === b.scan

/**
 * Whether a project began in the wrong format: taken from one clip, or typed so that no footage has it, while most of the running time
 * agrees on another. A format that was recommended, or is what is delivered, is a decision and no accident.
 */
export function wrongStart(doc: Doc): WrongStart | null {
  const { format, decisions, meant } = doc.project
  if (!format || meant === formatKey(format)) return null
  const decision = decisions.at(-1)
  if (decision && (decision.setBy === 'recommended' || decision.setBy === 'delivery')) return null
  const shares = sharesOf(doc, format)
  const [first] = shares
  if (!first || first.share < most || sameRaster(first.format, format)) return null
  const shareNow = shares.find((share) => sameRaster(share.format, format))?.share ?? 0
  if (shareNow >= hardlyAny) return null
  if (decision?.setBy !== 'clip' && !isTypedWrong(shares, format)) return null
  return { ...first, shareNow, says: sentence(decision, first) }
}

interface Share {
  readonly format: Format
  readonly share: number
}

/** The formats of the footage by their shares of the running time, the largest first. Clips that are alike are looked at once. */
function sharesOf(doc: Doc, { colour }: Format): Share[] {
  const alike = new Map<string, { readonly clip: Clip; seconds: number }>()
  for (const clip of clipsOf(doc)) {
    const { reading, fault } = clip
    if (fault || reading?.kind !== 'video' || !reading.video?.rate) continue
    const { width, height, pixelAspect, rotation, rate, scan, fieldOrder } = reading.video
    const key = `${width} ${height} ${ratio(pixelAspect)} ${rotation} ${ratio(rate)} ${scan} ${fieldOrder}`
    const known = alike.get(key)
    if (known) known.seconds += reading.durationSec ?? 0
    else alike.set(key, { clip, seconds: reading.durationSec ?? 0 })
  }
  const found = new Map<string, { format: Format; seconds: number }>()
  let total = 0
  for (const { clip, seconds } of alike.values()) {
    const own = formatOfClip(clip, colour)
    if (!own) continue
    total += seconds
    const known = found.get(formatKey(own))
    if (known) known.seconds += seconds
    else found.set(formatKey(own), { format: own, seconds })
  }
  return [...found.values()]
    .map(({ format, seconds }) => ({ format, share: seconds / Math.max(1e-9, total) }))
    .sort((a, b) => b.share - a.share)
}

/** A size that no trade knows and no clip has, or a rate that no clip has. */
const isTypedWrong = (shares: readonly Share[], format: Format): boolean =>
  (tradeName(format) === null && !shares.some((share) => sameSize(share.format, format))) ||
  !shares.some((share) => equal(share.format.rate, format.rate))

function sentence(decision: Decision | undefined, { format, share }: Share): string {
  const from = decision?.clip
    ? `The format came from ${decision.clip}`
    : decision?.setBy === 'typed'
      ? 'The format was typed, and no clip has it'
      : 'No clip has this format'
  return `${from}; ${percent(share)} of the footage is ${formatName(format)}.`
}
