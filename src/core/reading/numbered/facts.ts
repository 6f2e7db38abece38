import { present } from '../../assert'
import { type Rate, rateName } from '../../rate/rate'
import { frameToTimecode, timecodeToFrame } from '../../rate/timecode'
import { equal, toNumber } from '../../rational/rational'
import { counted } from '../../words/figures'
import type { ReadResult } from '../read'
import type { LeftOut, Note, Reading, VideoFacts } from '../reading'

/** A numbered picture: what was read of it, or null where it was not looked at and is taken to be as the others. */
export interface NumberedPicture {
  readonly number: number
  readonly name: string
  readonly sizeBytes: number
  readonly result: ReadResult | null
}

/** What numbered pictures are as one clip. */
export interface NumberedFacts {
  readonly reading: Reading
  /** What each of them is by itself, as the first that can be read says. */
  readonly picture: Reading
  /** Whether their headers state the rate. */
  readonly isRateStated: boolean
  /** Of those that belong to the clip, the index and for how many frames each is on: longer where the next are left out. */
  readonly shown: readonly { readonly index: number; readonly frames: number }[]
  /** The indexes of those that are there and do not belong to it. */
  readonly aside: readonly { readonly index: number; readonly why: string }[]
}

/** So many headers are read of a long run, both ends among them. */
const spread = 30
/** And so many of those whose length is none that the others have. */
const mostOfOddLength = 120

/**
 * Which pictures of a run are looked at: both ends and some between, and those that are shorter or longer than the others. Pictures
 * without compression are all of one length; of compressed ones the half and the double are looked at.
 * @param sizes in bytes, in order of number
 * @returns indexes, ascending
 */
export function picturesToRead(sizes: readonly number[]): number[] {
  const last = sizes.length - 1
  const indexes = new Set(
    Array.from({ length: Math.min(spread, sizes.length) }, (_, i) => Math.round((i * last) / (spread - 1))),
  )
  if (sizes.length <= spread) return sizes.map((_, i) => i)
  const sorted = [...sizes].sort((a, b) => a - b)
  const median = sorted[Math.floor(sorted.length / 2)] ?? 0
  const alike = sizes.reduce((count, size) => count + Number(size === median), 0)
  const isUniform = alike > sizes.length / 2
  const isOdd = (size: number) => (isUniform ? size !== median : size < median / 2 || size > median * 2)
  let odd = 0
  // The shortest first: what is torn is short.
  const byLength = sizes.map((size, i) => [size, i] as const).sort((a, b) => a[0] - b[0])
  for (const [size, i] of byLength) if (isOdd(size) && odd++ < mostOfOddLength) indexes.add(i)
  return [...indexes].sort((a, b) => a - b)
}

/** All that numbered pictures of one clip have in common. */
const shapeOf = ({ codec, width, height, pixelAspect, rotation, alpha, bitDepth, chroma }: VideoFacts) =>
  JSON.stringify([codec, width, height, pixelAspect, rotation, alpha, bitDepth, chroma])

/** Why a picture is none of a clip; null where it is. */
function whyAside(result: ReadResult | null, first: VideoFacts): string | null {
  if (!result) return null
  const video = result.reading?.video
  if (!result.ok || result.reading.kind !== 'still' || !video) return 'damaged'
  if (shapeOf(video) === shapeOf(first)) return null
  if (video.width !== first.width || video.height !== first.height) return `${video.width}×${video.height}`
  if (video.bitDepth !== first.bitDepth) return `${video.bitDepth ?? '?'} bit`
  return 'another kind'
}

/**
 * What numbered pictures are as one clip: shape, rate and timecode as their headers have them, what is missing among them, and what is
 * there and cannot be shown among them: torn, of another size, of other bits.
 * @param pictures in order of number
 * @param rate taken where their headers state none, or not the same
 * @param known why numbers were left out before, where it is known: what was torn is not here again
 * @returns null where no picture can be read, or most of those that were are not alike: then they are no clip
 */
