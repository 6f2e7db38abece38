import { present } from '../core/assert'
import { type Clip, type Part, claimsOf } from '../core/edit/clip'
import { partAt } from '../core/edit/parts'
import { storedIndexOf, storedTimingOf } from '../core/edit/timing'
import { countOf, framesOf } from '../core/motion/timing'
import { matrixOf } from '../core/picture/colour'
import type { ClipKind } from './decode/engine'
import type { WantedFile } from './frames'
import type { MediaLocator } from './source'

/** Where a file's bytes are; null where it has to be shown again. */
export type Locate = (file: Clip | Part) => Promise<MediaLocator | null> | MediaLocator | null

/** A file and a frame in it; or why it cannot be had. */
export type LyingFrame = { readonly file: WantedFile; readonly within: number } | { readonly error: string }

/** Where a frame of a clip as corrected lies: its file and its index there; or why it cannot be had. */
export async function frameOfClip(clip: Clip, index: number, locate: Locate): Promise<LyingFrame> {
  const { reading } = clip
  if (!reading?.video || reading.kind === 'audio') return { error: 'This clip has no picture.' }
  const stored = storedIndexOf(clip, index)
  const lying = partAt(clip, stored)
  const { name } = lying?.part ?? clip
  const key = contentKey(lying?.part ?? clip)
  const locator = await locate(lying?.part ?? clip)
  if (!locator) return { error: `${name} is not at hand: take the file in again to see it.` }
  const kind = present(kindOf(clip, lying?.part), 'a clip with a picture is decoded')
  const within = Math.max(0, Math.min(countOf(kind.steps) - 1, lying?.index ?? stored))
  return { file: { key, locator, kind, rotation: reading.video.rotation }, within }
}

/** A file by what it holds: a clip in whose place another was put is another file under the same name. */
export const contentKey = ({ id, hash }: Pick<Clip, 'id' | 'hash'>): string => (hash ? `${id} ${hash}` : id)

/** What a decoder has to know of a clip, or of one of its files; null without a picture. */
export function kindOf(clip: Clip, part?: Part): ClipKind | null {
  const video = clip.reading?.video
  if (!video) return null
  const { kind, container } = part?.reading ?? present(clip.reading, 'what has a picture was read')
  const steps = framesOf(storedTimingOf(part ? asClip(clip, part) : clip))
  return {
    kind: kind === 'still' ? 'still' : 'video',
    container,
    codec: video.codec,
    // What the file holds, whatever was corrected: of a crop too.
    width: claimsOf(clip)?.video?.width ?? video.width,
    height: claimsOf(clip)?.video?.height ?? video.height,
    bitDepth: video.bitDepth ?? 8,
    meaning: { ...video.colour, matrix: matrixOf(video, video.colour) },
    steps,
  }
}

/** One file of a clip as if it were a clip alone. */
const asClip = (clip: Clip, part: Part): Clip => ({
  ...clip,
  ...part,
  parts: [],
  corrections: {},
  evidence: null,
  claimed: null,
})
