import type { Format } from '../format/format'
import type { Picture } from '../picture/picture'
import { equal } from '../rational/rational'
import type { CorrectionChange } from '../reading/correct'
import type { Run } from '../treatment/run'
import type { TreatmentStep } from './proposal'

/** What happens to a picture that runs in some way, in the order in which it happens; `blend` mixes neighbours. */
export function stepsOfWay(
  { passing, taking }: Run,
  picture: Picture,
  format: Format,
  change: CorrectionChange = {},
): readonly (TreatmentStep | 'blend')[] {
  const steps: (TreatmentStep | 'blend')[] = []
  const { pulldownOut, repeatsOut, scan } = change
  if (typeof pulldownOut === 'number' || (repeatsOut && scan)) steps.push('remove-pulldown')
  else if (repeatsOut) steps.push('remove-repeats')
  else if (scan === 'progressive') steps.push('weave')
  if (taking.kind === 'remove-pulldown' && !steps.includes('remove-pulldown')) steps.push('remove-pulldown')
  if (taking.kind === 'pulldown') return [...steps, 'pulldown']
  if (taking.kind === 'fields')
    return [...steps, taking.outOf === 'fields' ? 'keep-fields' : 'fields-from-frames']
  if (taking.kind === 'deinterlaced')
    steps.push(taking.keep === 'each' ? 'deinterlace-double' : 'deinterlace-same')
  if (taking.kind === 'frames' && picture.scan === 'interlaced' && !steps.includes('weave'))
    steps.push('weave')
  const isMixed = 'mixed' in taking && taking.mixed
  const isOnce = passing.kind === 'step-by-step' || passing.factor.num !== passing.factor.den
  const isAlone = steps.length === 0 || steps.at(-1) === 'weave' || steps.at(-1) === 'deinterlace-same'
  if (isMixed) steps.push('blend')
  else if (isOnce) steps.push('every-frame')
  else if (!(isAlone && picture.rate && equal(picture.rate, format.rate)) && picture.rate)
    if (!(
      steps.at(-1) === 'deinterlace-double' &&
      equal({ num: picture.rate.num * 2, den: picture.rate.den }, format.rate)
    ))
      steps.push('nearest')
  return steps
}
