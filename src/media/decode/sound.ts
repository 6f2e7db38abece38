import type { MediaLocator } from '../source'
import { soundInBrowser } from './browser-sound'
import type { OpenSound, SoundKind } from './sound-engine'
import { soundByToolkit } from './toolkit-sound'

/** Opens a stream of sound by the browser where it decodes it, else by the toolkit that ships. @throws NoSound */
export async function openSound(
  locator: MediaLocator,
  kind: SoundKind,
  signal: AbortSignal,
): Promise<OpenSound> {
  signal.throwIfAborted()
  return (await soundInBrowser(locator, kind)) ?? (await soundByToolkit(locator, kind, signal))
}
