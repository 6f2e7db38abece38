import { describe, expect, it } from 'vitest'
import type { Bloc } from '../../../core/choice/vote'
import { parseFormat } from '../../../core/format/parse'
import { defaultPolicy } from '../../../core/toll/policy'
import { pictureOfFormat } from '../../../core/toll/toll'
import { layOut } from './map'

const format = (text: string) => parseFormat(text)!.format
const bloc = (text: string, seconds: number): Bloc => ({
  picture: pictureOfFormat(format(text)),
  ids: ['a'],
  seconds,
  weight: seconds,
})
const blocs = [
  bloc('3840x2160@25p', 100),
  bloc('1920x1080@50p', 25),
  bloc('1920x1080@59.94p', 20),
  bloc('720x576/64:45@50i', 4),
]
const map = layOut(blocs, format('3840x2160@25p'), [], defaultPolicy, 760, 420)

describe('the yard drawn', () => {
  it('has a column for each rate and a row for each size, the largest at the top', () => {
    expect(map.columns.map((c) => c.name)).toEqual(['25', '50', '59.94'])
    expect(map.rows.map((r) => r.name)).toEqual(['3840×2160', '1920×1080', '720×576 (64:45)'])
    expect(map.rows.map((r) => r.y)).toEqual([...map.rows.map((r) => r.y)].sort((a, b) => a - b))
  })
  it('shows running time as area', () => {
    const area = (i: number) =>
      map.blocks.find((b) => b.bloc === blocs[i])!.width * map.blocks.find((b) => b.bloc === blocs[i])!.height
    expect(area(1) / area(0)).toBeCloseTo(0.25, 6)
  })
  it('leads a way from each block outside to the candidate, and none from the one inside', () => {
    expect(map.blocks.map((b) => [b.bloc.ids.length, b.path === null, b.grade])).toContainEqual([
      1,
      true,
      'free',
    ])
    expect(map.blocks.filter((b) => b.path)).toHaveLength(3)
    expect(map.blocks.find((b) => b.interlaced)!.label).toContain('enlarged 5.33')
  })
  it('lets no label cover another', () => {
    const boxes = map.blocks.filter((b) => b.path).map((b) => ({ ...b.labelAt, half: b.label.length * 2.7 }))
    for (const a of boxes)
      for (const b of boxes)
        if (a !== b && Math.abs(a.y - b.y) < 11)
          expect(Math.abs(a.x - b.x)).toBeGreaterThanOrEqual(a.half + b.half - 1e-6)
  })
})
