import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { formatText } from '../format/format'
import { parseFormat } from '../format/parse'
import { isTapeRaster, standardSizes } from '../format/standard'
import { equal, rational, toNumber } from '../rational/rational'
import { Ranking, type Mains, defaultPolicy } from '../toll/policy'
import { bloc, footage } from './bloc.fixture'
import { rank } from './rank'
import { gatherVotes } from './vote'

const format = (text: string) => parseFormat(text)!.format
interface Given {
  readonly lean?: Ranking
  readonly deliver?: readonly string[]
  readonly mains?: Mains
}
const ranked = (text: string, { lean, deliver = [], mains }: Given = {}) =>
  rank(footage(text), { policy: defaultPolicy, lean, mains, deliverables: deliver.map(format) }).map(
    (candidate) => `${formatText(candidate.format)} ${candidate.loss.toFixed(4)}`,
  )

describe('the figures of the choice', () => {
  it.each<[string, Given, string[], 'none'?]>([
    ['60 1440x1080/4:3@50i, 40 3840x2160@25p', {}, ['1920x1080@50p 0.2853', '1920x1080@50i 0.2856']],
    ['70 3840x2160@25p, 30 4096x2160@25p', {}, ['3840x2160@25p 0.0199', '4096x2160@25p 0.0219']],
    [
      '85 3840x2160@24p, 15 4096x2160@24p',
      { lean: 'detail' },
      ['4096x2160@24p 0.0133', '3840x2160@24p 0.0202'],
    ],
    ['100 3840x2160/4:3@24p', {}, ['3840x2160@24p 0.1906', '5120x2160@24p 0.2500']],
    [
      '100 3840x2160@25p',
      { deliver: ['1920x1080@25p', '1080x1920@25p'] },
      ['3840x2160@25p 0.5220', '1920x1080@25p 0.5945'],
    ],
    [
      '75 1920x1080@100p, 40 3840x2160@25p, 20 3840x2160@50p',
      { mains: 50 },
      ['3840x2160@25p 0.0952', '3840x2160@50p 0.1011'],
    ],
    [
      '620 1280x720@9p, 45 3840x2160@25p, 15 3840x2160@50p',
      { mains: 50 },
      ['1920x1080@25p 0.3968', '1920x1080@50p 0.4016'],
    ],
    ['40 3840x2160@25p, 10 1920x1080@50p', { deliver: ['1080x1080@25p'] }, ['1080x1080@25p 0.4284'], 'none'],
    [
      '100 720x480/32:27@59.94i',
      { deliver: ['1920x1080@59.94p'] },
      ['720x480/32:27@59.94i 0.8467', '1920x1080@59.94p 0.8467'],
    ],
    [
      '44 1920x1080@25p, 45 1920x1080@50p',
      { lean: 'motion' },
      ['1920x1080@50p 0.0148', '1920x1080@25p 0.0758'],
    ],
    [
      '38 1920x1080@29.97p, 26 1920x1080@25p, 14 3840x2160@29.97p',
      { mains: 60 },
      ['1920x1080@29.97p 0.2213', '3840x2160@29.97p 0.6606'],
    ],
    [
      '80 1920x1080@25p, 22 3840x2160@25p',
      { lean: 'detail' },
      ['3840x2160@25p 0.1471', '1920x1080@25p 0.1618'],
    ],
    [
      '150 1280x1024@59.94i, 40 1920x1080@59.94i, 30 3840x2160@29.97p',
      { lean: 'majority', mains: 60 },
      ['1280x1024@59.94i 0.2259', '1920x1080@59.94i 0.3127'],
    ],
    ['150 1920x1080@25p, 25 2704x1520@29.97p', { mains: 50 }, ['1920x1080@25p 0.0877'], 'none'],
    [
      '140 1920x1080@30p, 60 1920x1080@29.97p',
      { deliver: ['1920x1080@59.94i'], mains: 60 },
      ['1920x1080@59.94i 0.0266'],
      'none',
    ],
    [
      '150 1920x1080@30p~, 80 3840x2160@23.976p',
      { lean: 'majority', mains: 60 },
      ['1920x1080@30p 0.2765', '3840x2160@23.976p 0.5445'],
    ],
  ])('%s %j', (text, given, first, others) => {
    const all = ranked(text, given)
    expect(all.slice(0, first.length)).toEqual(first)
    if (others === 'none') expect(all).toHaveLength(first.length)
  })

  it('of mixed sizes and rates: HD at the frames of most, then at the fields', () => {
    const all = ranked('60 3840x2160@25p, 40 1920x1080@50p')
    expect(all).toContain('1920x1080@25p 0.1510')
    expect(all).toContain('1920x1080@50p 0.1489')
  })
})