export function numberedFacts(
  pictures: readonly NumberedPicture[],
  rate: Rate,
  known: readonly LeftOut[] = [],
): NumberedFacts | null {
  const read = pictures.flatMap(({ result }) =>
    result?.ok && result.reading.kind === 'still' && result.reading.video ? [result.reading] : [],
  )
  const shapes = new Map<string, Reading[]>()
  for (const reading of read) {
    const key = shapeOf(present(reading.video, 'a still has a picture'))
    shapes.set(key, [...(shapes.get(key) ?? []), reading])
  }
  const alike = [...shapes.values()].reduce<Reading[]>((a, b) => (b.length > a.length ? b : a), [])
  const looked = pictures.filter(({ result }) => result).length
  const [picture] = alike
  if (!picture?.video || alike.length * 2 <= looked) return null
  const { video } = picture
  const aside = pictures.flatMap(({ result }, index) => {
    const why = whyAside(result, video)
    return why === null ? [] : [{ index, why }]
  })
  const isAside = new Map(aside.map(({ index, why }) => [index, why]))
  const there = pictures.flatMap((picture, index) => (isAside.has(index) ? [] : [{ ...picture, index }]))
  const [first, last] = [there[0], there.at(-1)]
  if (!first || !last) return null
  const shown = there.map(({ number, index }, i) => ({
    index,
    frames: (there[i + 1]?.number ?? number + 1) - number,
  }))
  const why = (number: number) =>
    known.find(({ from, to }) => from <= number && number <= to)?.why ?? 'missing'
  const whyAt = new Map(pictures.map(({ number }, index) => [number, isAside.get(index) ?? null]))
  const leftOut = leftOutOf(first.number, last.number, (number) => {
    const reason = whyAt.get(number)
    return reason === undefined ? why(number) : reason
  })
  const frames = last.number - first.number + 1
  const stated = statedRate(alike)
  const taken = stated ?? rate
  const notes: Note[] = [
    ...picture.notes,
    {
      code: 'joined',
      message: `${counted(there.length, 'numbered picture')}, ${first.name} to ${last.name}, at ${rateName(taken)} frames a second${stated ? '' : ', which their headers do not state'}.`,
    },
    ...leftOutNote(leftOut),
  ]
  return {
    picture,
    isRateStated: stated !== null,
    shown,
    aside,
    reading: {
      ...picture,
      kind: 'video',
      sizeBytes: there.reduce((sum, { sizeBytes }) => sum + sizeBytes, 0),
      durationSec: frames / toNumber(taken),
      timecode: startOf(pictures, picture, first.number, taken),
      video: {
        ...video,
        rate: taken,
        rateMode: 'constant',
        frameCount: frames,
        scan: 'progressive',
        fieldOrder: null,
        numbered: { first: first.number, last: last.number, leftOut },
      },
      notes,
    },
  }
}

/** The timecode of the first frame, as the picture states it that was taken for all; that one may stand further on. */
function startOf(
  pictures: readonly NumberedPicture[],
  picture: Reading,
  first: number,
  rate: Rate,
): Reading['timecode'] {
  const { timecode } = picture
  const stated = pictures.find(({ result }) => result?.ok && result.reading === picture)?.number ?? first
  if (!timecode || stated === first) return timecode
  const frame = timecodeToFrame(timecode.start, rate, timecode.dropFrame)
  if (frame === null || frame < stated - first) return null
  return { ...timecode, start: frameToTimecode(frame - (stated - first), rate, timecode.dropFrame) }
}

/** The rate that all headers state that state one; null where none does, or they differ. */
function statedRate(readings: readonly Reading[]): Rate | null {
  const rates = readings.flatMap(({ video }) => video?.rate ?? [])
  const [first] = rates
  return first && rates.every((rate) => equal(rate, first)) ? first : null
}

/** Numbers between the first and the last that have no picture of their own, and why, as stretches. @param whyAt null where there is one */
function leftOutOf(first: number, last: number, whyAt: (number: number) => string | null): LeftOut[] {
  const stretches: LeftOut[] = []
  for (let number = first; number <= last; number++) {
    const why = whyAt(number)
    if (why === null) continue
    const before = stretches.at(-1)
    if (before?.why === why && before.to === number - 1)
      stretches[stretches.length - 1] = { ...before, to: number }
    else stretches.push({ from: number, to: number, why })
  }
  return stretches
}

/** How many frames show the picture before them. */
export const framesLeftOut = (leftOut: readonly LeftOut[]): number =>
  leftOut.reduce((sum, { from, to }) => sum + to - from + 1, 0)

/** Stretches are named one by one up to so many. */
const mostNamed = 6

/** `1012 and 1033–1034 missing, 1040 damaged`. */
export function leftOutWords(leftOut: readonly LeftOut[]): string {
  const named = leftOut.slice(0, mostNamed)
  const kinds = [...new Set(named.map(({ why }) => why))]
  const words = kinds.map((why) => {
    const numbers = named
      .filter((gap) => gap.why === why)
      .map(({ from, to }) => (from === to ? `${from}` : `${from}–${to}`))
    return `${numbers.join(', ')} ${/^\d/.test(why) ? `of ${why}` : why}`
  })
  const more = framesLeftOut(leftOut.slice(mostNamed))
  return [...words, ...(more > 0 ? [`${more} more`] : [])].join('; ')
}

const leftOutNote = (leftOut: readonly LeftOut[]): Note[] =>
  leftOut.length === 0
    ? []
    : [
        {
          code: 'pictures-left-out',
          message: `${leftOutWords(leftOut)}: the picture before is shown instead, for ${counted(framesLeftOut(leftOut), 'frame')}.`,
        },
      ]
