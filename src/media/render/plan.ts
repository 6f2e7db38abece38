import type { Deliverable } from '../../core/model/deliverable'
import type { Doc } from '../../core/model/project'
import type { mixer } from '../sound/mixing'
import type { MediaLocator } from '../source'
import type { composer } from './composer'
import type { PlannedSound } from './planned-sound'

/** What goes out, with all that a worker needs to make its frames and its sound. */
export interface RenderPlan {
  /** With the timelines that are made for it. */
  readonly doc: Doc
  readonly timelineId: string
  /** Said in full. */
  readonly deliverable: Deliverable
  readonly range: { readonly from: number; readonly to: number }
  readonly timecode: string
  /** Where the bytes of files are, by what they hold. */
  readonly locators: Readonly<Record<string, MediaLocator>>
  readonly sound: PlannedSound | null
}

/** What is rendered, and the file that it goes into. */
export interface RenderOrder extends RenderPlan {
  readonly file: FileSystemFileHandle
}

export interface RenderProgress {
  readonly frames: number
  readonly total: number
  readonly framesPerSecond: number
}

/** What has the frames and the sound made. */
export interface Makers {
  readonly planes: ReturnType<typeof composer>['planes']
  readonly mix: ReturnType<typeof mixer>['mix']
  /** Resolves at once, or once it goes on. */
  readonly goesOn: () => Promise<void>
}
