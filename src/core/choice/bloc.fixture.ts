import { parseFormat } from '../format/parse'
import { type Picture } from '../picture/picture'
import { pictureOfFormat } from '../format/format'
import type { Bloc } from './bloc'

/** Footage for tests: its format as text, BT.709 and 8 bit, and its share of the running time. */
export const bloc = (text: string, weight = 10, more: Partial<Picture> = {}): Bloc => ({
  picture: { ...pictureOfFormat(parseFormat(text)!.format), ...more },
  ids: [text],
  seconds: weight,
  weight,
})

/** `60 3840x2160@25p, 40 1920x1080@50p` as footage; what ends in `~` varies in its rate, 4 % of the frames off nominal. */
export const footage = (text: string): Bloc[] =>
  text.split(', ').map((part) => {
    const [weight, format] = part.split(' ')
    const varies = format!.endsWith('~') ? { offNominalShare: 0.04 } : {}
    return bloc(format!.replace('~', ''), Number(weight), varies)
  })
