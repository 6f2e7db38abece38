import { expose, transfer } from 'comlink'
import { type ClipKind, type FrameAccess, NoPicture, openFrames } from '../media/frames'
import type { MediaLocator } from '../media/source'

export type FrameAnswer =
  { readonly ok: true; readonly picture: ImageBitmap } | { readonly ok: false; readonly error: string }

/** Decoders are dear: this many clips stay open, the least used one is closed. */
const mostOpen = 6
const open = new Map<string, Promise<FrameAccess>>()

const service = {
  /** The picture of a clip at a time in seconds, upright, at most `maxWidth` pixels wide. */
  async frameAt(
    key: string,
    locator: MediaLocator,
    clip: ClipKind,
    seconds: number,
    maxWidth: number,
  ): Promise<FrameAnswer> {
    try {
      const access = await accessTo(key, locator, clip)
      const picture = await access.frameAt(seconds, maxWidth)
      return transfer({ ok: true, picture }, [picture])
    } catch (error) {
      open.delete(key)
      if (error instanceof NoPicture) return { ok: false, error: error.message }
      return {
        ok: false,
        error: `The frame could not be decoded: ${error instanceof Error ? error.message : error}`,
      }
    }
  },
}

function accessTo(key: string, locator: MediaLocator, clip: ClipKind): Promise<FrameAccess> {
  const access = open.get(key) ?? openFrames(locator, clip)
  open.delete(key)
  open.set(key, access)
  if (open.size > mostOpen) {
    const [oldest, unused] = open.entries().next().value!
    open.delete(oldest)
    unused.then((a) => a.close()).catch(() => {})
  }
  return access
}

export type FrameService = typeof service
expose(service)
