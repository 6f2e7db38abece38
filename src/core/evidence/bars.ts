import type { Luma } from '../planes/luma'
import { median } from './statistics'

/** Lines of black that are no picture, on each side, in pixels. */
export interface BarsVerdict {
  readonly top: number
  readonly bottom: number
  readonly left: number
  readonly right: number
  readonly confidence: number
}

/** Pixels along a line whose mean is taken. */
const group = 8

/**
 * The greatest mean of each eight pixels along a line, over the frames that were looked at. `rows` has one list of means for
 * each row, `columns` for each column.
 */
export interface LineMeans {
  readonly width: number
  readonly height: number
  readonly rows: Uint8Array
  readonly columns: Uint8Array
}

/** The means of one frame. */
export function lineMeans({ width, height, data }: Luma): LineMeans {
  const [across, down] = [Math.floor(width / group), Math.floor(height / group)]
  const rows = new Uint8Array(across * height)
  const columns = new Uint8Array(down * width)
  const sums = new Uint16Array(width)
  for (let y = 0; y < height; y++) {
    for (let g = 0; g < across; g++) {
      let sum = 0
      const from = y * width + g * group
      for (let i = from; i < from + group; i++) sum += data[i] ?? 0
      rows[y * across + g] = Math.round(sum / group)
    }
    for (let x = 0; x < width; x++) sums[x] = (sums[x] ?? 0) + (data[y * width + x] ?? 0)
    if (y % group !== group - 1) continue
    const g = (y - group + 1) / group
    for (let x = 0; x < width; x++) columns[x * down + g] = Math.round((sums[x] ?? 0) / group)
    sums.fill(0)
  }
  return { width, height, rows, columns }
}

/** Gathers the greatest means over the frames of a clip, all of one size. */
export interface MeansGatherer {
  add(frame: Luma): void
  /** How many frames were looked at. */
  readonly frames: number
  /** Null before the first. */
  means(): LineMeans | null
}

/** Gathers plainly: what faster gatherers must equal. */
export function gatherMeans(): MeansGatherer {
  let greatest: LineMeans | null = null
  let frames = 0
  const greater = (x: Uint8Array, y: Uint8Array) => x.map((value, i) => Math.max(value, y[i] ?? 0))
  return {
    add(frame) {
      const means = lineMeans(frame)
      greatest = greatest && {
        ...means,
        rows: greater(greatest.rows, means.rows),
        columns: greater(greatest.columns, means.columns),
      }
      greatest ??= means
      frames++
    },
    get frames() {
      return frames
    },
    means: () => greatest,
  }
}

/** The lines of one axis, from one end on, each with its means within a span of groups. */
interface Lines {
  readonly count: number
  readonly means: (line: number) => Uint8Array
}

/** Black above this is picture. */
const brightestBlack = 28
const off = 6

interface Bar {
  readonly lines: number
  readonly confidence: number
}

/**
 * Bars of a clip.
 * @param means the greatest over up to 48 frames spread over the clip
 * @param frames how many were looked at
 */
export function barsIn(means: LineMeans, frames: number): BarsVerdict {
  const { width, height } = means
  const nothing: Bar = { lines: 0, confidence: 1 }
  let sides = { top: nothing, bottom: nothing, left: nothing, right: nothing }
  // Columns are looked at within the rows that are picture, and rows within such columns.
  for (let pass = 0; pass < 2; pass++) {
    const rows = linesOf(means.rows, height, width, sides.left.lines, sides.right.lines)
    sides = { ...sides, top: barAt(rows), bottom: barAt(reversed(rows)) }
    const columns = linesOf(means.columns, width, height, sides.top.lines, sides.bottom.lines)
    sides = { ...sides, left: barAt(columns), right: barAt(reversed(columns)) }
  }
  const { top, bottom, left, right } = sides
  const sure = Math.min(...Object.values(sides).map(({ confidence }) => confidence))
  return {
    top: top.lines,
    bottom: bottom.lines,
    left: left.lines,
    right: right.lines,
    confidence: sure * Math.min(1, frames / 12),
  }
}

/** Lines with their means, without the groups that lie in bars along them. */
function linesOf(all: Uint8Array, count: number, length: number, before: number, after: number): Lines {
  const groups = Math.floor(length / group)
  const from = Math.ceil(before / group)
  const to = Math.max(from + 1, Math.floor((length - after) / group))
  return {
    count,
    means: (line) => all.subarray(line * groups + from, line * groups + Math.min(groups, to)),
  }
}

const reversed = ({ count, means }: Lines): Lines => ({ count, means: (line) => means(count - 1 - line) })

const meanOf = (values: Uint8Array): number =>
  values.reduce((sum, value) => sum + value, 0) / Math.max(1, values.length)

/** The bar at the beginning of some lines. */
function barAt({ count, means }: Lines): Bar {
  const black = median([...means(0), ...means(1)])
  if (black > brightestBlack) return { lines: 0, confidence: 1 }
  const isBar = (line: number) => {
    const values = means(line)
    let [astray, deviation] = [0, 0]
    for (const value of values) {
      const from = Math.abs(value - black)
      deviation += from
      if (from > off) astray++
    }
    return astray <= 0.02 * values.length && deviation <= 3 * values.length
  }
  let end = 0
  while (end < count && isBar(end)) end++
  if (end === 0) return { lines: 0, confidence: 1 }
  if (end >= 0.45 * count) return { lines: 0, confidence: 0 }
  const edge = withRinging(means, end, count, black)
  if (edge === null || !hasPicture(means, end, count, black)) return { lines: 0, confidence: 0.5 }
  return { lines: even(edge), confidence: 1 }
}

const even = (lines: number) => lines - (lines % 2)

/** Whether a picture begins where a bar ends: a third of some line near its end stands over black. */
function hasPicture(means: Lines['means'], end: number, count: number, black: number): boolean {
  for (let line = end; line < Math.min(count, end + 5); line++) {
    const values = means(line)
    const over = values.reduce((n, value) => n + Number(value > black + off), 0)
    if (over >= 0.3 * values.length) return true
  }
  return false
}

/**
 * Codecs ring into the bar: it ends where the picture has come to nearly its own level. Null where it never does so within
 * eight lines: a picture that grows dark towards its edge has no bar.
 */
function withRinging(means: Lines['means'], end: number, count: number, black: number): number | null {
  let edge: number | null = null
  for (let line = end; line <= end + 8; line++) {
    if (line + 14 >= count) return edge ?? end
    let within = 0
    for (let i = 6; i <= 14; i++) within += meanOf(means(line + i)) - black
    const share = (meanOf(means(line)) - black) / Math.max(1, within / 9)
    if (share >= 0.4) edge ??= line
    if (share >= 0.5) return edge
  }
  return null
}
