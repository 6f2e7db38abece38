import type { Format } from '../format/format'
import { type Fit, fitPicture } from '../framing/framing'
import { isHdr } from '../reading/colour'
import { type Charge, gradeBy } from './charge'
import type { Picture } from './picture'
import type { Policy } from './policy'
import type { Treatment } from './treatment'

/** Below this, a share or a departure is rounding, not a charge. */
const dust = 1e-9

/** What the frame size and pixel shape cost: enlargement, reduction, bars, crop, distortion. */
export function framingCharges(
  picture: Picture,
  format: Format,
  treatment: Treatment,
  policy: Policy,
): { charges: Charge[]; fit: Fit } {
  const fit = fitPicture(picture, format, treatment)
  const charges: Charge[] = []
  const { scaleX, scaleY } = fit
  const largest = Math.max(scaleX, scaleY)
  if (largest > 1 + dust) {
    const loss = 1 - 1 / (Math.max(1, scaleX) * Math.max(1, scaleY))
    charges.push({ kind: 'enlarge', scaleX, scaleY, grade: gradeBy(largest, 1.1, 1.5), loss })
  } else if (Math.min(scaleX, scaleY) < 1 - dust) {
    const loss = policy.unusedDetail * (1 - scaleX * scaleY)
    charges.push({ kind: 'reduce', scaleX, scaleY, headroom: fit.headroom, grade: 'light', loss })
  }
  const partly = (share: number) => ({ grade: gradeBy(share, 0.05, 0.35), loss: policy.barsOrCrop * share })
  if (fit.barsShare > dust) {
    charges.push({
      kind: 'bars',
      share: fit.barsShare,
      bars: fit.bars,
      ...partly(fit.barsShare),
    })
  }
  if (fit.cropShare > dust) {
    charges.push({
      kind: 'crop',
      share: fit.cropShare,
      crop: fit.crop,
      ...partly(fit.cropShare),
    })
  }
  const departure = Math.abs(Math.log(fit.distortion))
  if (departure > dust) {
    const grade = gradeBy(Math.abs(fit.distortion - 1), 0.01, 0.03)
    charges.push({
      kind: 'distort',
      ratio: fit.distortion,
      grade,
      loss: Math.min(1, policy.distortion * departure),
    })
  }
  return { charges, fit }
}

/** What colour and depth cost. A clip that does not state its colour is taken to be as the format. */
export function colourCharges(picture: Picture, format: Format, policy: Policy): Charge[] {
  const charges: Charge[] = []
  const { colour } = format
  if (picture.transfer !== null && isHdr(picture.transfer) !== isHdr(colour.transfer)) {
    const [from, to] = [picture.transfer, colour.transfer]
    charges.push({ kind: 'colour', from, to, dynamicRange: true, grade: 'heavy', loss: policy.dynamicRange })
  } else if (picture.primaries !== null && picture.primaries !== colour.primaries) {
    const [from, to] = [picture.primaries, colour.primaries]
    charges.push({ kind: 'colour', from, to, dynamicRange: false, grade: 'light', loss: policy.primaries })
  }
  if (picture.bitDepth !== null && picture.bitDepth > colour.bitDepth) {
    charges.push({
      kind: 'depth',
      from: picture.bitDepth,
      to: colour.bitDepth,
      grade: 'light',
      loss: policy.depth,
    })
  }
  return charges
}
