import { type Ref, onBeforeUnmount, ref, watch } from 'vue'
import type { Layer } from '../../core/edit/layers'
import { useMedia } from '../../stores/media'
import { useProject } from '../../stores/project'
import { type Decoded, type Painting, framesNeeded, needsLines, paint } from './paint'

/** A decoded picture is never asked for larger than this: the whole of any frame. */
const whole = 8192

/**
 * Keeps a canvas painted with what is wished: decodes what its layers need and paints it. Only the newest wish is followed;
 * decoding for an older one is ended where it is done, and a picture that comes late is dropped.
 * @param wish what is to be painted, null for nothing; with a key that tells what was painted
 */
export function usePainter(
  canvas: Ref<HTMLCanvasElement | null>,
  wish: () => { readonly key: string; readonly painting: Painting; readonly widest?: number } | null,
) {
  const media = useMedia()
  const project = useProject()
  /** Why nothing can be shown; null where something is. */
  const trouble = ref<string | null>(null)
  /** The key of what stands on the canvas. */
  const painted = ref<string | null>(null)
  /** Decoded frames of the last painting: what stands still is not decoded again. */
  let held = new Map<string, Decoded>()
  let wanted = new AbortController()

  const nameOf = (layer: Layer, index: number, widest: number) =>
    `${layer.source.kind === 'clip' ? layer.source.clipId : layer.source.kind} ${layer.lie.turn} ${index} ${widest}`

  async function follow() {
    wanted.abort()
    wanted = new AbortController()
    const { signal } = wanted
    const now = wish()
    if (!now || !canvas.value) return
    const decoded = new Map<string, Decoded>()
    const names = new Map<Layer, (index: number) => string>()
    let reason: string | null = null
    try {
      for (const layer of now.painting.layers) {
        const widest = needsLines(layer.shown) || now.painting.field ? whole : (now.widest ?? whole)
        names.set(layer, (index) => nameOf(layer, index, widest))
        const clip = layer.source.kind === 'clip' ? project.doc?.clips[layer.source.clipId] : undefined
        for (const index of clip ? framesNeeded(layer.shown) : []) {
          const name = nameOf(layer, index, widest)
          const known = decoded.get(name) ?? held.get(name)
          if (known) decoded.set(name, known)
          else if (clip) {
            const answer = await media.frameAt(clip, index, widest, signal)
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
    paint(canvas.value, now.painting, (layer, index) => decoded.get(names.get(layer)?.(index) ?? ''))
    painted.value = reason === null ? now.key : null
  }
  // One after the other: what is held belongs to one at a time.
  let line = Promise.resolve()
  const next = () => {
    wanted.abort()
    line = line.then(follow)
  }
  watch([wish, canvas], next, { immediate: true, flush: 'post' })
  onBeforeUnmount(() => {
    wanted.abort()
    void line.then(() => held.forEach((picture) => picture.close()))
  })
  return { trouble, painted }
}
