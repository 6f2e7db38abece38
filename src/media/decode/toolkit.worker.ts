import type { Core } from '@ffmpeg/core'
import { expose } from 'comlink'
import { reasonOf } from '../../core/words/reason'
import type { MediaLocator } from '../source'
import type { ReplacedBytes } from '../../core/reading/still/exr-window'
import { mountable, patched } from './mount'
import { newCore } from './toolkit-core'
import { type Ring, ringWriter } from './ring'
import { type TimedStream, timedFrames, timedSound } from './timed-stream'

/** What the toolkit is to do with a clip. What it writes to `out` comes through the ring. */
export interface ToolkitJob {
  readonly locator: MediaLocator
  /** Bytes of the clip that the toolkit is given instead of its own. */
  readonly patches?: readonly ReplacedBytes[]
  /** What comes, and so how its times go with it. */
  readonly timed: 'frames' | 'sound'
  /** Words before the clip, which is `-i` by itself, and words after it. */
  readonly before: readonly string[]
  readonly after: readonly string[]
  readonly ring: Ring
}

/** How a job ended. */
export interface ToolkitEnd {
  readonly code: number
  /** The last lines that it said. */
  readonly said: readonly string[]
}

const out = '/out/stream'
const most = 60
/** What a write answers where nobody reads any more: EPIPE, as WASI counts. */
const brokenPipe = 64

/** Gives what the toolkit writes to `out` to a stream, as it writes it. */
function intoStream({ FS }: Core, stream: TimedStream): void {
  const device = FS.makedev(70, 0)
  FS.registerDevice(device, {
    open: () => undefined,
    close: () => undefined,
    write(_stream, heap, offset, length) {
      // Whoever takes no more ends the job.
      if (!stream.write(heap.subarray(offset, offset + length) as Uint8Array))
        throw new FS.ErrnoError(brokenPipe)
      return length
    },
  })
  FS.mkdir('/out')
  FS.mkdev(out, device)
}

const service = {
  /** Does one job from beginning to end; the worker hears nothing else meanwhile. */
  async run({ locator, patches = [], timed, before, after, ring }: ToolkitJob): Promise<ToolkitEnd> {
    const writer = ringWriter(ring)
    const stream = (timed === 'frames' ? timedFrames : timedSound)((bytes) => writer.write(bytes))
    const said: string[] = []
    try {
      const core = await newCore()
      core.setLogger(({ message }) => {
        stream.heard(message)
        said.push(message)
        if (said.length > most) said.shift()
      })
      intoStream(core, stream)
      const { FS } = core
      FS.mkdir('/in')
      FS.mount(FS.filesystems.WORKERFS, { files: [patched(mountable(locator, 'clip'), patches)] }, '/in')
      const code = core.exec('-nostdin', '-nostats', ...before, '-i', '/in/clip', ...after, '-y', out)
      return { code, said }
    } catch (error) {
      return { code: 1, said: [...said, reasonOf(error)] }
    } finally {
      writer.end()
    }
  },
}

export type ToolkitService = typeof service
expose(service)
