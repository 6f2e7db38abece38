import { reasonOf } from '../core/words/reason'
import { expose, transfer } from 'comlink'
import type { FrameTimes } from '../core/reading/frame-times'
import type { Rotation } from '../core/picture/turn'
import { type ClipKind, NoPicture } from '../media/decode/engine'
import { type FrameAccess, openFrames } from '../media/frames'
import { openAccesses } from '../media/open'
import type { MediaLocator } from '../media/source'
import { walkFrameTimes } from '../media/walk'
import { jobs } from './job'

export type FrameAnswer =
  { readonly ok: true; readonly picture: ImageBitmap } | { readonly ok: false; readonly error: string }

/** Decoders are dear: this many clips stay open, the least used one is closed. */
const mostOpen = 6
const open = openAccesses<FrameAccess>(mostOpen)
const running = jobs()

const service = {
  /** A frame of a file, upright, at most `maxWidth` pixels wide. */
  frameAt: (
    id: number,
    key: string,
    locator: MediaLocator,
    clip: ClipKind,
    rotation: Rotation,
    index: number,
    maxWidth: number,
  ): Promise<FrameAnswer> =>
    running.run(
      id,
      async (signal): Promise<FrameAnswer> => {
        try {
          const access = await open.get(`${key} ${rotation}`, () =>
            openFrames(locator, clip, rotation, signal),
          )
          const picture = await access.frameAt(index, maxWidth, signal)
          return transfer({ ok: true, picture }, [picture])
        } catch (error) {
          signal.throwIfAborted()
          open.drop(`${key} ${rotation}`)
          if (error instanceof NoPicture) return { ok: false, error: error.message }
          return {
            ok: false,
            error: `The frame could not be decoded: ${reasonOf(error)}`,
          }
        }
      },
      (late) => late.ok && late.picture.close(),
    ),
  /** When each frame of a file is on screen, walked through its headers; null where that cannot be told. */
  walk: (id: number, locator: MediaLocator): Promise<FrameTimes | null> =>
    running.run(id, (signal) => walkFrameTimes(locator, signal)),
  end: running.end,
}

export type FrameService = typeof service
expose(service)
