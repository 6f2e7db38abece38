import { describe, expect, it } from 'vitest'
import { readY4mHead } from './y4m'

const head = (text: string) => readY4mHead(new TextEncoder().encode(text))

describe('the head of a raw stream', () => {
  it('says size, rate, order and how long a frame is', () => {
    expect(head('YUV4MPEG2 W720 H576 F25:1 It A16:15 C420mpeg2 XYSCSS=420MPEG2\nFRAME')).toEqual({
      width: 720,
      height: 576,
      across: 2,
      down: 2,
      planeCount: 3,
      range: null,
      rate: { num: 25, den: 1 },
      pixelAspect: { num: 16, den: 15 },
      order: 'top-first',
      bitDepth: 8,
      chroma: '420mpeg2',
      rgbMatrix: null,
      headBytes: 'YUV4MPEG2 W720 H576 F25:1 It A16:15 C420mpeg2 XYSCSS=420MPEG2\n'.length,
      frameBytes: 720 * 576 * 1.5,
    })
    expect(head('YUV4MPEG2 W5 H3\n')).toMatchObject({
      rate: null,
      order: null,
      chroma: '420jpeg',
      frameBytes: 15 + 12,
    })
    const orders = ['Ip', 'It', 'Ib', 'Im', 'I?', ''].map((word) => head(`YUV4MPEG2 W2 H2 ${word}\n`))
    expect(orders.map((head) => 'order' in head && head.order)).toEqual([
      'progressive',
      'top-first',
      'bottom-first',
      null,
      null,
      null,
    ])
  })

  it('knows every layout of chroma, and deeper samples', () => {
    const bytes = (chroma: string) => {
      const read = head(`YUV4MPEG2 W7 H5 F25:1 C${chroma}\n`)
      return 'wrong' in read ? read.wrong : [read.frameBytes, read.bitDepth]
    }
    expect(bytes('420')).toEqual([35 + 2 * 12, 8])
    expect(bytes('420paldv')).toEqual([35 + 2 * 12, 8])
    expect(bytes('422')).toEqual([35 + 2 * 20, 8])
    expect(bytes('411')).toEqual([35 + 2 * 10, 8])
    expect(bytes('440')).toEqual([35 + 2 * 21, 8])
    expect(bytes('444')).toEqual([35 * 3, 8])
    expect(bytes('444alpha')).toEqual([35 * 4, 8])
    expect(bytes('mono')).toEqual([35, 8])
    expect(bytes('420p10')).toEqual([2 * (35 + 2 * 12), 10])
    expect(bytes('444p12')).toEqual([2 * 35 * 3, 12])
    expect(bytes('mono16')).toEqual([70, 16])
    expect(bytes('bayer')).toBe('Its chroma “bayer” is not known.')
  })

  it('is refused with a reason', () => {
    expect(head('RIFF....')).toEqual({ wrong: 'It does not begin as YUV4MPEG2.' })
    expect(head('YUV4MPEG2 W720 H576')).toEqual({ wrong: 'It does not begin as YUV4MPEG2.' })
    expect(head('YUV4MPEG2 W0 H576\n')).toEqual({ wrong: 'Its size 0×576 is none.' })
    expect(head('YUV4MPEG2 W720 H99999\n')).toMatchObject({ wrong: expect.stringMatching(/is none/) })
    expect(head('YUV4MPEG2 W7.5 H5\n')).toMatchObject({ wrong: expect.stringMatching(/is none/) })
    expect(head('YUV4MPEG2 W720 H576 F0:0\n')).toMatchObject({ rate: null })
    expect(head('YUV4MPEG2 W720 H576 F30000:1001\n')).toMatchObject({ rate: { num: 30000, den: 1001 } })
  })

  it('tells the range where it is said, among other words of makers', () => {
    expect(head('YUV4MPEG2 W2 H2 XYSCSS=420JPEG XCOLORRANGE=FULL\n')).toMatchObject({ range: 'full' })
    expect(head('YUV4MPEG2 W2 H2 XCOLORRANGE=LIMITED\n')).toMatchObject({ range: 'limited' })
    expect(head('YUV4MPEG2 W2 H2\n')).toMatchObject({ range: null })
  })
})
