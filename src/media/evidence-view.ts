import {
  type PictureDifference,
  type PictureArea,
  type Spectrum,
  combsIn,
  differenceOf,
  spectrumOf,
} from '../core/evidence/view'
import { simdPairs } from '../core/evidence/simd'
import type { FrameAccess } from './frames'

/** What is shown of a frame as a proof: the blocks that comb, how it differs from the one before, or its spectra. */
export type EvidenceView =
  | { readonly about: 'combs'; readonly blocks: readonly PictureArea[] }
  | { readonly about: 'repeats'; readonly difference: PictureDifference }
  | { readonly about: 'detail'; readonly spectrum: Spectrum | null }

/** Makes a proof of a frame of a file from its luma and that of its neighbours. @param last the file's last frame */
export async function evidenceViewOf(
  access: FrameAccess,
  about: EvidenceView['about'],
  index: number,
  last: number,
  signal: AbortSignal,
): Promise<EvidenceView> {
  const luma = async (at: number) => (at >= 0 && at <= last ? access.luma(at, signal) : null)
  if (about === 'detail') return { about, spectrum: spectrumOf(await access.luma(index, signal)) }
  // In the order of the frames, so that the decoder goes on.
  const before = await luma(index - 1)
  const frame = await access.luma(index, signal)
  if (about === 'repeats') return { about, difference: differenceOf(before ?? frame, frame, simdPairs()) }
  return { about, blocks: combsIn(before, frame, await luma(index + 1), simdPairs()) }
}
