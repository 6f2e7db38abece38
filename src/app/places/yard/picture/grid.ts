import { type FrameSize, sameSize, sizeKey } from '../../../../core/picture/size'
import { uprightSize } from '../../../../core/picture/turn'
import { type Format, pixelSizeName } from '../../../../core/format/format'
import { type Rate, rateName, rateWithScan } from '../../../../core/rate/rate'
import { equal, toNumber } from '../../../../core/rational/rational'
import type { Bloc } from '../../../../core/choice/bloc'

/** The yard drawn: rates across, sizes down, footage as blocks in their cells. Does not depend on the candidate. */
export interface Grid {
  readonly columns: readonly { rate: Rate; name: string; x: number }[]
  readonly rows: readonly { size: FrameSize; name: string; y: number }[]
  /** The longest running time first. */
  readonly blocks: readonly Block[]
  /** How far apart columns and rows stand. */
  readonly step: { readonly x: number; readonly y: number }
  readonly width: number
  readonly height: number
}

/** Footage of one reading, as large as its running time. `x` and `y` are its middle. */
export interface Block {
  readonly key: string
  readonly bloc: Bloc
  readonly x: number
  readonly y: number
  readonly width: number
  readonly height: number
  /** The side of its square, 1 for the longest running time. */
  readonly share: number
  readonly column: number
  readonly row: number
  readonly says: string
}

/** Between blocks of one cell. */
const gap = 3
const sum = (values: readonly number[]) => values.reduce((total, value) => total + value, 0)

export const margin = { left: 116, top: 30, right: 36, bottom: 14 }

/** Which rates and sizes the yard shows: those of the footage, and of every format that was tried. */
export function axes(blocs: readonly Bloc[], also: readonly Format[]): { rates: Rate[]; sizes: FrameSize[] } {
  const rates: Rate[] = []
  const sizes = new Map<string, FrameSize>()
  const addRate = (rate: Rate | null) => {
    if (rate && !rates.some((r) => equal(r, rate))) rates.push(rate)
  }
  const addSize = ({ width, height, pixelAspect }: FrameSize) =>
    sizes.set(sizeKey({ width, height, pixelAspect }), { width, height, pixelAspect })
  for (const bloc of blocs) {
    addRate(bloc.picture.rate)
    addSize(uprightSize(bloc.picture))
  }
  for (const format of also) {
    addRate(format.rate)
    addSize(format)
  }
  const area = (s: FrameSize) => s.width * s.height * toNumber(s.pixelAspect)
  return {
    rates: rates.sort((a, b) => toNumber(a) - toNumber(b)),
    sizes: [...sizes.values()].sort((a, b) => area(b) - area(a) || b.width - a.width),
  }
}

/** Lays out the yard in a given space, in pixels. The block with the longest running time fills its cell. */
export function layOutGrid(
  blocs: readonly Bloc[],
  tried: readonly Format[],
  width: number,
  height: number,
): Grid {
  const { rates, sizes } = axes(blocs, tried)
  const step = {
    x: (width - margin.left - margin.right) / Math.max(1, rates.length),
    y: (height - margin.top - margin.bottom) / Math.max(1, sizes.length),
  }
  const columns = rates.map((rate, i) => ({
    rate,
    name: rateName(rate),
    x: margin.left + step.x * (i + 0.5),
  }))
  const rows = sizes.map((size, i) => ({
    size,
    name: pixelSizeName(size),
    y: margin.top + step.y * (i + 0.5),
  }))

  const standing = [...blocs]
    .sort((a, b) => b.seconds - a.seconds)
    .flatMap((bloc) => {
      const { rate } = bloc.picture
      if (!rate) return []
      const column = rates.findIndex((other) => equal(other, rate))
      const row = sizes.findIndex((size) => sameSize(size, uprightSize(bloc.picture)))
      const [inColumn, inRow] = [columns[column], rows[row]]
      return inColumn && inRow ? [{ bloc, rate, column, row, inColumn, inRow }] : []
    })
  const longest = Math.max(1e-9, ...standing.map(({ bloc }) => bloc.seconds))
  const shareOf = (bloc: Bloc) => Math.sqrt(bloc.seconds / longest)
  const cells = new Map<string, typeof standing>()
  for (const block of standing) {
    const cell = `${block.inColumn.name} ${block.inRow.name}`
    cells.set(cell, [...(cells.get(cell) ?? []), block])
  }
  // Blocks of one cell stand side by side: the fullest cell decides how large all are, so that areas stay comparable.
  const fullest = Math.max(1, ...[...cells.values()].map((cell) => sum(cell.map((b) => shareOf(b.bloc)))))
  const most = {
    width: Math.min(step.x * 0.72, 84, (step.x * 0.92) / fullest),
    height: Math.min(step.y * 0.66, 36),
  }
  const blocks = [...cells].flatMap(([cell, members]) => {
    const widthOf = ({ bloc }: (typeof standing)[number]) => Math.max(14, most.width * shareOf(bloc))
    const across = sum(members.map(widthOf)) + gap * (members.length - 1)
    let left = (members[0]?.inColumn.x ?? 0) - across / 2
    return members.map((member, nth): Block => {
      const { bloc, rate, column, row, inRow } = member
      const own = widthOf(member)
      const x = left + own / 2
      left += own + gap
      const share = shareOf(bloc)
      return {
        key: cell + nth,
        bloc,
        x,
        y: inRow.y,
        width: own,
        height: Math.max(9, most.height * share),
        share,
        column,
        row,
        says: `${bloc.ids.length} at ${inRow.name}, ${rateWithScan(rate, bloc.picture.scan)}`,
      }
    })
  })
  blocks.sort((a, b) => b.share - a.share)
  return { columns, rows, blocks, step, width, height }
}

/** The cell of a format: its column and row, -1 where the grid has none. */
export const cellOf = (grid: Grid, format: Format) => ({
  column: grid.columns.findIndex((c) => equal(c.rate, format.rate)),
  row: grid.rows.findIndex((r) => sameSize(r.size, format)),
})
