import type { Format } from '../format/format'
import { type Fit, fitPicture } from '../framing/framing'
import { isHdr } from '../reading/colour'
import { type Charge, type ColourStep, gradeBy } from './charge'
import type { Picture } from './picture'
import type { Weights } from './policy'
import type { Treatment } from './treatment'

/** Below this, a share or a departure is rounding, not a charge. */
const dust = 1e-9

/** What the frame size and pixel shape cost: enlargement, reduction, bars, crop, distortion. */
export function framingCharges(
  picture: Picture,
  format: Format,
  treatment: Treatment,
  weights: Weights,
): { charges: Charge[]; fit: Fit } {
  const fit = fitPicture(picture, format, treatment)
  const charges: Charge[] = []
  const { scaleX, scaleY } = fit
  const largest = Math.max(scaleX, scaleY)
  if (largest > 1 + dust) {
    const loss = weights.invented * inventedShare(scaleX, scaleY)
    charges.push({ kind: 'enlarge', scaleX, scaleY, grade: gradeBy(largest, 1.1, 1.5), loss })
  } else if (Math.min(scaleX, scaleY) < 1 - dust) {
    const loss = weights.unused * (1 - scaleX * scaleY)
    charges.push({ kind: 'reduce', scaleX, scaleY, headroom: fit.headroom, grade: 'light', loss })
  }
  const partly = (share: number, weight: number) => ({
    grade: gradeBy(share, 0.05, 0.35),
    loss: weight * share,
  })
  if (fit.barsShare > dust) {
    charges.push({
      kind: 'bars',
      share: fit.barsShare,
      bars: fit.bars,
      ...partly(fit.barsShare, weights.bars),
    })
  }
  if (fit.cropShare > dust) {
    charges.push({
      kind: 'crop',
      share: fit.cropShare,
      crop: fit.crop,
      ...partly(fit.cropShare, weights.crop),
    })
  }
  const departure = Math.abs(Math.log(fit.distortion))
  if (departure > dust) {
    const grade = gradeBy(Math.abs(fit.distortion - 1), 0.01, 0.03)
    charges.push({
      kind: 'distort',
      ratio: fit.distortion,
      grade,
      loss: Math.min(1, weights.distortion * departure),
    })
  }
  return { charges, fit }
}

/** Share of the output's pixels that an enlargement invents; an axis that shrinks invents none. */
export const inventedShare = (scaleX: number, scaleY: number): number =>
  1 - 1 / (Math.max(1, scaleX) * Math.max(1, scaleY))

/** What colour and depth cost. A clip that does not state its colour is taken to be as the format. */
export function colourCharges(picture: Picture, format: Format, weights: Weights): Charge[] {
  const charges: Charge[] = []
  const { colour } = format
  const step = colourStep(picture, format)
  if (step === 'primaries') {
    const [from, to] = [picture.primaries!, colour.primaries]
    charges.push({ kind: 'colour', from, to, of: step, grade: 'light', loss: weights.primaries })
  } else if (step) {
    const [from, to] = [picture.transfer!, colour.transfer]
    const [grade, loss] =
      step === 'dynamic-range'
        ? (['heavy', weights.dynamicRange] as const)
        : (['light', weights.transfer] as const)
    charges.push({ kind: 'colour', from, to, of: step, grade, loss })
  }
  if (picture.bitDepth !== null && picture.bitDepth > colour.bitDepth) {
    const [from, to] = [picture.bitDepth, colour.bitDepth]
    charges.push({ kind: 'depth', from, to, grade: 'light', loss: weights.depth })
  }
  return charges
}

/** The conversion that a clip's colour needs to stand in a format; the dearest of several names them all. */
function colourStep(picture: Picture, { colour }: Format): ColourStep | null {
  const { transfer, primaries } = picture
  if (transfer !== null && isHdr(transfer) !== isHdr(colour.transfer)) return 'dynamic-range'
  if (transfer !== null && isHdr(transfer) && transfer !== colour.transfer) return 'transfer'
  if (primaries === null || primaries === colour.primaries) return null
  // Standard definition is brought to BT.709 by its matrix alone, as everybody does it.
  if (primaries.startsWith('bt601') && colour.primaries === 'bt709' && isStandardDefinition(picture))
    return null
  return 'primaries'
}

/** Pictures of the 525- and 625-line systems (ITU-R BT.601), turned ones too. */
const isStandardDefinition = ({ width, height }: Picture): boolean =>
  Math.min(width, height) <= 576 && Math.max(width, height) <= 1024