describe('a seasoned editor’s rules', () => {
  it('HD is offered always, UHD where much larger was filmed', () => {
    const formats = ranked('100 1280x720@50p').map((line) => line.split(' ')[0])
    expect(formats.sort()).toEqual(['1280x720@50p', '1920x1080@50p'])
    expect(ranked('60 1920x1080@25p, 40 2704x1520@25p').join()).not.toContain('3840x2160')
    expect(ranked('91 1920x1080@25p, 9 3840x2160@25p').join()).not.toContain('3840x2160')
    expect(ranked('90 1920x1080@25p, 10 3840x2160@25p').join()).toContain('3840x2160')
  })

  it('fast and slow rates are brought to what a project is set up in', () => {
    const rates = (text: string) => [...new Set(ranked(text).map((line) => line.split(/[@ ]/)[1]))].sort()
    expect(rates('100 1920x1080@240p')).toEqual(['30p'])
    expect(rates('100 1920x1080@100p')).toEqual(['25p'])
    expect(rates('100 1920x1080@48p')).toEqual(['24p'])
    expect(rates('100 1920x1080@119.88p')).toEqual(['29.97p'])
    expect(rates('100 1920x1080@12.5p')).toEqual(['25p'])
    expect(rates('100 640x480@15p')).toEqual(['30p'])
    expect(rates('100 640x480@9p')).toEqual(['9p'])
    expect(rates('91 1920x1080@25p, 9 1920x1080@120p')).toEqual(['25p'])
  })

  it('upright formats need a quarter of the weight', () => {
    expect(ranked('74 1920x1080@25p, 26 1080x1920@25p').join()).toContain('1080x1920@25p')
    expect(ranked('76 1920x1080@25p, 24 1080x1920@25p').join()).not.toContain('1080x1920@25p')
    expect(ranked('80 1080x1920@25p, 20 1920x1080@25p').join()).not.toContain('1920x1080@25p')
  })

  it('interlaced formats need half of the weight, or a delivery', () => {
    expect(ranked('49 1920x1080@50i, 51 1920x1080@25p').join()).not.toContain('50i')
    expect(ranked('51 1920x1080@50i, 49 1920x1080@25p').join()).toContain('1920x1080@50i')
    const delivered = ranked('100 3840x2160@25p', { deliver: ['1920x1080@50i'] })
    expect(delivered.join()).toContain('1920x1080@50i')
    expect(delivered.join()).not.toContain('3840x2160@50i')
  })

  it('tape and squeezed sizes need nine tenths, and bring their square size', () => {
    const sizes = (text: string) => [...new Set(ranked(text).map((line) => line.split('@')[0]))].sort()
    expect(sizes('90 720x576/64:45@50i, 10 1920x1080@25p')).toEqual([
      '1024x576',
      '1920x1080',
      '720x576/64:45',
    ])
    expect(sizes('89 720x576/64:45@50i, 11 1920x1080@25p')).toEqual(['1920x1080'])
    expect(sizes('95 2880x1080/4:3@25p, 5 1920x1080@25p')).toEqual(['1920x1080', '3840x1080'])
  })

  it('a deliverable that lies the other way proposes its size only where all do', () => {
    const upright = ['1080x1920@25p']
    expect(ranked('100 3840x2160@25p', { deliver: upright }).join()).toContain('1080x1920@25p')
    expect(ranked('100 3840x2160@25p', { deliver: [...upright, '1920x1080@25p'] }).join()).not.toContain(
      '1080x1920',
    )
  })

  it('a region makes the other one’s rates foreign, cinema’s never', () => {
    const loss = (text: string, mains?: Mains) => Number(ranked(text, { mains })[0]!.split(' ')[1])
    expect(loss('100 1920x1080@25p', 60)).toBeCloseTo(0.03, 6)
    expect(loss('100 1920x1080@25p', 50)).toBe(0)
    expect(loss('100 1920x1080@29.97p', 50)).toBeCloseTo(0.03, 6)
    expect(loss('100 1920x1080@23.976p', 50)).toBe(0)
  })

  it('without any video the deliveries are ranked, else HD and UHD at the region’s rates; nothing is lost', () => {
    const texts = (mains: Mains | null, deliverables: string[] = []) =>
      rank([], { policy: defaultPolicy, mains, deliverables: deliverables.map(format) }).map(
        (c) => `${formatText(c.format)} ${c.loss}`,
      )
    expect(texts(50)).toEqual(['1920x1080@25p 0', '1920x1080@50p 0', '3840x2160@25p 0', '3840x2160@50p 0'])
    expect(texts(60)[0]).toBe('1920x1080@29.97p 0')
    expect(texts(null)).toEqual([
      '1920x1080@25p 0',
      '1920x1080@29.97p 0',
      '3840x2160@25p 0',
      '3840x2160@29.97p 0',
    ])
    expect(texts(null, ['1280x720@50p'])).toEqual(['1280x720@50p 0'])
    expect(gatherVotes([]).blocs).toEqual([])
  })

  it('held footage is delivered as it was filmed, and fields are not turned into frames twice', () => {
    // 25p whole in 50i goes out as 25p; held in 50p it is 25p again; nothing is lost on the way.
    const loss = (at: string, deliver: string) =>
      rank([bloc('1920x1080@25p')], {
        policy: defaultPolicy,
        deliverables: [format(deliver)],
        tried: [format(at)],
      }).find((c) => formatText(c.format) === at)!.loss
    expect(loss('1920x1080@50i', '1920x1080@25p')).toBeCloseTo(0, 12)
    expect(loss('1920x1080@50p', '1920x1080@25p')).toBeCloseTo(0.03, 12)
    expect(loss('1920x1080@50p', '1920x1080@50p')).toBeCloseTo(0.03, 12)
  })
})

