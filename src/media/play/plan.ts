import type { Layer } from '../../core/plan/layers'
import type { FigureKind } from '../../core/figure/figure'
import type { Rotation } from '../../core/picture/turn'
import type { DecodableFile } from '../measure'
import type { Region } from './paint'

/** Where the frames of a layer come from while it is played. */
export type PlayedSource =
  | { readonly kind: 'files'; readonly files: readonly DecodableFile[]; readonly rotation: Rotation }
  | { readonly kind: 'figure'; readonly figure: FigureKind }

/** A layer whose frames are counted as its files store them, with the key of its source. */
export interface PlayedLayer {
  readonly layer: Layer
  readonly sourceKey: string
}

/** One way of the timeline that is watched, and where it is drawn. */
export interface PlayedView {
  readonly canvas: OffscreenCanvas
  readonly width: number
  readonly height: number
  readonly region: Region
  readonly background: string
}

/** What is played. */
export interface PlayOrder {
  /** Frames a second that fall due: the timeline's rate, times the speed at which it is watched. */
  readonly perSecond: number
  readonly from: number
  /** The frame after the last. */
  readonly to: number
  /** Where it begins within the stretch. */
  readonly start: number
  readonly loops: boolean
  readonly sources: ReadonlyMap<string, PlayedSource>
}

/** The layers of frames that follow each other, for each of the views. */
export type Feed = (from: number, count: number) => Promise<readonly (readonly (readonly PlayedLayer[])[])[]>

/** What was achieved so far, counted from the frames themselves. */
export interface Achieved {
  /** The frame that is on. */
  readonly frame: number
  /** Frames that fell due, and those of them that were shown while they were. */
  readonly due: number
  readonly shown: number
  /** Shown frames a second, over all of it. */
  readonly perSecond: number
  /** Why something is not seen; null where all is. */
  readonly trouble: string | null
}
