import type { Layer } from '../../../../core/plan/layers'
import { toNumber } from '../../../../core/rational/rational'
import type { Region } from '../../../../media/play/paint'

/** A picture's brightness, row by row, each 0 … 255. */
export interface Brightness {
  readonly width: number
  readonly height: number
  readonly values: Uint8Array | Uint8ClampedArray
}

/**
 * Where a picture has most detail, as shares of it: in the block with the most edges, the edge nearest to the middle of
 * them. Edges are counted, not weighed: fine grain tells more of a resize than one hard line. Without any, the middle.
 */
export function mostDetailed(picture: Brightness, across = 16, down = 9): { x: number; y: number } {
  const { width, height } = picture
  const blocks = new Map<number, { x: number; y: number }[]>()
  for (const edge of edgesOf(picture)) {
    const block = Math.floor((edge.y * down) / height) * across + Math.floor((edge.x * across) / width)
    const edges = blocks.get(block)
    if (edges) edges.push(edge)
    else blocks.set(block, [edge])
  }
  const [most] = [...blocks.values()].sort((a, b) => b.length - a.length)
  if (!most) return { x: 0.5, y: 0.5 }
  const mean = (valueOf: (edge: { x: number; y: number }) => number) =>
    most.reduce((sum, edge) => sum + valueOf(edge), 0) / most.length
  const [mx, my] = [mean((edge) => edge.x), mean((edge) => edge.y)]
  const far = ({ x, y }: { x: number; y: number }) => (x - mx) ** 2 + (y - my) ** 2
  const nearest = most.reduce((best, edge) => (far(edge) < far(best) ? edge : best))
  return { x: (nearest.x + 0.5) / width, y: (nearest.y + 0.5) / height }
}

function* edgesOf({ width, height, values }: Brightness) {
  const step = 10
  for (let y = 0; y < height - 1; y++) {
    for (let x = 0; x < width - 1; x++) {
      const at = y * width + x
      const here = values[at] ?? 0
      if (Math.abs(here - (values[at + 1] ?? here)) + Math.abs(here - (values[at + width] ?? here)) >= step)
        yield { x, y }
    }
  }
}

/**
 * The same piece of the scene in stored and in timeline pixels, whole timeline pixels wide.
 * @param layer the picture as it lies in the timeline's raster
 * @param at its middle, as shares of the picture
 * @param across and down: timeline pixels that the piece covers
 */
export function sameScene(
  { rasterMap, size }: Pick<Layer, 'rasterMap' | 'size'>,
  at: { x: number; y: number },
  across: number,
  down: number,
): { stored: Region; timeline: Region } {
  const [scaleX, scaleY] = [toNumber(rasterMap.scaleX), toNumber(rasterMap.scaleY)]
  const place = (share: number, length: number, piece: number) =>
    Math.round(Math.min(Math.max(0, length - piece), Math.max(0, share * length - piece / 2)))
  const x = place(at.x, size.across * scaleX, across)
  const y = place(at.y, size.down * scaleY, down)
  return {
    timeline: { x: toNumber(rasterMap.x) + x, y: toNumber(rasterMap.y) + y, width: across, height: down },
    stored: { x: x / scaleX, y: y / scaleY, width: across / scaleX, height: down / scaleY },
  }
}
