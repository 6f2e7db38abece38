import type { Rotation } from '../../core/picture/turn'
import type { Planes } from '../../core/planes/planes'
import type { Luma } from '../../core/planes/luma'
import type { Meaning } from '../../core/planes/screen'
import type { Steps } from '../../core/motion/timing'
import type { ExrWindow } from '../../core/reading/still/exr-window'
import { reasonOf } from '../../core/words/reason'

/** What a decoder has to know of a clip. */
export interface ClipKind {
  readonly kind: 'video' | 'still'
  readonly container: string
  readonly codec: string
  readonly width: number
  readonly height: number
  readonly bitDepth: number
  readonly alpha: boolean
  /** The colours are multiplied by what is seen through, and have to be divided by it. */
  readonly premultiplied: boolean
  /** What of the file is decoded, from the corner of what it shows; null for just that. */
  readonly window: ExrWindow | null
  /** The clockwise turn that decoders of its wrapper make by themselves: it is taken back, since turns are made in one place. */
  readonly turnedBy: Rotation
  /** What its samples mean; the matrix that its size means where none is stated. */
  readonly meaning: Meaning
  /** When its stored frames are on. */
  readonly steps: Steps
}

/** A frame as it was decoded, not turned, its pixels as stored. Whoever has it closes it. */
export interface DecodedFrame {
  readonly index: number
  readonly width: number
  readonly height: number
  /** What its samples mean as they come. */
  readonly meaning: Meaning
  planes(): Promise<Planes>
  /** Lends its planes for as long as some work lasts: nothing is kept of them. */
  lend<T>(work: (planes: Planes) => T): Promise<T>
  /** @param into where it may be put, of as many bytes as it has samples; a new place otherwise */
  luma(into?: Uint8Array): Promise<Luma>
  /** Draws it for the screen into a rectangle at the origin; for pixels beyond it, it may be drawn more coarsely. */
  draw(context: OffscreenCanvasRenderingContext2D, width: number, height: number): Promise<void>
  close(): void
}

/** A clip whose frames can be had by their index on its own timing. */
export interface OpenClip {
  readonly engine: 'browser' | 'toolkit'
  readonly steps: Steps
  /** A frame by its index; where the stream has lost it, the one that stands in its place. @throws NoPicture */
  sample(index: number, signal: AbortSignal): Promise<DecodedFrame>
  /** A frame not far before an index, as fast as one can be had: the key frame. @throws NoPicture */
  near(index: number, signal: AbortSignal): Promise<DecodedFrame>
  /** Frames from an index on, to the end; each is closed before the next is asked for. @throws NoPicture */
  samples(from: number, signal: AbortSignal): AsyncGenerator<DecodedFrame>
  /** The luma of a frame, 8 bits a sample. @throws NoPicture */
  luma(index: number, signal: AbortSignal): Promise<Luma>
  close(): void
}

/** What an engine has to do by itself. */
export type Engine = Omit<OpenClip, 'luma'>

/** Why no picture can be shown, in a sentence for the editor. */
export class NoPicture extends Error {}

/** A failure of a decoder as a sentence. */
export const noPicture = (error: unknown): NoPicture =>
  error instanceof NoPicture ? error : new NoPicture(`This clip cannot be decoded: ${reasonOf(error)}.`)
