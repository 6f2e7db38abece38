import { describe, expect, it } from 'vitest'
import { formatText, rec709, sizeText, pictureOfFormat } from '../format/format'
import { parseFormat } from '../format/parse'
import { defaultPolicy } from '../toll/policy'
import { bloc } from './bloc.fixture'
import { candidateFormats, commonColour, commonFieldOrder } from './candidates'
import { rank } from './rank'
import { uprightSize } from '../picture/turn'
import type { Bloc } from './bloc'

const format = (text: string) => parseFormat(text)!.format
const wanted = (...delivered: string[]) => ({
  deliverables: delivered.map(format),
  mains: null,
  policy: defaultPolicy,
})
const texts = (...blocs: Bloc[]) => candidateFormats(blocs, wanted()).map(formatText).sort()

describe('candidates', () => {
  it('are every size at every rate', () => {
    expect(texts(bloc('3840x2160@25p'), bloc('1920x1080@50p'))).toEqual([
      '1920x1080@25p',
      '1920x1080@50p',
      '3840x2160@25p',
      '3840x2160@50p',
    ])
  })

  it('stand upright', () => {
    expect(texts(bloc('1920x1080@25p', 10, { rotation: 90 }))).toEqual(['1080x1920@25p'])
    const turned = uprightSize({ ...pictureOfFormat(format('1440x1080/4:3@25p')), rotation: 270 })
    expect(sizeText(turned)).toBe('1080x1440/3:4')
    expect(texts(bloc('1280x720@25p', 10, { rotation: 90 }))).toEqual(['1080x1920@25p', '720x1280@25p'])
    // Squeezed, and turned: it is shown as HD upright.
    expect(texts(bloc('1440x1080/4:3@25p', 10, { rotation: 90 }))).toEqual(['1080x1920@25p'])
  })

  it('come from what is delivered and tried as well, each once', () => {
    const delivered = candidateFormats([bloc('1920x1080@25p')], wanted('1280x720@50p')).map(formatText)
    expect(delivered).toContain('1280x720@50p')
    expect(delivered).toContain('1920x1080@50p')
    const tried = [format('1998x1080@24p'), format('1920x1080@25p')]
    expect(candidateFormats([bloc('1920x1080@25p')], wanted(), tried).map(formatText)).toEqual([
      '1920x1080@25p',
      '1998x1080@24p',
    ])
  })

  it('of what is delivered only in the ways that the footage stands, where there is any', () => {
    const sizesOf = (blocs: Bloc[], ...delivered: string[]) =>
      candidateFormats(blocs, wanted(...delivered))
        .map(formatText)
        .sort()
    const lying = [bloc('1920x1080@25p')]
    expect(sizesOf(lying, '1280x720@25p', '720x1280@25p')).toEqual(['1280x720@25p', '1920x1080@25p'])
    // Where none lies as the footage does, theirs and larger masters of their shape are.
    expect(sizesOf(lying, '720x1280@25p')).toEqual(['1080x1920@25p', '720x1280@25p'])
  })

  it('are interlaced only at rates that interlaced footage holds in earnest, or that is delivered so', () => {
    const interlaced = (blocs: Bloc[], ...delivered: string[]) =>
      candidateFormats(blocs, wanted(...delivered))
        .map(formatText)
        .filter((text) => text.endsWith('i'))
    // A trace of 59.94i proposes no fields of its own.
    expect(
      interlaced([bloc('1920x1080@50i', 60), bloc('1920x1080@59.94i', 5), bloc('1920x1080@25p', 35)]),
    ).toEqual(['1920x1080@50i'])
    expect(interlaced([bloc('1920x1080@50i', 30), bloc('1920x1080@25p', 35)])).toEqual([])
    // A progressive delivery asks for no fields; an interlaced one for its own alone.
    expect(interlaced([bloc('1920x1080@25p', 60)], '1920x1080@25p')).toEqual([])
    expect(interlaced([bloc('1920x1080@25p', 60)], '1920x1080@50i', '1280x720@25p')).toEqual([
      '1920x1080@50i',
    ])
    expect(interlaced([bloc('1440x1080/4:3@50i', 95), bloc('1920x1080@25p', 5)]).sort()).toEqual([
      '1440x1080/4:3@50i',
      '1920x1080@50i',
    ])
  })

  it('have the rates in which programmes are shown: halves of what is faster, doubles of what is slow', () => {
    const rates = (...formats: string[]) => [
      ...new Set(
        texts(...formats.map((text) => bloc(`1920x1080@${text}p`))).map((text) => text.split('@')[1]),
      ),
    ]
    expect(rates('30')).toEqual(['30p'])
    expect(rates('48')).toEqual(['24p'])
    expect(rates('10')).toEqual(['10p'])
    expect(rates('12.5')).toEqual(['25p'])
    // No standard rate at all: what is held stays.
    expect(rates('9')).toEqual(['9p'])
    expect(rates('33')).toEqual(['33p'])
    expect(rates('33', '25')).toEqual(['25p'])
  })

  it('have the field order of most of the interlaced weight, else top first', () => {
    const bottom = { fieldOrder: 'bottom-first' } as const
    expect(commonFieldOrder([bloc('1920x1080@50i', 10), bloc('1920x1080@50i', 11, bottom)])).toBe(
      'bottom-first',
    )
    expect(commonFieldOrder([bloc('1920x1080@25p', 10, bottom)])).toBe('top-first')
    // A tie is top first, whichever came first.
    expect(commonFieldOrder([bloc('1920x1080@50i', 10, bottom), bloc('1920x1080@50i', 10)])).toBe('top-first')
    expect(commonFieldOrder([bloc('1920x1080@50i', 10), bloc('1920x1080@50i', 10, bottom)])).toBe('top-first')
    expect(
      commonFieldOrder([
        bloc('1920x1080@50i', 20, { fieldOrder: 'unknown' }),
        bloc('1920x1080@50i', 10, bottom),
      ]),
    ).toBe('bottom-first')
    expect(candidateFormats([bloc('1920x1080@50i', 10, bottom)], wanted())).toContainEqual(
      expect.objectContaining({ scan: 'interlaced', fieldOrder: 'bottom-first' }),
    )
  })
})

