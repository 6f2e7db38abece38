import { multiply, rational } from '../src/core/rational/rational'
import { chromaSiting, resampling } from '../src/core/resample/picture'
import type { Sharpening } from '../src/core/resample/sharpen'
import { simdResample } from '../src/core/resample/simd'
import { Filter } from '../src/core/treatment/treatment'
import { type Command, WrongUse, parseWords } from './command'
import { remade } from './frames'

const largest = 32_768

export const resampleCommand: Command = {
  usage: 'resample [--filter nearest|bilinear|bicubic|lanczos] [--sharpen AMOUNT,RADIUS] --to WxH FILE.y4m|-',
  summary: 'Decoded frames (YUV4MPEG2) in another size, on standard output.',
  options: [
    ['--to WxH', 'the new size'],
    ['--filter NAME', 'nearest, bilinear, bicubic or lanczos'],
    ['--sharpen AMOUNT,RADIUS', 'afterwards'],
  ],
  example: 'tally resample --to 1920x1080 --filter lanczos in.y4m > out.y4m',
  async run(args) {
    const { positionals, values } = parseWords(args, {
      filter: { type: 'string' },
      sharpen: { type: 'string' },
      to: { type: 'string' },
    })
    const [path] = positionals
    if (path === undefined || positionals.length > 1)
      throw new WrongUse('One file of YUV4MPEG2 is needed, or - for standard input.')
    const filter = Filter.safeParse(values.filter ?? 'lanczos')
    if (!filter.success) throw new WrongUse(`“${String(values.filter)}” is no filter.`)
    const [, width, height] = /^(\d{1,5})[x×](\d{1,5})$/.exec(String(values.to ?? '')) ?? []
    const size = { width: Number(width), height: Number(height) }
    if (![size.width, size.height].every((side) => side >= 1 && side <= largest))
      throw new WrongUse('A size is needed, as in --to 1920x1080.')
    const sharpen = sharpeningIn(values.sharpen)
    return remade(path, (head) => {
      if (head.order !== 'progressive' && head.order !== null && size.height !== head.height)
        throw new WrongUse(
          'These frames are interlaced: scaled down the lines, their two moments would mix. Deinterlace first, or keep the height.',
        )
      const siting = chromaSiting(head, head.chroma)
      const wanted = { ...size, filter: filter.data, sharpen }
      const make = resampling(head, siting, wanted, simdResample())
      const shape = rational(head.width * size.height, head.height * size.width)
      return {
        head: { ...head, ...size, pixelAspect: head.pixelAspect && multiply(head.pixelAspect, shape) },
        frames: ({ current: planes }) => [make(planes)],
      }
    })
  },
}

function sharpeningIn(text: unknown): Sharpening | null {
  if (text === undefined) return null
  const [amount = NaN, radius = NaN, ...more] = String(text).split(',').map(Number)
  if (!(amount >= 0 && amount <= 5 && radius >= 0.1 && radius <= 20) || more.length)
    throw new WrongUse('Sharpening is an amount up to 5 and a radius from 0.1 to 20, as in --sharpen 0.5,1.')
  return { amount, radius }
}
