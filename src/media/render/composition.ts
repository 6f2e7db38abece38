import type { Composed } from '../../core/compose/compose'
import type { Ground } from '../../core/compose/layer-raster'
import type { FigureKind } from '../../core/figure/figure'
import type { WantedFile } from '../frames'

/** Frames of a source by their index: where each lies in the files of a clip, or what it is composed of itself. */
export type Source =
  | {
      readonly kind: 'file'
      readonly frames: ReadonlyMap<number, { readonly file: WantedFile; readonly within: number }>
      /** Why the file is not at hand; null where it is. */
      readonly trouble: string | null
    }
  | { readonly kind: 'figure'; readonly figure: FigureKind }
  | { readonly kind: 'composition'; readonly frames: ReadonlyMap<number, Composition> }

/** A layer with where its frames come from. */
export interface SourcedLayer extends Omit<Composed, 'frameOf'> {
  readonly source: Source
}

/** A frame of a timeline, as a worker composes it. */
export interface Composition {
  readonly ground: Ground
  readonly width: number
  readonly height: number
  readonly layers: readonly SourcedLayer[]
}
