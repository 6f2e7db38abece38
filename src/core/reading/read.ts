import { reasonOf } from '../words/reason'
import { byteAt } from './bytes/byte-at'
import { present } from '../assert'
import { type ByteSource, FileWindow } from './bytes/source'
import { latin } from './bytes/cursor'
import { type Fault, ReadingFault } from './fault'
import type { WrapperReading } from './assemble'
import type { FrameTimes } from './frame-times'
import { readAdts, readFlac, readMp3 } from './audio/read'
import { readAvi } from './avi/read'
import { readAiff } from './audio/aiff'
import { readCaf } from './audio/caf'
import { beginsAsAsf, readAsf } from './asf/read'
import { closedRaw } from './closed-raw'
import { readFlv } from './flv/read'
import { beginsAsHeif, readHeif } from './isobmff/heif'
import { readBmp } from './still/bmp'
import { readDpx } from './still/dpx'
import { readExr } from './still/exr'
import { readJpeg2000 } from './still/jpeg2000'
import { beginsAsDv, readDv } from './stream/dv'
import { elementaryCodec, readElementary, readIvf } from './stream/elementary'
import { readY4m } from './stream/y4m'
import { readWave64 } from './wave/wave64'
import { readMxf } from './mxf/read'
import { readMatroska } from './matroska/read'
import { readIsobmff } from './isobmff/read'
import { packetGrid, readTransport } from './mpeg/transport'
import { readProgram } from './mpeg/program'
import { readOgg } from './ogg/read'
import { readJpeg } from './still/jpeg'
import { readGif, readTiff, readWebp } from './still/others'
import { readPng } from './still/png'
import { readWave } from './wave/read'
import { plausible } from './plausible'
import type { Origins, Reading } from './reading'

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

/** A wrapper that can be read: how its files begin, and its reader. To add one, add a line to `wrappers`. */
interface Wrapper {
  /** Whether the first bytes are of this wrapper. */
  readonly begins: (head: Uint8Array) => boolean
  readonly read: (file: FileWindow) => Promise<WrapperReading>
}

const starts =
  (text: string, at = 0) =>
  (head: Uint8Array) =>
    latin(head.subarray(at, at + text.length)) === text
const riff = (form: string) => (head: Uint8Array) =>
  (starts('RIFF')(head) || starts('RF64')(head)) && starts(form, 8)(head)

const boxTypes = ['ftyp', 'moov', 'mdat', 'wide', 'free', 'skip', 'pnot', 'styp', 'moof']
const id3 = starts('ID3')
const sync = (mask: number, value: number) => (head: Uint8Array) =>
  head[0] === 0xff && (byteAt(head, 1) & mask) === value

const wrappers: readonly Wrapper[] = [
  { begins: beginsAsHeif, read: readHeif },
  { begins: (head) => boxTypes.some((type) => starts(type, 4)(head)), read: readIsobmff },
  { begins: starts('\x89PNG\r\n\x1a\n'), read: readPng },
  { begins: starts('\xff\xd8\xff'), read: readJpeg },
  { begins: (head) => starts('II*\0')(head) || starts('MM\0*')(head), read: readTiff },
  { begins: (head) => starts('GIF87a')(head) || starts('GIF89a')(head), read: readGif },
  { begins: riff('WEBP'), read: readWebp },
  { begins: riff('WAVE'), read: readWave },
  { begins: riff('AVI '), read: readAvi },
  { begins: (head) => latin(head).includes('\x06\x0e\x2b\x34\x02\x05\x01\x01\x0d\x01\x02'), read: readMxf },
  { begins: starts('\x1a\x45\xdf\xa3'), read: readMatroska },
  { begins: (head) => starts('\0\0\x01\xba')(head), read: readProgram },
  { begins: starts('fLaC'), read: readFlac },
  { begins: (head) => starts('FORM')(head) && /^AIF[FC]$/.test(latin(head.subarray(8, 12))), read: readAiff },
  { begins: starts('caff'), read: readCaf },
  { begins: starts('riff\x2e\x91\xcf\x11'), read: readWave64 },
  { begins: (head) => starts('SDPX')(head) || starts('XPDS')(head), read: readDpx },
  { begins: starts('\x76\x2f\x31\x01'), read: readExr },
  {
    begins: (head) => starts('\0\0\0\x0cjP  \r\n\x87\n')(head) || starts('\xff\x4f\xff\x51')(head),
    read: readJpeg2000,
  },
  { begins: (head) => starts('BM')(head) && starts('\0\0\0\0', 6)(head) && head[17] === 0, read: readBmp },
  { begins: starts('YUV4MPEG2 '), read: readY4m },
  { begins: starts('DKIF'), read: readIvf },
  { begins: starts('FLV\x01'), read: readFlv },
  { begins: beginsAsAsf, read: readAsf },
  { begins: beginsAsDv, read: readDv },
  { begins: starts('OggS'), read: readOgg },
  { begins: sync(0xf6, 0xf0), read: readAdts },
  { begins: (head) => id3(head) || sync(0xe6, 0xe2)(head), read: readMp3 },
  { begins: (head) => packetGrid(head) !== null, read: readTransport },
  { begins: (head) => elementaryCodec(head) !== null, read: readElementary },
]

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
