import type { Grade } from '../../../../core/toll/grade'

/** A block that is too narrow to be read. */
export interface NarrowBlock {
  readonly left: number
  readonly width: number
  readonly grade: Grade | null
  readonly chosen: boolean
}

/** The shape of a grade: a circle, filled from the top on clockwise by this share. */
const filled: Readonly<Record<Grade, number>> = { free: 0, light: 0.25, heavy: 0.5, severe: 1 }
const radius = 3.5

function drawGrade(context: CanvasRenderingContext2D, grade: Grade, x: number, y: number): void {
  context.beginPath()
  context.arc(x, y, radius, 0, 2 * Math.PI)
  context.stroke()
  const share = filled[grade]
  if (share === 0) return
  context.beginPath()
  context.moveTo(x, y)
  context.arc(x, y, radius, -Math.PI / 2, (2 * share - 0.5) * Math.PI)
  context.fill()
}

/**
 * Blocks as they can be told apart: of many that begin in the same pixel and are narrower than one, there is one.
 * @param blocks in the order of their left edges
 */
export function tellable(blocks: readonly NarrowBlock[], ratio: number): NarrowBlock[] {
  const narrowBlocks: NarrowBlock[] = []
  const column = ({ left }: NarrowBlock) => Math.floor(left * ratio)
  for (const block of blocks) {
    const last = narrowBlocks.at(-1)
    if (last && column(last) === column(block) && block.width * ratio < 1) {
      const right = Math.max(last.left + last.width, block.left + block.width)
      narrowBlocks[narrowBlocks.length - 1] = {
        ...last,
        width: right - last.left,
        chosen: last.chosen || block.chosen,
      }
    } else narrowBlocks.push(block)
  }
  return narrowBlocks
}

/** Draws many narrow blocks in one go: outlines, and the shape of the grade in ink where there is room for it. */
export function drawNarrow(canvas: HTMLCanvasElement, all: readonly NarrowBlock[], view: number): void {
  const ratio = window.devicePixelRatio || 1
  const blocks = tellable(all, ratio)
  const height = canvas.clientHeight
  canvas.width = Math.max(1, Math.round(view * ratio))
  canvas.height = Math.max(1, Math.round(height * ratio))
  const context = canvas.getContext('2d')
  if (!context) return
  const style = getComputedStyle(canvas)
  const [ink, sheet, accent] = ['--ink', '--sheet', '--accent'].map((name) =>
    style.getPropertyValue(name),
  ) as [string, string, string]
  context.scale(ratio, ratio)
  const [top, high] = [2, height - 4]
  context.fillStyle = sheet
  for (const { left, width } of blocks) context.fillRect(left, top, width, high)
  context.fillStyle = ink
  context.strokeStyle = ink
  for (const { left, width, grade } of blocks) {
    context.fillRect(left, top, width, 1)
    context.fillRect(left, top + high - 1, width, 1)
    context.fillRect(left, top, 1, high)
    if (grade && width > 2 * radius + 4) drawGrade(context, grade, left + width / 2, top + radius + 5)
  }
  context.fillStyle = accent
  for (const { left, width, chosen } of blocks) if (chosen) context.fillRect(left, top, Math.max(2, width), 3)
}
