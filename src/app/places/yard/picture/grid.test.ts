import { describe, expect, it } from 'vitest'
import { parseFormat } from '../../../../core/format/parse'
import { pictureOfFormat } from '../../../../core/format/format'
import { cellOf, layOutGrid } from './grid'
import type { Bloc } from '../../../../core/choice/bloc'

const format = (text: string) => parseFormat(text)!.format
const bloc = (text: string, seconds: number, more: Partial<Bloc['picture']> = {}): Bloc => ({
  picture: { ...pictureOfFormat(format(text)), ...more },
  ids: ['a'],
  seconds,
  weight: seconds,
})
const blocs = [
  bloc('1920x1080@59.94p', 20),
  bloc('3840x2160@25p', 100),
  bloc('1920x1080@50p', 25),
  bloc('720x576/64:45@50i', 4),
]
const grid = layOutGrid(blocs, [], 760, 420)
const blockOf = (nth: number) => grid.blocks.find((b) => b.bloc === blocs[nth])!

describe('the grid of the yard', () => {
  it('has a column for each rate and a row for each size, the largest at the top', () => {
    expect(grid.columns.map((c) => c.name)).toEqual(['25', '50', '59.94'])
    expect(grid.rows.map((r) => r.name)).toEqual(['3840×2160', '1920×1080', '720×576 (64:45)'])
    const down = grid.rows.map((r) => r.y)
    expect(down).toEqual([...down].sort((a, b) => a - b))
  })
  it('shows running time as area', () => {
    const area = (nth: number) => blockOf(nth).width * blockOf(nth).height
    expect(area(2) / area(1)).toBeCloseTo(0.25, 6)
  })
  it('keeps what is very short visible, and gives what turned a row of its own', () => {
    const turned = layOutGrid(
      [bloc('1920x1080@25p', 3600), bloc('1920x1080@25p', 1, { rotation: 90 })],
      [],
      760,
      420,
    )
    expect(turned.rows.map((r) => r.name)).toEqual(['1920×1080', '1080×1920'])
    const short = turned.blocks.find((b) => b.bloc.seconds === 1)!
    expect([short.width, short.height]).toEqual([14, 9])
  })
  it('sets blocks of one cell side by side, the longest first', () => {
    const { blocks } = layOutGrid([bloc('1920x1080@50i', 4), bloc('1920x1080@25p', 9)], [], 760, 420)
    expect(blocks.map((b) => [b.bloc.picture.scan, b.column, b.row])).toEqual([
      ['progressive', 0, 0],
      ['interlaced', 0, 0],
    ])
    expect(blocks[1]!.x).toBeGreaterThan(blocks[0]!.x)
  })
  it('lets none cover another, and keeps areas comparable where a cell is full', () => {
    const full = [
      bloc('1920x1080@50i', 90),
      bloc('1920x1080@25p', 90),
      bloc('1920x1080@25p', 45, { bitDepth: 10 }),
      bloc('3840x2160@50p', 90),
    ]
    const { blocks, columns, step } = layOutGrid(full, [], 500, 300)
    const cell = blocks.filter((b) => b.column === 0).sort((a, b) => a.x - b.x)
    for (const [i, b] of cell.slice(1).entries())
      expect(b.x - b.width / 2).toBeGreaterThanOrEqual(cell[i]!.x + cell[i]!.width / 2)
    const [first, last] = [cell[0], cell.at(-1)!]
    expect(first!.x - first!.width / 2).toBeGreaterThanOrEqual(columns[0]!.x - step.x / 2)
    expect(last.x + last.width / 2).toBeLessThanOrEqual(columns[0]!.x + step.x / 2)
    const alone = blocks.find((b) => b.column === 1)!
    expect(alone.width).toBeCloseTo(first!.width, 9)
  })
  it('leaves out clips without a rate', () => {
    expect(layOutGrid([...blocs, bloc('640x480@25p', 9, { rate: null })], [], 760, 420).blocks).toHaveLength(
      4,
    )
  })
  it('has room for formats that no clip has, and tells which have none', () => {
    expect(cellOf(grid, format('3840x2160@50p'))).toEqual({ column: 1, row: 0 })
    expect(cellOf(grid, format('1998x1080@24p'))).toEqual({ column: -1, row: -1 })
    const wider = layOutGrid(blocs, [format('1998x1080@24p')], 760, 420)
    expect(cellOf(wider, format('1998x1080@24p'))).toEqual({ column: 0, row: 1 })
    expect(cellOf(wider, format('720x576/16:15@25p')).row).toBe(-1)
  })
})
