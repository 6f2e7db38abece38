import type { MediaLocator } from '../source'
import { openInBrowser } from './browser-clip'
import type { ClipKind, OpenClip } from './engine'
import { openStill } from './still'
import { toolkitClip } from './toolkit-clip'

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
  const engine =
    clip.kind === 'still'
      ? ((await openStill(locator, clip)) ?? toolkitClip(locator, clip))
      : ((await openInBrowser(locator, clip)) ?? toolkitClip(locator, clip))
  return {
    ...engine,
    async luma(index, wish) {
      const frame = await engine.sample(index, wish)
      try {
        return await frame.luma()
      } finally {
        frame.close()
      }
    },
  }
}
