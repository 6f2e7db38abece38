import type { MediaLocator } from '../source'
import { openInBrowser } from './browser-clip'
import { straightened } from '../../core/planes/straight'
import type { ClipKind, DecodedFrame, Engine, OpenClip } from './engine'
import { planesFrame } from './planes-frame'
import { openStill } from './still'
import { toolkitClip } from './toolkit-clip'

/** An engine whose pictures are premultiplied, as one whose are straight. */
function straightEngine(engine: Engine): Engine {
  async function straight(frame: DecodedFrame): Promise<DecodedFrame> {
    const planes = straightened(await frame.planes(), frame.meaning)
    frame.close()
    return planesFrame(frame.index, planes, frame.meaning)
  }
  return {
    ...engine,
    sample: async (index, signal) => straight(await engine.sample(index, signal)),
    near: async (index, signal) => straight(await engine.near(index, signal)),
    async *samples(from, signal) {
      for await (const frame of engine.samples(from, signal)) yield straight(frame)
    },
  }
}

/** A clip by what the browser decodes, and by what is no more than unpacked; null where it is left to the toolkit. */
export async function openHere(locator: MediaLocator, clip: ClipKind): Promise<Engine | null> {
  if (clip.container === 'DPX') return (await import('./dpx')).openDpx(locator, clip)
  // Light of a scene becomes a signal in the toolkit.
  if (clip.meaning.transfer === 'linear') return null
  return clip.kind === 'still' ? openStill(locator, clip) : openInBrowser(locator, clip)
}

/**
 * Opens a clip by the browser's own decoder where it has one; else by the toolkit that ships, which is slower and knows nearly all.
 * @throws NoPicture
 */
export async function openClip(
  locator: MediaLocator,
  clip: ClipKind,
  signal: AbortSignal,
): Promise<OpenClip> {
  signal.throwIfAborted()
  const engine = (await openHere(locator, clip)) ?? toolkitClip(locator, clip)
  const straight = clip.alpha && clip.premultiplied && clip.meaning.transfer !== 'linear'
  const opened = straight ? straightEngine(engine) : engine
  return {
    ...opened,
    async luma(index, wish) {
      const frame = await opened.sample(index, wish)
      try {
        return await frame.luma()
      } finally {
        frame.close()
      }
    },
  }
}
