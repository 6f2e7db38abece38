import type { WrapperReading } from './assemble'
import { byteAt } from './bytes/byte-at'
import { Cursor, latin } from './bytes/cursor'
import type { FileWindow } from './bytes/source'
import { packetGrid } from './mpeg/packet-grid'
import { elementaryCodec } from './stream/elementary-codec'

/** A wrapper that can be read: how its files begin, and its reader. To add one, add a line to `wrappers`; what reads it is loaded with the first such file. */
export interface Wrapper {
  /** Whether the first bytes are of this wrapper. */
  readonly begins: (head: Uint8Array) => boolean
  readonly read: (file: FileWindow) => Promise<WrapperReading>
}

type Read = Wrapper['read']
/** Loaded once: to ask for a module that is there already still takes a turn of its own for each file. */
function lazily(load: () => Promise<Read>): Read {
  let loaded: Promise<Read> | null = null
  const again = (error: unknown) => {
    // What could not be fetched is asked for anew with the next file.
    loaded = null
    throw error
  }
  return async (file) => (await (loaded ??= load().catch(again)))(file)
}

/** Brands of pictures (ISO/IEC 23008-12, AV1 Image File Format); what holds a sequence says it by its index. */
const brands = new Set([
  'mif1',
  'mif2',
  'heic',
  'heix',
  'heim',
  'heis',
  'avif',
  'avio',
  'msf1',
  'hevc',
  'hevx',
  'avis',
  'miaf',
  'MiHB',
  'MiHE',
  'MiPr',
  'jpeg',
  'jpgs',
  'j2ki',
  'j2is',
])
const beginsAsHeif = (head: Uint8Array): boolean => {
  const cursor = new Cursor(head)
  return head.length >= 12 && cursor.skip(4).code() === 'ftyp' && brands.has(cursor.code())
}

/** Whether bytes begin as a DIF stream: the header block of its first sequence. */
const beginsAsDv = (head: Uint8Array): boolean =>
  head[0] === 0x1f && head[1] === 0x07 && head[2] === 0 && (byteAt(head, 3) & 0x7f) === 0x3f

/** The name of its header object. */
const beginsAsAsf = (head: Uint8Array): boolean =>
  [0x30, 0x26, 0xb2, 0x75].every((byte, i) => head[i] === byte)

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

export const wrappers: readonly Wrapper[] = [
  { begins: beginsAsHeif, read: lazily(async () => (await import('./isobmff/heif')).readHeif) },
  {
    begins: (head) => boxTypes.some((type) => starts(type, 4)(head)),
    read: lazily(async () => (await import('./isobmff/isobmff')).readIsobmff),
  },
  { begins: starts('\x89PNG\r\n\x1a\n'), read: lazily(async () => (await import('./still/png')).readPng) },
  { begins: starts('\xff\xd8\xff'), read: lazily(async () => (await import('./still/jpeg')).readJpeg) },
  {
    begins: (head) => ['II*\0', 'MM\0*', 'II+\0', 'MM\0+'].some((mark) => starts(mark)(head)),
    read: lazily(async () => (await import('./still/tiff')).readTiff),
  },
  {
    begins: (head) => starts('GIF87a')(head) || starts('GIF89a')(head),
    read: lazily(async () => (await import('./still/others')).readGif),
  },
  { begins: riff('WEBP'), read: lazily(async () => (await import('./still/others')).readWebp) },
  { begins: riff('WAVE'), read: lazily(async () => (await import('./wave/wave')).readWave) },
  { begins: riff('AVI '), read: lazily(async () => (await import('./avi/avi')).readAvi) },
  {
    begins: (head) => latin(head).includes('\x06\x0e\x2b\x34\x02\x05\x01\x01\x0d\x01\x02'),
    read: lazily(async () => (await import('./mxf/mxf')).readMxf),
  },
  {
    begins: starts('\x1a\x45\xdf\xa3'),
    read: lazily(async () => (await import('./matroska/matroska')).readMatroska),
  },
  {
    begins: (head) => starts('\0\0\x01\xba')(head),
    read: lazily(async () => (await import('./mpeg/program')).readProgram),
  },
  { begins: starts('fLaC'), read: lazily(async () => (await import('./audio/streams')).readFlac) },
  {
    begins: (head) => starts('FORM')(head) && /^AIF[FC]$/.test(latin(head.subarray(8, 12))),
    read: lazily(async () => (await import('./audio/aiff')).readAiff),
  },
  { begins: starts('caff'), read: lazily(async () => (await import('./audio/caf')).readCaf) },
  {
    begins: starts('riff\x2e\x91\xcf\x11'),
    read: lazily(async () => (await import('./wave/wave64')).readWave64),
  },
  {
    begins: (head) => starts('SDPX')(head) || starts('XPDS')(head),
    read: lazily(async () => (await import('./still/dpx')).readDpx),
  },
  { begins: starts('\x76\x2f\x31\x01'), read: lazily(async () => (await import('./still/exr')).readExr) },
  {
    begins: (head) => starts('\0\0\0\x0cjP  \r\n\x87\n')(head) || starts('\xff\x4f\xff\x51')(head),
    read: lazily(async () => (await import('./still/jpeg2000')).readJpeg2000),
  },
  {
    begins: (head) => starts('BM')(head) && starts('\0\0\0\0', 6)(head) && head[17] === 0,
    read: lazily(async () => (await import('./still/bmp')).readBmp),
  },
  { begins: starts('YUV4MPEG2 '), read: lazily(async () => (await import('./stream/y4m')).readY4m) },
  { begins: starts('DKIF'), read: lazily(async () => (await import('./stream/elementary')).readIvf) },
  { begins: starts('FLV\x01'), read: lazily(async () => (await import('./flv/flv')).readFlv) },
  { begins: beginsAsAsf, read: lazily(async () => (await import('./asf/asf')).readAsf) },
  { begins: beginsAsDv, read: lazily(async () => (await import('./stream/dv')).readDv) },
  { begins: starts('OggS'), read: lazily(async () => (await import('./ogg/ogg')).readOgg) },
  { begins: sync(0xf6, 0xf0), read: lazily(async () => (await import('./audio/streams')).readAdts) },
  {
    begins: (head) => id3(head) || sync(0xe6, 0xe2)(head),
    read: lazily(async () => (await import('./audio/streams')).readMp3),
  },
  {
    begins: (head) => packetGrid(head) !== null,
    read: lazily(async () => (await import('./mpeg/transport')).readTransport),
  },
  {
    begins: (head) => elementaryCodec(head) !== null,
    read: lazily(async () => (await import('./stream/elementary')).readElementary),
  },
]
