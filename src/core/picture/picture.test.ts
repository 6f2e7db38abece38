import { describe, expect, it } from 'vitest'
import { rational } from '../rational/rational'
import { isHdr, matricesDiffer, matrixOf } from './colour'
import { type Picture, type PictureFacts, gatherPictures, pictureKey, pictureOf } from './picture'
import { firstParity, ordersDiffer, otherParity } from './scan'
import {
  displayAspect,
  displaySize,
  isStandardDefinition,
  isUpright,
  sameSize,
  sizeKey,
  squareSize,
} from './size'
import { isQuarterTurn, turnedSize, uprightSize } from './turn'

const facts: PictureFacts = {
  width: 1920,
  height: 1080,
  pixelAspect: rational(1),
  rotation: 0,
  rate: rational(25),
  rateMode: 'constant',
  scan: 'progressive',
  fieldOrder: null,
  bitDepth: 8,
  colour: { primaries: 'bt709', transfer: 'bt709', matrix: 'bt709', range: 'limited' },
}
const picture = pictureOf(facts)

describe('a stored picture', () => {
  it('has a key of all that decides what it pays', () => {
    const others: Partial<Picture>[] = [
      { width: 1919 },
      { height: 1081 },
      { pixelAspect: rational(4, 3) },
      { rotation: 90 },
      { rate: rational(24) },
      { rate: null },
      { scan: 'interlaced' },
      { fieldOrder: 'top-first' },
      { offNominalShare: 0.1 },
      { minRate: 20 },
      { maxRate: 30 },
      { primaries: 'bt2020' },
      { transfer: 'pq' },
      { matrix: 'bt601-625' },
      { bitDepth: 10 },
    ]
    const keys = [picture, ...others.map((other) => ({ ...picture, ...other }))].map(pictureKey)
    expect(new Set(keys).size).toBe(others.length + 1)
    expect(pictureKey(picture)).toBe(pictureKey({ ...picture }))
  })

  it('carries the spread of a variable rate, and none of a constant one', () => {
    const spread = { minRate: 20, maxRate: 31, offNominalShare: 0.2 }
    expect(pictureOf({ ...facts, ...spread, rateMode: 'variable' })).toMatchObject(spread)
    expect(pictureOf({ ...facts, rateMode: 'variable' })).toMatchObject({
      offNominalShare: 0,
      minRate: null,
      maxRate: null,
    })
    expect(pictureOf({ ...facts, ...spread })).toMatchObject({
      offNominalShare: null,
      minRate: null,
      maxRate: null,
    })
  })

  it('is gathered with those that are equal', () => {
    const variable = (offNominalShare: number): PictureFacts => ({
      ...facts,
      rateMode: 'variable',
      offNominalShare,
    })
    const colour = { ...facts.colour, transfer: 'pq' }
    const items = [
      facts,
      null,
      { ...facts },
      variable(0.1),
      variable(0.2),
      variable(0.1),
      { ...facts, colour },
    ]
    const groups = gatherPictures(
      items,
      (item) => item,
      (picture): { made: Picture; count: number } => ({ made: picture, count: 0 }),
      (group) => void group.count++,
    )
    expect(groups.map(({ count }) => count)).toEqual([2, 2, 1, 1])
    expect(groups[0]!.made).toEqual(picture)
  })
})

describe('sizes', () => {
  const sd = { width: 720, height: 576, pixelAspect: rational(64, 45) }
  it('are shown in square units, the shape exact', () => {
    expect(displaySize(sd)).toEqual({ width: 1024, height: 576 })
    expect(displayAspect(sd)).toEqual(rational(16, 9))
    expect(squareSize(sd)).toEqual({ width: 1024, height: 576, pixelAspect: rational(1) })
    expect(squareSize({ ...sd, pixelAspect: rational(8, 9) }).width).toBe(640)
    expect(squareSize({ width: 721, height: 3, pixelAspect: rational(1) }).width).toBe(721)
    expect(squareSize({ width: 1, height: 3, pixelAspect: rational(1, 16) }).width).toBe(2)
  })
  it('are the same in width, height and shape, or not', () => {
    expect(sameSize(sd, { ...sd })).toBe(true)
    for (const other of [{ width: 719 }, { height: 577 }, { pixelAspect: rational(16, 15) }]) {
      expect(sameSize(sd, { ...sd, ...other })).toBe(false)
      expect(sizeKey({ ...sd, ...other })).not.toBe(sizeKey(sd))
    }
  })
  it('stand or lie as they are shown; a square one lies', () => {
    const plain = (width: number, height: number) => ({ width, height, pixelAspect: rational(1) })
    expect([
      isUpright(plain(1080, 1920)),
      isUpright(plain(1080, 1080)),
      isUpright(plain(1920, 1080)),
    ]).toEqual([true, false, false])
    expect(isUpright({ width: 720, height: 800, pixelAspect: rational(4, 3) })).toBe(false)
  })
  it('turn with their pixels', () => {
    expect(turnedSize(sd)).toEqual({ width: 576, height: 720, pixelAspect: rational(45, 64) })
    expect(uprightSize({ ...sd, rotation: 180 })).toEqual(sd)
    expect(uprightSize({ ...sd, rotation: 270 })).toEqual(turnedSize(sd))
    expect(([0, 90, 180, 270] as const).map(isQuarterTurn)).toEqual([false, true, false, true])
  })
  it('are of standard definition up to 1024 by 576, turned too', () => {
    const is = (width: number, height: number) => isStandardDefinition({ width, height })
    expect([is(1024, 576), is(576, 720), is(1025, 576), is(1024, 577), is(1280, 720)]).toEqual([
      true,
      true,
      false,
      false,
      false,
    ])
  })
})

describe('scan and colour', () => {
  it('tells orders and parities', () => {
    expect([
      firstParity('top-first'),
      firstParity('bottom-first'),
      firstParity('unknown'),
      firstParity(null),
    ]).toEqual(['top', 'bottom', 'top', 'top'])
    expect([otherParity('top'), otherParity('bottom')]).toEqual(['bottom', 'top'])
    expect(ordersDiffer('top-first', 'bottom-first')).toBe(true)
    for (const [a, b] of [
      ['top-first', 'top-first'],
      ['unknown', 'bottom-first'],
      ['top-first', 'unknown'],
      [null, 'top-first'],
      ['top-first', null],
    ] as const)
      expect(ordersDiffer(a, b)).toBe(false)
  })
  it('knows high dynamic range by its transfer', () =>
    expect(['pq', 'hlg', 'bt709', null].map(isHdr)).toEqual([true, true, false, false]))
  it('takes the matrix as stated, else by primaries and size', () => {
    const pictureOf = (width: number, height: number, more = {}) =>
      matrixOf({ width, height }, { primaries: null, matrix: null, ...more })
    expect(pictureOf(1920, 1080)).toBe('bt709')
    expect(pictureOf(720, 576)).toBe('bt601-625')
    expect(pictureOf(720, 486)).toBe('bt601-525')
    expect(pictureOf(720, 480)).toBe('bt601-525')
    expect(pictureOf(576, 720)).toBe('bt601-625')
    expect(pictureOf(1920, 1080, { primaries: 'bt2020' })).toBe('bt2020')
    expect(pictureOf(1920, 1080, { matrix: 'rgb' })).toBe('rgb')
    expect([matricesDiffer('bt601-625', 'bt601-525'), matricesDiffer('bt601-625', 'bt709')]).toEqual([
      false,
      true,
    ])
  })
})
