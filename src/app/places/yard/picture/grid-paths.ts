import type { Format } from '../../../../core/format/format'
import { type Grade } from '../../../../core/toll/grade'
import { shortWords } from '../../../../core/toll/sentence'
import type { TollTable } from '../../../../core/toll/table'
import { type Block, type Grid, cellOf, margin } from './grid'

/** What the candidate is on the grid: a frame on its cell, and a way to it from every block. */
export interface Ways {
  readonly frame: Box | null
  readonly ways: readonly GridPath[]
}

/** The way of one block to the candidate, and the dearest that it pays on it. */
export interface GridPath {
  readonly block: Block
  readonly grade: Grade
  /** Empty where nothing is paid. */
  readonly label: string
  /** Where the label stands: its middle, and its line; null where there is no room for it. */
  readonly labelAt: { readonly x: number; readonly y: number } | null
  /** A curve as an SVG path; null where the block stands in the candidate's own cell. */
  readonly path: string | null
}

type Labelled = { readonly labelAt: NonNullable<GridPath['labelAt']> }

interface Box {
  readonly x: number
  readonly y: number
  readonly width: number
  readonly height: number
}

/** Lays the candidate on the grid, and leads each block to it. */
export function waysTo(grid: Grid, candidate: Format, table: TollTable): Ways {
  const at = cellOf(grid, candidate)
  const [inColumn, inRow] = [grid.columns[at.column], grid.rows[at.row]]
  if (!inColumn || !inRow) return { frame: null, ways: [] }
  const width = Math.min(grid.step.x * 0.9, 104)
  const height = Math.min(grid.step.y * 0.98, 52)
  const { x } = inColumn
  const { y } = inRow
  const frame = { x: x - width / 2, y: y - height / 2, width, height }
  const row = table.at(candidate)
  const ways = grid.blocks.map((block) => {
    const toll = row.of(block.bloc.picture)
    const dearest = [...toll.charges].sort((a, b) => b.loss - a.loss).slice(0, 2)
    const inside = block.column === at.column && block.row === at.row
    return {
      block,
      grade: toll.grade,
      label: dearest.map(shortWords).join(' · '),
      // What is inside the frame has its words under the frame, not across its edge.
      labelAt: { x: block.x, y: (inside ? y + height / 2 : block.y + block.height / 2) + line },
      path: inside ? null : pathTo(frame, block),
    }
  })
  return { frame, ways: withLabelsApart(ways, grid.width) }
}

/** A letter of a label is about this wide. */
const letterWidth = 5.4
/** From one line of labels to the next. */
const line = 11

/**
 * Labels stay beside the sizes and inside the yard; one that would cover another goes above its block, or a line further.
 * Where nothing is free it is left out, so the longest running time comes first: pointing at the block tells it.
 */
function withLabelsApart(ways: readonly (GridPath & Labelled)[], width: number): GridPath[] {
  const taken: { left: number; right: number; y: number }[] = []
  return ways.map((way) => {
    if (!way.label) return way
    const half = (way.label.length * letterWidth) / 2
    const x = Math.min(width - half - 4, Math.max(margin.left + 6 + half, way.labelAt.x))
    const isFree = (y: number) =>
      !taken.some((t) => Math.abs(t.y - y) < line && x - half < t.right && x + half > t.left)
    const below = way.labelAt.y
    const above = way.block.y - way.block.height / 2 - 4
    const y = [below, above, below + line, above - line].find(isFree)
    if (y === undefined) return { ...way, labelAt: null }
    taken.push({ left: x - half, right: x + half, y })
    return { ...way, labelAt: { x, y } }
  })
}

/** A curve from a block's edge to the nearest side of the frame. */
function pathTo(frame: Box, { x, y, width, height }: Block): string {
  const cx = frame.x + frame.width / 2
  const cy = frame.y + frame.height / 2
  const [dx, dy] = [x - cx, y - cy]
  if (Math.abs(dx) > frame.width * 0.6) {
    const ex = cx + (Math.sign(dx) * frame.width) / 2
    const ey = cy + Math.sign(dy) * Math.min(Math.abs(dy) * 0.1, frame.height * 0.35)
    const sx = x - (Math.sign(dx) * width) / 2
    return `M${sx} ${y} C${sx - dx * 0.35} ${y}, ${ex + dx * 0.25} ${ey}, ${ex} ${ey}`
  }
  const ex = cx + Math.sign(dx) * Math.min(Math.abs(dx), frame.width * 0.3)
  const ey = cy + (Math.sign(dy) * frame.height) / 2
  const sy = y - (Math.sign(dy) * height) / 2
  return `M${x} ${sy} C${x} ${sy - dy * 0.35}, ${ex} ${ey + dy * 0.35}, ${ex} ${ey}`
}