describe('random mixes', () => {
  const sizes = [
    '3840x2160',
    '1920x1080',
    '4096x2160',
    '2704x1520',
    '1280x720',
    '1080x1920',
    '1440x1080/4:3',
    '720x576/64:45',
    '640x480',
    '1366x768',
  ]
  const rates = [
    '23.976p',
    '24p',
    '25p',
    '29.97p',
    '30p',
    '50p',
    '59.94p',
    '60p',
    '50i',
    '59.94i',
    '100p',
    '120p',
    '240p',
    '15p',
  ]
  const mix = fc.array(
    fc.tuple(fc.constantFrom(...sizes), fc.constantFrom(...rates), fc.integer({ min: 1, max: 100 })),
    { minLength: 2, maxLength: 6 },
  )

  const isOutside = (rate: string) => ['100p', '120p', '240p', '15p'].includes(rate)
  it('recommend no rate over 60 or under 20, and no tape or odd size unless nine tenths hold it', () => {
    const standard = new Set(standardSizes.map((size) => `${size.width}x${size.height}`))
    fc.assert(
      fc.property(mix, fc.constantFrom<Ranking>(...Ranking.options), (mixed, lean) => {
        const blocs = mixed.map(([size, rate, weight]) => bloc(`${size}@${rate}`, weight))
        const all = mixed.reduce((sum, part) => sum + part[2], 0)
        const usual = mixed.filter(([, rate]) => !isOutside(rate)).reduce((sum, part) => sum + part[2], 0)
        // What was filmed to be slowed or sped up counts a tenth beside others.
        const parts = mixed.map(
          ([size, rate, weight]) =>
            [size, rate, isOutside(rate) && usual >= all / 20 ? weight / 10 : weight] as const,
        )
        const total = parts.reduce((sum, part) => sum + part[2], 0)
        for (const { format } of rank(blocs, { policy: defaultPolicy, lean }).slice(0, 2)) {
          expect(toNumber(format.rate)).toBeLessThanOrEqual(60)
          expect(toNumber(format.rate)).toBeGreaterThanOrEqual(20)
          const odd =
            !equal(format.pixelAspect, rational(1)) ||
            isTapeRaster(format) ||
            !standard.has(`${format.width}x${format.height}`)
          const same = parts.filter(([size]) => size.startsWith(`${format.width}x${format.height}`))
          const wide = parts.filter(([size]) => size.startsWith('720x576'))
          if (odd)
            expect(
              Math.max(...[same, wide].map((parts) => parts.reduce((sum, part) => sum + part[2], 0))) / total,
            ).toBeGreaterThanOrEqual(lean === 'majority' ? 0.5 - 1e-9 : 0.9 - 1e-9)
        }
      }),
      { numRuns: 400 },
    )
  })

  it('of one kind give themselves where they are a standard format', () => {
    for (const text of [
      '3840x2160@25p',
      '1920x1080@50p',
      '4096x2160@24p',
      '1280x720@59.94p',
      '1080x1920@29.97p',
      '7680x4320@25p',
    ])
      for (const lean of ['balanced', 'detail', 'majority'] as const)
        expect(ranked(`100 ${text}`, { lean })[0]).toMatch(new RegExp(`^${text} `))
  })
})
