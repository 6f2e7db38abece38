import {
  type Difference,
  type Patch,
  type Spectrum,
  combsIn,
  differenceOf,
  spectrumOf,
} from '../core/evidence/proof'
import type { FrameAccess } from './frames'

/** What is shown of a frame as a proof: the blocks that comb, how it differs from the one before, or its spectra. */
export type Proof =
  | { readonly about: 'combs'; readonly blocks: readonly Patch[] }
  | { readonly about: 'repeats'; readonly difference: Difference }
  | { readonly about: 'detail'; readonly spectrum: Spectrum | null }

/** Makes a proof of a frame of a file from its luma and that of its neighbours. @param last the file's last frame */
export async function proofOf(
  access: FrameAccess,
  about: Proof['about'],
  index: number,
  last: number,
  signal: AbortSignal,
): Promise<Proof> {
  const before = index > 0 ? await access.luma(index - 1, signal) : null
  const frame = await access.luma(index, signal)
  if (about === 'detail') return { about, spectrum: spectrumOf(frame) }
  if (about === 'repeats') return { about, difference: differenceOf(before ?? frame, frame) }
  const after = index < last ? await access.luma(index + 1, signal) : null
  return { about, blocks: combsIn(before, frame, after) }
}
