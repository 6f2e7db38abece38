import { once } from 'node:events'
import type { Planes } from '../src/core/planes/planes'
import { type Y4mHead, bytesOfPlanes, frameMark, writeY4mHead } from '../src/core/planes/y4m'
import { reasonOf } from '../src/core/words/reason'
import { WrongUse, tell } from './command'
import { StreamFault, openY4m } from './y4m'

/** Writes with the patience of whoever reads. */
async function write(bytes: Uint8Array | string): Promise<void> {
  if (!process.stdout.write(bytes)) await once(process.stdout, 'drain')
}

/** What is made of a stream: its head, and of each frame, with those around it, the frames that take its place. */
export interface FrameProcess {
  readonly head: Omit<Y4mHead, 'headBytes' | 'frameBytes'>
  frames(around: {
    readonly before: Planes | null
    readonly current: Planes
    readonly after: Planes | null
  }): readonly Planes[]
}

/**
 * Makes one YUV4MPEG2 stream into another, on standard output. What was made before a fault stands.
 * @param begin looks at the head of what comes; it may refuse it by `WrongUse`
 * @returns the exit status
 */
export async function remade(path: string, begin: (head: Y4mHead) => FrameProcess): Promise<number> {
  try {
    const stream = await openY4m(path)
    try {
      const { head, frames } = begin(stream.head)
      await write(writeY4mHead(head))
      const remake = async (before: Planes | null, nowPlanes: Planes | null, after: Planes | null) => {
        for (const planes of nowPlanes ? frames({ before, current: nowPlanes, after }) : []) {
          await write(`${frameMark}\n`)
          for (const part of bytesOfPlanes(planes)) await write(part)
        }
      }
      let [before, nowPlanes]: (Planes | null)[] = [null, null]
      try {
        for await (const { planes } of stream.frames(() => true)) {
          await remake(before ?? null, nowPlanes ?? null, planes)
          ;[before, nowPlanes] = [nowPlanes, planes]
        }
      } finally {
        await remake(before ?? null, nowPlanes ?? null, null)
      }
      return 0
    } finally {
      await stream.close()
    }
  } catch (error) {
    if (error instanceof WrongUse) throw error
    const message = error instanceof StreamFault ? error.message : `It could not be read: ${reasonOf(error)}.`
    tell(`${path}: ${message}`)
    return 1
  }
}
