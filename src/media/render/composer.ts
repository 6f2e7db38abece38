import { LRUCache } from 'lru-cache'
import { type Result, failure } from '../../core/result'
import { present } from '../../core/assert'
import { type ComposeKernels, compose } from '../../core/compose/compose'
import type { Area } from '../../core/compose/layer-raster'
import { framesNeeded } from '../../core/compose/field-arrangement'
import type { StoredPicture } from '../../core/compose/stored'
import { simdFields } from '../../core/fields/simd'
import { type FigureKind, figureMeaning, figureOf } from '../../core/figure/figure'
import type { Planes } from '../../core/planes/planes'
import { toScreen } from '../../core/planes/screen'
import { chromaSiting } from '../../core/resample/picture'
import { simdResample } from '../../core/resample/simd'
import type { ClipKind } from '../decode/engine'
import type { WantedFile } from '../frames'
import { type DecodedPicture, keeper } from './kept-pictures'
import type { Composition, Source, SourcedLayer } from './composition'

/** A frame of a file, or why there is none. */
type FrameOfFile = (
  file: WantedFile,
  index: number,
  signal: AbortSignal,
) => Promise<Result<{ picture: DecodedPicture }>>

/** Decoded frames are kept for the next wish up to so many bytes: another treatment is tried on the same ones. */
const usuallyKept = 256 * 2 ** 20

/** How the layout of a codec's chroma is called where it is not the common one. */
const sitingName = ({ codec, height }: ClipKind): string =>
  codec === 'Motion JPEG' || codec === 'JPEG' || codec === 'MPEG-1'
    ? '420jpeg'
    : codec === 'DV' && height === 576
      ? '420paldv'
      : ''

/** Composes frames of timelines out of decoded planes. @param mostKept bytes of them that wait for the next wish */
export function composer(frameOfFile: FrameOfFile, mostKept = usuallyKept) {
  const kernels: ComposeKernels = { resample: simdResample(), fields: simdFields() }
  const decoded = keeper(mostKept)
  const figures = new LRUCache<string, (index: number) => Planes>({ max: 4 })

  /** A figure's ground is drawn once. */
  function figure(kind: FigureKind): (index: number) => Planes {
    const key = JSON.stringify(kind)
    const known = figures.get(key) ?? figureOf(kind)
    figures.set(key, known)
    return known
  }

  async function ofFile(
    file: WantedFile,
    within: number,
    signal: AbortSignal,
  ): Promise<Result<{ picture: StoredPicture }>> {
    const key = `${file.key} ${within}`
    const known = decoded.get(key)
    const result = known ? { ok: true as const, picture: known } : await frameOfFile(file, within, signal)
    if (!result.ok) return result
    const { picture } = result
    if (!known) decoded.put(key, picture)
    return { ok: true, picture: { ...picture, siting: chromaSiting(picture.planes, sitingName(file.kind)) } }
  }

  /** The frames of a source that a layer needs, or why one of them cannot be had. */
  async function framesOf(
    layer: SourcedLayer,
    signal: AbortSignal,
  ): Promise<Result<{ frames: ReadonlyMap<number, StoredPicture> }>> {
    const { needed, helpful } = framesNeeded(layer)
    const frames = new Map<number, StoredPicture>()
    for (const index of [...needed, ...helpful].sort((a, b) => a - b)) {
      const isNeeded = needed.includes(index)
      const result = await frameOf(layer.source, index, signal)
      signal.throwIfAborted()
      if (result.ok) frames.set(index, result.picture)
      else if (isNeeded) return result
    }
    return { ok: true, frames }
  }

  async function frameOf(
    source: Source,
    index: number,
    signal: AbortSignal,
  ): Promise<Result<{ picture: StoredPicture }>> {
    const none = failure(`Frame ${index} is not there.`)
    switch (source.kind) {
      case 'file': {
        if (source.trouble !== null) return failure(source.trouble)
        const lies = source.frames.get(index)
        return lies ? ofFile(lies.file, lies.within, signal) : none
      }
      case 'figure': {
        const planes = figure(source.figure)(index)
        return { ok: true, picture: { planes, meaning: figureMeaning, siting: chromaSiting(planes, '') } }
      }
      case 'composition': {
        const inner = source.frames.get(index)
        if (!inner) return none
        const { width, height } = inner
        const { planes } = await planesFor(inner, { x: 0, y: 0, width, height }, signal)
        const { meaning } = inner.ground
        return { ok: true, picture: { planes, meaning, siting: chromaSiting(planes, '') } }
      }
    }
  }

  /** An area of a composition; a layer that cannot be had leaves what is under it, and is told. */
  async function planesFor({ ground, layers }: Composition, area: Area, signal: AbortSignal) {
    let trouble: string | null = null
    const ready = []
    for (const { source, ...layer } of layers) {
      const result = await framesOf({ source, ...layer }, signal)
      if (!result.ok) trouble = result.error
      else ready.push({ ...layer, frameOf: (index: number) => result.frames.get(index) ?? null })
    }
    return { planes: compose(ready, ground, area, kernels), trouble }
  }

  /** An area drawn for the screen. */
  async function drawn(composition: Composition, area: Area, signal: AbortSignal) {
    const { planes, trouble } = await planesFor(composition, area, signal)
    const { width, height, data } = toScreen(planes, composition.ground.meaning)
    const canvas = new OffscreenCanvas(width, height)
    const context = present(canvas.getContext('2d'), 'a canvas of a worker is drawn on')
    context.putImageData(new ImageData(data, width, height), 0, 0)
    return { picture: canvas.transferToImageBitmap(), trouble }
  }
  return { planes: planesFor, drawn }
}
