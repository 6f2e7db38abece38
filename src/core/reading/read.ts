import { reasonOf } from '../words/reason'
import { present } from '../assert'
import { type ByteSource, FileWindow } from './bytes/source'
import { type Fault, ReadingFault } from './fault'
import type { WrapperReading } from './assemble'
import type { FrameTimes } from './frame-times'
import { closedRaw } from './closed-raw'
import { plausible } from './plausible'
import type { Origins, Reading } from './reading'
import { wrappers } from './wrappers'

/** What came of reading one file. With a fault, the facts that could still be read may be there. */
export type ReadResult =
  | {
      readonly ok: true
      readonly reading: Reading
      readonly origins: Origins
      /** Of a variable clip whose wrapper lists its frames in one place. */
      readonly frameTimes?: FrameTimes
    }
  | { readonly ok: false; readonly error: Fault; readonly reading?: Reading; readonly origins?: Origins }

/** How the message of a fault begins that no reader foresaw; tests see to it that there is none. */
export const unforeseen = 'The file breaks a rule in a way that its reader did not foresee'

/** The bytes by which a wrapper is known: enough for five packets of a transport stream. */
const headLength = 1100

/**
 * Reads what a file says of itself, by ranges: never the whole file, whatever its size.
 * Everything that can be wrong with a file comes back as a fault with its place and what to do; only an abort throws.
 * @param place folder and name, where they are known: makers' closed raw is told by its name alone
 */
export async function read(source: ByteSource, signal?: AbortSignal, place = ''): Promise<ReadResult> {
  try {
    const raw = closedRaw(place)
    if (raw) return { ok: false, error: raw }
    if (source.size === 0) return failed('empty', 'The file is empty: 0 bytes. Copy it again.', 0)
    const file = new FileWindow(source, signal)
    const head = await file.some(0, headLength)
    const wrapper = wrappers.find((w) => w.begins(head))
    if (!wrapper) return failed('not-media', 'This is no picture or sound file that is known here.', 0)
    return settled(await wrapper.read(file))
  } catch (error) {
    if (error instanceof ReadingFault) return { ok: false, error: error.fault }
    signal?.throwIfAborted()
    // A rule that a reader of ours did not foresee; one file never ends the reading of others.
    if (error instanceof RangeError || error instanceof TypeError)
      return failed('damaged', `${unforeseen}: ${error.message}. Copy the file again.`)
    return failed('unreadable', `The file could not be opened: ${reasonOf(error)}`)
  }
}

/** What leaves the reader: nothing absurd, and no picture or sound without one that can be believed. */
function settled({ reading: claimed, origins, fault, frameTimes }: WrapperReading): ReadResult {
  if (!claimed) return { ok: false, error: present(fault, 'what has no reading has a fault') }
  const reading = plausible(claimed)
  const error =
    fault ??
    (claimed.video && !reading.video
      ? {
          code: 'damaged' as const,
          message: `The picture claims to be ${claimed.video.width}×${claimed.video.height}. Copy the file again.`,
        }
      : null)
  if (error) return { ok: false, error, reading, origins }
  return frameTimes ? { ok: true, reading, origins, frameTimes } : { ok: true, reading, origins }
}

const failed = (code: Fault['code'], message: string, offset?: number): ReadResult => ({
  ok: false,
  error: offset === undefined ? { code, message } : { code, message, offset },
})
