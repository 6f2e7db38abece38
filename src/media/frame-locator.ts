import { type Result, failure } from '../core/result'
import { present } from '../core/assert'
import { type Clip, type ClipFile, claimsOf, readingOfPart } from '../core/model/clip'
import { partAt } from '../core/edit/parts'
import { storedIndexOf, storedTimingOf } from '../core/model/timing'
import { type ClipTiming, countOf, framesOf } from '../core/motion/timing'
import { matrixOf } from '../core/picture/colour'
import type { Rotation } from '../core/picture/turn'
import { isStandardDefinition } from '../core/picture/size'
import type { Meaning } from '../core/planes/screen'
import { type Corrections, decodedSize } from '../core/reading/correct'
import type { Reading, VideoFacts } from '../core/reading/reading'
import type { ClipKind } from './decode/engine'
import type { WantedFile } from './frames'
import type { MediaLocator } from './source'

/** Where a file's bytes are; null where it has to be shown again. */
export type Locate = (file: Clip | ClipFile) => Promise<MediaLocator | null> | MediaLocator | null

/** A file and a frame in it; or why it cannot be had. */
export type LocatedFrame = Result<{ file: WantedFile; within: number }>

/** Where a frame of a clip as corrected lies: its file and its index there; or why it cannot be had. */
export async function frameOfClip(clip: Clip, index: number, locate: Locate): Promise<LocatedFrame> {
  const { reading } = clip
  if (!reading?.video || reading.kind === 'audio') return failure('This clip has no picture.')
  const stored = storedIndexOf(clip, index)
  const lying = partAt(clip, stored)
  const { name } = lying?.part ?? clip
  const locator = await locate(lying?.part ?? clip)
  if (!locator) return failure(`${name} is not at hand: take the file in again to see it.`)
  const kind = present(kindOf(clip, lying?.part), 'a clip with a picture is decoded')
  const within = Math.max(0, Math.min(countOf(kind.steps) - 1, lying?.index ?? stored))
  // Whatever changes what is decoded, or what it means, makes another source of it.
  const { premultiplied, window, meaning } = kind
  const key = `${contentKey(lying?.part ?? clip)} ${JSON.stringify({ premultiplied, window, meaning })}`
  return { ok: true, file: { key, locator, kind, rotation: reading.video.rotation }, within }
}

/** A file by what it holds: a clip in whose place another was put is another file under the same name. */
export const contentKey = ({ id, hash }: Pick<Clip, 'id' | 'hash'>): string => (hash ? `${id} ${hash}` : id)

/** What a decoder has to know of a clip, or of one of its files; null without a picture. */
export function kindOf(clip: Clip, part?: ClipFile): ClipKind | null {
  if (!clip.reading) return null
  const kind = kindOfReading(clip.reading, storedTimingOf(part ? asClip(clip, part) : clip))
  const claimed = claimsOf(clip)?.video
  if (!kind) return null
  // Whatever an editor says of its colour, what is stored as red, green and blue is decoded as that.
  const isRgb = claimed?.colour.matrix === 'rgb'
  return {
    ...kind,
    meaning: isRgb ? { ...kind.meaning, matrix: 'rgb', range: claimed.colour.range } : kind.meaning,
    ...(part
      ? {
          kind: readingOfPart(clip, part).kind === 'still' ? 'still' : 'video',
          container: readingOfPart(clip, part).container,
        }
      : {}),
    // What the file holds, whatever was corrected: of a turn and of a crop too.
    turnedBy: turnByDecoder(part ? readingOfPart(clip, part) : (claimsOf(clip) ?? clip.reading)),
    ...(claimed ? decodedFrom(claimed, clip.corrections) : {}),
  }
}

/** The part of a file that is decoded, and its size. */
function decodedFrom(
  claimed: VideoFacts,
  corrections: Corrections,
): Pick<ClipKind, 'width' | 'height' | 'window'> {
  const { width, height } = decodedSize(claimed, corrections)
  return { width, height, window: (corrections.window && claimed.dataWindow) ?? null }
}

/** What the samples of a file mean. */
export const meaningOfVideo = (video: VideoFacts): Meaning => ({
  ...video.colour,
  matrix: matrixOf(video, video.colour),
  isStandardDefinition: isStandardDefinition(video),
})

/** The turn of a HEIF is part of its picture for every decoder (ISO/IEC 23008-12 §6.5.10): it comes upright out of all of them. */
const turnByDecoder = ({ container, video }: Reading): Rotation =>
  container === 'HEIF' || container === 'AVIF' ? (video?.rotation ?? 0) : 0

/** What a decoder has to know of a file that was read; null without a picture. */
export function kindOfReading(reading: Reading, timing: ClipTiming): ClipKind | null {
  const { kind, container, video } = reading
  if (!video) return null
  return {
    kind: kind === 'still' ? 'still' : 'video',
    container,
    codec: video.codec,
    width: video.width,
    height: video.height,
    bitDepth: video.bitDepth ?? 8,
    alpha: video.alpha,
    premultiplied: video.premultiplied ?? false,
    window: null,
    turnedBy: turnByDecoder(reading),
    meaning: meaningOfVideo(video),
    steps: framesOf(timing),
  }
}

/** One file of a clip as if it were a clip alone. */
const asClip = (clip: Clip, part: ClipFile): Clip => ({
  ...clip,
  ...part,
  reading: readingOfPart(clip, part),
  parts: [],
  corrections: {},
  evidence: null,
  claimed: null,
})
