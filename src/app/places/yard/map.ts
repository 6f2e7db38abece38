import { uprightSize } from '../../../core/choice/candidates'
import type { Bloc } from '../../../core/choice/vote'
import { type Format, type FrameSize, pixelSizeName, sizeText } from '../../../core/format/format'
import { type Rate, rateName, rateWithScan } from '../../../core/rate/rate'
import { equal, toNumber } from '../../../core/rational/rational'
import type { Charge, Grade } from '../../../core/toll/charge'
import { shortWords } from '../../../core/toll/sentence'
import type { Policy } from '../../../core/toll/policy'
import { tollOf } from '../../../core/toll/toll'
import { plainTreatment } from '../../../core/toll/treatment'

/** The yard drawn: rates across, sizes down, footage as blocks in their cells, and what each pays to the candidate. */
export interface YardMap {
  readonly columns: readonly { rate: Rate; name: string; x: number }[]
  readonly rows: readonly { size: FrameSize; name: string; y: number }[]
  readonly blocks: readonly Block[]
  /** The candidate's cell, as the frame is laid on it. */
  readonly frame: {
    readonly x: number
    readonly y: number
    readonly width: number
    readonly height: number
  } | null
  readonly width: number
  readonly height: number
}

export interface Block {
  readonly key: string
  readonly bloc: Bloc
  readonly x: number
  readonly y: number
  readonly width: number
  readonly height: number
  readonly interlaced: boolean
  readonly grade: Grade
  readonly label: string
  /** Where the label stands: its middle, and its line. */
  readonly labelAt: { readonly x: number; readonly y: number }
  /** The way from the block to the candidate; null where it stands in it. */
  readonly path: string | null
  readonly stroke: number
  readonly says: string
}

const margin = { left: 116, top: 30, right: 36, bottom: 14 }