describe('the colour of candidates', () => {
  it('is what most of the running time has, SD primaries taken as BT.709', () => {
    const hdr = { primaries: 'bt2020', transfer: 'hlg', bitDepth: 10 }
    expect(commonColour([bloc('1920x1080@25p', 60, hdr), bloc('1920x1080@25p', 10)], [])).toEqual(hdr)
    const sd = bloc('720x576@50i', 60, { primaries: 'bt601-625', transfer: 'bt709', bitDepth: null })
    expect(commonColour([sd, bloc('1920x1080@25p', 10, hdr)], [])).toEqual(rec709)
    expect(commonColour([], [])).toEqual(rec709)
    const odd = bloc('1920x1080@25p', 60, { primaries: null, transfer: 'srgb', bitDepth: 6 })
    expect(commonColour([odd], [])).toEqual(rec709)
  })
  it('is what is delivered, where that is known', () => {
    const colour = { primaries: 'bt2020', transfer: 'pq', bitDepth: 10 }
    expect(commonColour([bloc('1920x1080@25p')], [{ ...format('1920x1080@25p'), colour }])).toEqual(colour)
  })
})

describe('film whose pulldown is taken out', () => {
  it('speaks for its own rate, and pays nothing for its motion there', () => {
    const dub = bloc('1920x1080@59.94i', 60, { pulldownPhase: 2, pulldownOut: true })
    const [first] = rank([dub], { policy: defaultPolicy })
    expect([formatText(first!.format), first!.loss]).toEqual(['1920x1080@23.976p', 0])
    const asIs = rank([bloc('1920x1080@59.94i', 60, { pulldownPhase: 2 })], { policy: defaultPolicy })
    expect(asIs.map(({ format }) => formatText(format))).not.toContain('1920x1080@23.976p')
  })
})
