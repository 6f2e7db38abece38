import { rational } from '../rational/rational'
import {
  type Format,
  type FormatColour,
  type FrameSize,
  formatText,
  makeFormat,
  rec709,
  sizeText,
} from '../format/format'
import { hasInterlacedStandard } from '../format/standard'
import type { Rate } from '../rate/rate'
import type { Picture } from '../toll/picture'
import type { Bloc } from './vote'

/** The frame size that a picture fills when it stands upright. */
export function uprightSize({ width, height, pixelAspect, rotation }: Picture): FrameSize {
  if (rotation % 180 === 0) return { width, height, pixelAspect }
  return { width: height, height: width, pixelAspect: rational(pixelAspect.den, pixelAspect.num) }
}

/**
 * Every format worth pricing: each size and pixel shape of footage and deliverables, at each rate of both and the field
 * rates of interlaced clips, progressive, and interlaced where a standard has it and someone brings it.
 */
export function candidateFormats(
  blocs: readonly Bloc[],
  deliverables: readonly Format[],
  tried: readonly Format[] = [],
): Format[] {
  const sizes = new Map<string, FrameSize>()
  const rates = new Map<string, Rate>()
  const addSize = (size: FrameSize) => sizes.set(sizeText(size), size)
  const addRate = (rate: Rate) => rates.set(`${rate.num}/${rate.den}`, rate)
  let interlaced = false
  for (const bloc of blocs) {
    addSize(uprightSize(bloc.picture))
    if (bloc.picture.rate) addRate(bloc.picture.rate)
    if (bloc.picture.scan === 'interlaced' && bloc.picture.rate) {
      interlaced = true
      addRate(rational(bloc.picture.rate.num * 2, bloc.picture.rate.den))
    }
  }
  for (const format of deliverables) {
    addSize({ width: format.width, height: format.height, pixelAspect: format.pixelAspect })
    addRate(format.rate)
    if (format.scan === 'interlaced') interlaced = true
  }
  const colour = commonColour(blocs, deliverables)
  const formats = new Map<string, Format>()
  const add = (format: Format) => {
    if (!formats.has(formatText(format))) formats.set(formatText(format), format)
  }
  for (const size of sizes.values()) {
    for (const rate of rates.values()) {
      add(makeFormat(size, rate, 'progressive', colour))
      if (interlaced && hasInterlacedStandard(size.height, rate))
        add(makeFormat(size, rate, 'interlaced', colour))
    }
  }
  tried.forEach(add)
  return [...formats.values()]
}

/** The colour that most of the footage is in; what is delivered decides before what was shot. */
export function commonColour(blocs: readonly Bloc[], deliverables: readonly Format[]): FormatColour {
  if (deliverables.length > 0) return deliverables[0].colour
  const seconds = new Map<string, { colour: FormatColour; seconds: number }>()
  for (const { picture, weight } of blocs) {
    const colour: FormatColour = {
      // SD primaries are not chosen for a project: BT.709 holds them all but a hair.
      primaries: picture.primaries === 'bt2020' ? 'bt2020' : 'bt709',
      transfer: picture.transfer === 'pq' || picture.transfer === 'hlg' ? picture.transfer : 'bt709',
      bitDepth: Math.max(8, picture.bitDepth ?? 8),
    }
    const key = JSON.stringify(colour)
    const entry = seconds.get(key) ?? { colour, seconds: 0 }
    entry.seconds += weight
    seconds.set(key, entry)
  }
  return [...seconds.values()].sort((a, b) => b.seconds - a.seconds)[0]?.colour ?? rec709
}
