import { type Kept, blend, fieldMadeWhole } from '../src/core/fields/deinterlace'
import { simdFields } from '../src/core/fields/simd'
import { multiply, rational } from '../src/core/rational/rational'
import { FieldMethod } from '../src/core/treatment/treatment'
import { type Command, WrongUse, parseWords } from './command'
import { remade } from './frames'
import { otherParity } from '../src/core/picture/scan'

const orders: Readonly<Record<string, 'top' | 'bottom'>> = {
  'top-first': 'top',
  'bottom-first': 'bottom',
  top: 'top',
  bottom: 'bottom',
}

export const deinterlaceCommand: Command = {
  usage:
    'deinterlace --method weave|blend|interpolate|adaptive|single [--rate same|double] [--keep first|second] [--order top-first|bottom-first] FILE.y4m|-',
  summary: 'Whole frames out of the fields of decoded ones (YUV4MPEG2), on standard output.',
  options: [
    ['--method NAME', 'weave, blend, interpolate, adaptive or single'],
    ['--rate same|double', 'as many frames as there are, or one of each field'],
    ['--keep first|second', 'at the same rate: the field that stays'],
    ['--order top-first|bottom-first', 'where the file does not say'],
  ],
  example: 'tally deinterlace --method adaptive --rate double in.y4m > out.y4m',
  async run(args) {
    const text = { type: 'string' } as const
    const { positionals, values } = parseWords(args, { method: text, rate: text, keep: text, order: text })
    const [path] = positionals
    if (path === undefined || positionals.length > 1)
      throw new WrongUse('One file of YUV4MPEG2 is needed, or - for standard input.')
    const wordAmong = (name: string, among: readonly string[], otherwise: string): string => {
      const value = values[name] ?? otherwise
      if (typeof value === 'string' && among.includes(value)) return value
      throw new WrongUse(`--${name} is ${among.join(', ')}.`)
    }
    const method = wordAmong('method', ['weave', 'blend', ...FieldMethod.options], '')
    const isDouble = wordAmong('rate', ['same', 'double'], 'same') === 'double'
    const field = FieldMethod.safeParse(method)
    if (isDouble && !field.success)
      throw new WrongUse(`“${method}” has no double rate: it mixes both fields.`)
    const keep = wordAmong('keep', ['first', 'second'], 'first')
    if (values.keep !== undefined && (isDouble || !field.success))
      throw new WrongUse('--keep tells which field stays at the same rate, where one is made whole.')
    const orderWord = values.order === undefined ? null : wordAmong('order', Object.keys(orders), '')
    return remade(path, (head) => {
      const order = orders[orderWord ?? head.order ?? ''] ?? 'top'
      const first: Kept = { parity: order, isFirst: true }
      const second: Kept = { parity: otherParity(order), isFirst: false }
      const kernels = simdFields()
      const kept = isDouble ? [first, second] : [keep === 'first' ? first : second]
      return {
        head: {
          ...head,
          order: 'progressive',
          rate: isDouble && head.rate ? multiply(head.rate, rational(2)) : head.rate,
        },
        frames: (around) => {
          if (field.success) return kept.map((kept) => fieldMadeWhole(around, kept, field.data, kernels))
          return [method === 'blend' ? blend(around.current, kernels) : around.current]
        },
      }
    })
  },
}
