import { framesShown } from '../../core/motion/shown'
import { type Ref, onBeforeUnmount, ref, watch } from 'vue'
import type { Layer } from '../../core/plan/layers'
import type { Format } from '../../core/format/format'
import { composeArea } from './compose-area'
import { contentKey } from '../../media/frame-locator'
import { turns } from '../../media/turns'
import { useMedia } from '../../stores/media'
import { useProject } from '../../stores/document/project'
import { type Painting, needsLines, paint, putExactly } from '../../media/play/paint'

/** A decoded picture is never asked for larger than this: the whole of any frame. */
const whole = 8192

/** What is to be painted. */
export interface Wish {
  /** Tells what was painted. */
  readonly key: string
  readonly painting: Painting
  /** Sources are decoded no larger for the quick picture. */
  readonly widest?: number
  /** The key frame before a frame will do: it is there at once. */
  readonly near?: boolean
  /** The format of the raster where the exact picture takes the place of the quick one, once nothing moves. */
  readonly exactIn?: Format | undefined
}

/** A picture that stands so long, in milliseconds, is made exactly. */
const atRest = 120

/**
 * Keeps a canvas painted with what is wished: decodes what its layers need and paints it. Only the newest wish is followed;
 * decoding for an older one is ended where it is done, and a picture that comes late is dropped.
 * @param wish what is to be painted, null for nothing
 */
export function usePainter(canvas: Ref<HTMLCanvasElement | null>, wish: () => Wish | null) {
  const media = useMedia()
  const project = useProject()
  /** Why nothing can be shown; null where something is. */
  const trouble = ref<string | null>(null)
  /** The key of what stands on the canvas. */
  const painted = ref<string | null>(null)
  /** Whether what stands on the canvas was made by the exact kernels. */
  const exact = ref(false)
  /** Decoded frames of the last painting: what stands still is not decoded again. */
  let held = new Map<string, ImageBitmap>()
  let wanted = new AbortController()

  const nameOf = ({ source, rasterMap }: Layer, index: number, widest: number) => {
    const clip = source.kind === 'clip' ? project.doc?.clips[source.clipId] : undefined
    return `${clip ? contentKey(clip) : source.kind} ${rasterMap.turn} ${index} ${widest}`
  }

  async function follow() {
    wanted.abort()
    wanted = new AbortController()
    const { signal } = wanted
    const wished = wish()
    if (!wished || !canvas.value) return
    const decoded = new Map<string, ImageBitmap>()
    const names = new Map<Layer, (index: number) => string>()
    let reason: string | null = null
    try {
      for (const layer of wished.painting.layers) {
        const widest = needsLines(layer.shown) || wished.painting.field ? whole : (wished.widest ?? whole)
        names.set(layer, (index) => nameOf(layer, index, widest))
        const clip = layer.source.kind === 'clip' ? project.doc?.clips[layer.source.clipId] : undefined
        for (const index of clip ? framesShown(layer.shown) : []) {
          const name = nameOf(layer, index, widest)
          const known = decoded.get(name) ?? held.get(name)
          if (known) decoded.set(name, known)
          else if (clip) {
            const answer = await media.frameAt(clip, index, widest, signal, !wished.near)
            if (answer.ok) decoded.set(name, answer.picture)
            else reason = answer.error
          }
        }
      }
    } catch (error) {
      if (!signal.aborted) throw error
    }
    // A wish that was overtaken keeps what it decoded for the next one, which mostly wants the same.
    for (const [name, picture] of held) if (decoded.get(name) !== picture) picture.close()
    held = decoded
    if (signal.aborted || !canvas.value) return
    trouble.value = reason
    paint(canvas.value, wished.painting, (layer, index) => decoded.get(names.get(layer)?.(index) ?? ''))
    exact.value = false
    painted.value = reason === null ? wished.key : null
    if (wished.exactIn && reason === null) void followExactly(wished, wished.exactIn, signal)
  }

  /** Puts the exact picture in the place of the quick one. */
  async function followExactly({ painting }: Wish, format: Format, signal: AbortSignal): Promise<void> {
    await new Promise((rested) => setTimeout(rested, atRest))
    if (signal.aborted || !project.doc) return
    const { region } = painting
    const [x, y] = [Math.max(0, Math.floor(region.x)), Math.max(0, Math.floor(region.y))]
    const width = Math.min(format.width, Math.ceil(region.x + region.width)) - x
    const height = Math.min(format.height, Math.ceil(region.y + region.height)) - y
    if (width <= 0 || height <= 0) return
    const area = { x, y, width, height }
    try {
      const answer = await composeArea(project.doc, painting.layers, format, area, signal)
      if (!answer.ok) return
      if (!signal.aborted && canvas.value) {
        putExactly(canvas.value, painting, answer.picture, area)
        exact.value = true
      }
      answer.picture.close()
    } catch {
      // What cannot be made exactly, or was overtaken, stays as it was made quickly, and says so.
    }
  }
  // One after the other: what is held belongs to one at a time.
  const inTurn = turns()
  const next = () => {
    wanted.abort()
    void inTurn(follow)
  }
  watch([wish, canvas], next, { immediate: true, flush: 'post' })
  onBeforeUnmount(() => {
    wanted.abort()
    void inTurn(async () => held.forEach((picture) => picture.close()))
  })
  return { trouble, painted, exact }
}
