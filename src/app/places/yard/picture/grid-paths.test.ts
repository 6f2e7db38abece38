import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { parseFormat } from '../../../../core/format/parse'
import { defaultWeights } from '../../../../core/toll/policy'
import { tollTable } from '../../../../core/toll/table'
import { pictureOfFormat } from '../../../../core/format/format'
import { layOutGrid } from './grid'
import { type Ways, waysTo } from './grid-paths'
import type { Bloc } from '../../../../core/choice/bloc'

const format = (text: string) => parseFormat(text)!.format
const bloc = (text: string, seconds: number): Bloc => ({
  picture: pictureOfFormat(format(text)),
  ids: ['a'],
  seconds,
  weight: seconds,
})
const texts = ['3840x2160@25p', '1920x1080@50p', '1920x1080@59.94p', '720x576/64:45@50i', '1920x1080@50i']
const grid = layOutGrid(
  texts.map((text, i) => bloc(text, 100 / (i + 1))),
  [],
  760,
  420,
)
const at = (text: string) => waysTo(grid, format(text), tollTable(defaultWeights))
const wayOf = ({ ways }: Ways, text: string) => ways.find((w) => w.block.bloc.picture === pictureAt(text))!
const pictureAt = (text: string) => grid.blocks[texts.indexOf(text)]!.bloc.picture

describe('the ways to the candidate', () => {
  it('lay a frame on its cell, and lead there from each block outside', () => {
    const moving = at('3840x2160@25p')
    expect(moving.frame!.x + moving.frame!.width / 2).toBeCloseTo(grid.columns[0]!.x, 9)
    expect(moving.frame!.y + moving.frame!.height / 2).toBeCloseTo(grid.rows[0]!.y, 9)
    expect(moving.ways.filter((w) => w.path)).toHaveLength(4)
    expect(wayOf(moving, '3840x2160@25p')).toMatchObject({ path: null, grade: 'free', label: '' })
    expect(wayOf(moving, '720x576/64:45@50i')).toMatchObject({ grade: 'severe' })
    expect(wayOf(moving, '720x576/64:45@50i').label).toContain('enlarged 5.33')
  })
  it('say what is paid inside the frame too, below it', () => {
    const moving = at('1920x1080@25p')
    const fields = wayOf(moving, '1920x1080@50i')
    expect(fields.path).toBeNull()
    expect(fields.label).toContain('1 field in 2')
    expect(fields.labelAt!.y).toBeGreaterThan(moving.frame!.y + moving.frame!.height)
  })
  it('name at most the two dearest charges', () => {
    for (const text of texts)
      for (const { label } of at(text).ways) expect(label.split(' · ').length).toBeLessThan(3)
  })
  it('have no frame where the grid has no cell', () => {
    expect(at('1998x1080@24p')).toEqual({ frame: null, ways: [] })
  })
  it('keep every label inside the yard, and none covers another, however full it is', () => {
    const sizes = ['3840x2160', '1920x1080', '1280x720', '1080x1920', '720x576', '640x480']
    const full = layOutGrid(
      sizes.flatMap((size, i) =>
        ['25p', '50i', '29.97p', '50p', '59.94p'].map((rate, j) => bloc(`${size}@${rate}`, 9 + i * j)),
      ),
      [],
      760,
      420,
    )
    fc.assert(
      fc.property(fc.constantFrom(grid, full), fc.constantFrom(...texts.slice(0, 3)), (on, text) => {
        const { ways } = waysTo(on, format(text), tollTable(defaultWeights))
        const boxes = ways.flatMap((w) =>
          w.label && w.labelAt ? [{ ...w.labelAt, half: w.label.length * 2.7 }] : [],
        )
        // What found no room has a label all the same, for whoever points at it.
        expect(boxes.length).toBeGreaterThan(ways.length / 3)
        for (const a of boxes) {
          expect(a.x + a.half).toBeLessThanOrEqual(on.width)
          for (const b of boxes)
            if (a !== b && Math.abs(a.y - b.y) < 11)
              expect(Math.abs(a.x - b.x)).toBeGreaterThanOrEqual(a.half + b.half - 1e-6)
        }
      }),
    )
  })
  it('give the longest running time its label first', () => {
    const cell = layOutGrid(
      [bloc('1920x1080@50i', 3), bloc('1920x1080@25p', 9), bloc('3840x2160@50p', 2)],
      [],
      300,
      120,
    )
    const { ways } = waysTo(cell, format('3840x2160@50p'), tollTable(defaultWeights))
    expect(ways.map((w) => w.block.bloc.seconds)).toEqual([9, 3, 2])
    expect(ways[0]!.labelAt).not.toBeNull()
  })
})
