import { describe, expect, it } from 'vitest'
import { rational } from '../rational/rational'
import { type PictureClaim, settleClaims } from './claims'

const wrapper = (facts: PictureClaim['facts'], origin = 'fiel'): PictureClaim => ({
  layer: 'wrapper',
  origin,
  facts,
})
const stream = (facts: PictureClaim['facts']): PictureClaim => ({
  layer: 'stream',
  origin: 'picture timing',
  facts,
})

describe('claims', () => {
  it('of the wrapper win where its standard says that they decide, and a note keeps both', () => {
    const { facts, notes } = settleClaims([
      { ...wrapper({ matrix: 'bt2020' }, 'colr'), decides: true },
      stream({ matrix: 'bt709' }),
    ])
    expect(facts.matrix).toBe('bt2020')
    expect(notes[0]!.message).toBe(
      'picture timing says matrix bt709, the colr says bt2020: the box is believed.',
    )
  })

  it('of the bitstream win over the wrapper’s, and a note keeps both', () => {
    const { facts, origins, notes } = settleClaims([
      wrapper({ scan: 'interlaced', fieldOrder: 'bottom-first' }),
      stream({ scan: 'interlaced', fieldOrder: 'top-first' }),
    ])
    expect(facts.fieldOrder).toBe('top-first')
    expect(origins['video.fieldOrder']).toBe('picture timing')
    expect(notes).toEqual([
      {
        code: 'contradiction-field-order',
        message:
          'fiel says field order bottom-first, the picture timing says top-first: the stream is believed.',
      },
    ])
  })
  it('of pixel shapes are compared as numbers', () => {
    expect(
      settleClaims([
        wrapper({ pixelAspect: rational(4, 3) }, 'pasp'),
        stream({ pixelAspect: rational(8, 6) }),
      ]).notes,
    ).toEqual([])
    expect(
      settleClaims([wrapper({ pixelAspect: rational(1) }, 'pasp'), stream({ pixelAspect: rational(4, 3) })])
        .notes[0]!.message,
    ).toContain('pasp says pixel shape 1:1')
  })
  it('stand in for each other where one is silent', () => {
    const { facts, notes } = settleClaims([
      wrapper({ scan: 'interlaced', fieldOrder: 'top-first' }),
      stream({ scan: 'interlaced', fieldOrder: 'unknown', primaries: null }),
    ])
    expect(facts).toEqual({ scan: 'interlaced', fieldOrder: 'top-first' })
    expect(notes).toEqual([])
  })
  it('of an order lapse where the picture is progressive', () => {
    const { facts, notes } = settleClaims([
      wrapper({ scan: 'interlaced', fieldOrder: 'top-first' }),
      stream({ scan: 'progressive' }),
    ])
    expect(facts).toEqual({ scan: 'progressive', fieldOrder: null })
    expect(notes.map((n) => n.code)).toEqual(['contradiction-scan'])
  })
})