/** Which rates and sizes the yard shows: those of the footage, of the candidate, and of formats tried before. */
export function axes(blocs: readonly Bloc[], also: readonly Format[]): { rates: Rate[]; sizes: FrameSize[] } {
  const rates: Rate[] = []
  const sizes = new Map<string, FrameSize>()
  const addRate = (rate: Rate | null) => {
    if (rate && !rates.some((r) => equal(r, rate))) rates.push(rate)
  }
  const addSize = ({ width, height, pixelAspect }: FrameSize) =>
    sizes.set(sizeText({ width, height, pixelAspect }), { width, height, pixelAspect })
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

/** Lays out the yard in a given space. Blocks are as large as their running time, the largest filling its cell. */
export function layOut(
  blocs: readonly Bloc[],
  candidate: Format | null,
  also: readonly Format[],
  policy: Policy,
  width: number,
  height: number,
): YardMap {
  const { rates, sizes } = axes(blocs, candidate ? [candidate, ...also] : also)
  const stepX = (width - margin.left - margin.right) / Math.max(1, rates.length)
  const stepY = (height - margin.top - margin.bottom) / Math.max(1, sizes.length)
  const columns = rates.map((rate, i) => ({ rate, name: rateName(rate), x: margin.left + stepX * (i + 0.5) }))
  const rows = sizes.map((size, i) => ({
    size,
    name: pixelSizeName(size),
    y: margin.top + stepY * (i + 0.5),
  }))
  const columnOf = (rate: Rate) => columns.find((c) => equal(c.rate, rate))!
  const rowOf = (size: FrameSize) =>
    rows.find(
      (r) =>
        sizeText(r.size) ===
        sizeText({ width: size.width, height: size.height, pixelAspect: size.pixelAspect }),
    )!

  const frameSize = { width: Math.min(stepX * 0.9, 104), height: Math.min(stepY * 0.98, 52) }
  const frame = candidate
    ? {
        x: columnOf(candidate.rate).x - frameSize.width / 2,
        y: rowOf(candidate).y - frameSize.height / 2,
        ...frameSize,
      }
    : null

  const longest = Math.max(1e-9, ...blocs.map((bloc) => bloc.seconds))
  const most = { width: Math.min(stepX * 0.72, 84), height: Math.min(stepY * 0.66, 36) }
  const inCell = new Map<string, number>()
  const blocks = [...blocs]
    .sort((a, b) => b.seconds - a.seconds)
    .flatMap((bloc): Block[] => {
      if (!bloc.picture.rate) return []
      const column = columnOf(bloc.picture.rate)
      const row = rowOf(uprightSize(bloc.picture))
      const cell = `${column.name} ${row.name}`
      const nth = inCell.get(cell) ?? 0
      inCell.set(cell, nth + 1)
      const side = Math.sqrt(bloc.seconds / longest)
      const size = { width: Math.max(14, most.width * side), height: Math.max(9, most.height * side) }
      const x = column.x - size.width / 2 + nth * (most.width * 0.55)
      const y = row.y - size.height / 2
      const toll = candidate ? tollOf(bloc.picture, candidate, plainTreatment, policy) : null
      const shownCharges = [...(toll?.charges ?? [])].sort((a, b) => b.loss - a.loss).slice(0, 2)
      const inFrame = Boolean(
        frame &&
        Math.abs(frame.x + frame.width / 2 - column.x) < 1 &&
        Math.abs(frame.y + frame.height / 2 - row.y) < 1,
      )
      return [
        {
          key: cell + nth,
          bloc,
          x,
          y,
          ...size,
          interlaced: bloc.picture.scan === 'interlaced',
          grade: toll?.grade ?? 'free',
          label: labelOf(shownCharges),
          labelAt: { x: x + size.width / 2, y: y + size.height + 11 },
          path: frame && !inFrame ? pathTo(frame, x + size.width / 2, y + size.height / 2, size) : null,
          stroke: 1 + 2.5 * side,
          says: `${bloc.ids.length} at ${row.name}, ${rateWithScan(bloc.picture.rate, bloc.picture.scan)}`,
        },
      ]
    })
  return { columns, rows, blocks: withLabelsApart(blocks, width), frame, width, height }
}

/** A letter of a label is about this wide. */
const letterWidth = 5.4

/** Labels stay beside the sizes and inside the yard; one that would cover its neighbour's goes above its block. */
function withLabelsApart(blocks: readonly Block[], width: number): Block[] {
  const taken: { left: number; right: number; y: number }[] = []
  return [...blocks]
    .sort((a, b) => a.x - b.x)
    .map((block) => {
      if (!block.path || !block.label) return block
      const half = (block.label.length * letterWidth) / 2
      const x = Math.min(width - half - 4, Math.max(margin.left + 6 + half, block.labelAt.x))
      const covers = (y: number) =>
        taken.some((t) => Math.abs(t.y - y) < 11 && x - half < t.right && x + half > t.left)
      const y = covers(block.labelAt.y) ? block.y - 4 : block.labelAt.y
      taken.push({ left: x - half, right: x + half, y })
      return { ...block, labelAt: { x, y } }
    })
}

const labelOf = (charges: readonly Charge[]) => charges.map(shortWords).join(' · ')

/** A curve from a block's edge to the nearest side of the frame. */
function pathTo(
  frame: { x: number; y: number; width: number; height: number },
  x: number,
  y: number,
  size: { width: number; height: number },
): string {
  const cx = frame.x + frame.width / 2
  const cy = frame.y + frame.height / 2
  const [dx, dy] = [x - cx, y - cy]
  const sideways = Math.abs(dx) > frame.width * 0.6
  const ex = sideways
    ? cx + (Math.sign(dx) * frame.width) / 2
    : cx + Math.sign(dx) * Math.min(Math.abs(dx), frame.width * 0.3)
  const ey = sideways
    ? cy + Math.sign(dy) * Math.min(Math.abs(dy) * 0.1, frame.height * 0.35)
    : cy + (Math.sign(dy) * frame.height) / 2
  const sx = sideways ? x - (Math.sign(dx) * size.width) / 2 : x
  const sy = sideways ? y : y - (Math.sign(dy) * size.height) / 2
  return sideways
    ? `M${sx} ${sy} C${sx - dx * 0.35} ${sy}, ${ex + dx * 0.25} ${ey}, ${ex} ${ey}`
    : `M${sx} ${sy} C${sx} ${sy - dy * 0.35}, ${ex} ${ey + dy * 0.35}, ${ex} ${ey}`
}
