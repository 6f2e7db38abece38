import { type FramingMode } from '../src/core/treatment/treatment'
import { exactly } from '../src/core/rational/rational'
import { parsePicture, parseSize } from '../src/core/format/parse'
import { fitPicture } from '../src/core/framing/framing'
import { type Command, WrongUse, aligned, print, parseWords } from './command'
import { upTo } from '../src/core/words/figures'

/** Framings by the word of the command line; one-to-one goes by a second one. */
const modes: Readonly<Record<string, FramingMode | undefined>> = {
  fit: { kind: 'fit' },
  fill: { kind: 'fill' },
  stretch: { kind: 'stretch' },
  'one-to-one': { kind: 'one-to-one' },
  native: { kind: 'one-to-one' },
}

export const fitCommand: Command = {
  usage: 'fit SOURCE TIMELINE [--framing fit|fill|stretch|one-to-one] [--zoom Z] [--json]',
  summary: 'How a picture lies in a frame. WIDTHxHEIGHT[/PARNUM:PARDEN][@ROTATION]',
  options: [
    ['--framing HOW', 'fit, fill, stretch or one-to-one; fit where it is not said'],
    ['--zoom Z', 'enlarged by Z on top of it'],
    ['--json', 'as JSON'],
  ],
  example: 'tally fit 1440x1080/4:3 1920x1080 --framing fill',
  async run(args) {
    const { positionals, values, json } = parseWords(args, {
      framing: { type: 'string' },
      zoom: { type: 'string' },
    })
    const source = positionals[0] === undefined ? null : parsePicture(positionals[0])
    const timeline = positionals[1] === undefined ? null : parseSize(positionals[1].replace(/@0$/, ''))
    if (positionals.length !== 2 || !source || !timeline)
      throw new WrongUse('Two sizes are needed, as in 1440x1080/4:3 1920x1080.')
    const mode = modes[String(values.framing ?? 'fit')]
    if (!mode) throw new WrongUse(`There is no framing “${values.framing}”.`)
    const zoom = Number(values.zoom ?? 1)
    if (!(zoom > 0 && zoom <= 100)) throw new WrongUse('The zoom is a number above 0, at most 100.')
    const { scaleX, scaleY, bars, barsShare, cropShare, headroom, distortion } = fitPicture(
      source,
      timeline,
      {
        mode,
        zoom: exactly(zoom),
      },
    )
    // Centred, both sides of an axis are alike.
    const [barsX, barsY] = [bars.left, bars.top]
    const figures = { scaleX, scaleY, barsX, barsY, barsShare, cropShare, headroom, distortion }
    if (json) print(JSON.stringify(figures))
    else aligned(Object.entries(figures).map(([name, value]) => [name, upTo(value, 6)])).forEach(print)
    return 0
  },
}
