import type { Grade } from '../../../../core/toll/grade'

/** A block that is too narrow to be read. */
export interface NarrowBlock {
  readonly left: number
  readonly width: number
  readonly grade: Grade | null
  readonly chosen: boolean
}

/** How much of a narrow block is filled, from its foot: more the more it pays. */
const filled: Readonly<Record<Grade, number>> = { free: 0, light: 0.25, heavy: 0.5, severe: 1 }

/** Draws many narrow blocks in one go: outlines in ink, filled by their grade. */
export function drawNarrow(canvas: HTMLCanvasElement, blocks: readonly NarrowBlock[], view: number): void {
  const ratio = window.devicePixelRatio || 1
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
  for (const { left, width, grade } of blocks) {
    context.fillRect(left, top, width, 1)
    context.fillRect(left, top + high - 1, width, 1)
    context.fillRect(left, top, 1, high)
    const share = grade ? filled[grade] : 0
    if (share > 0 && width > 3)
      context.fillRect(left + 2, top + 2 + (high - 4) * (1 - share), width - 3, (high - 4) * share)
  }
  context.fillStyle = accent
  for (const { left, width, chosen } of blocks) if (chosen) context.fillRect(left, top, Math.max(2, width), 3)
}
