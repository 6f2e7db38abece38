import { byteAt } from '../bytes/byte-at'
import type { Rotation } from '../../picture/turn'
import { type Rational, nearestRational, rational, toNumber } from '../../rational/rational'
import { Cursor, latin } from '../bytes/cursor'
import type { PictureClaim } from '../claims'
import { videoCodec } from '../codecs'
import { colourFromCodes } from '../colour'
import { type VisualDescription, readVisual } from '../isobmff/description'
import type { AudioFacts } from '../reading'
import { elementsIn, float, mapOf, text, unsigned } from './ebml'

/** One entry of the tracks (RFC 9559 §5.1.4). */
export interface MatroskaTrack {
  readonly number: number
  readonly uid: number
  readonly kind: 'video' | 'audio' | 'other'
  readonly codec: string
  readonly profile: string | null
  /** Nanoseconds a frame, where stated. */
  readonly defaultDuration: number | null
  readonly claims: PictureClaim[]
  readonly rotation: Rotation
  readonly sound: AudioFacts | null
  readonly setup: Uint8Array
  /** Whether frames have their headers stripped (content compression), and which bytes stood there. */
  readonly strippedHeader: Uint8Array
}

const videoCodecs: readonly (readonly [RegExp, string])[] = [
  [/^V_MPEG4\/ISO\/AVC/, 'H.264'],
  [/^V_MPEGH\/ISO\/HEVC/, 'HEVC'],
  [/^V_MPEG4\/ISO/, 'MPEG-4 Visual'],
  [/^V_MPEG2/, 'MPEG-2'],
  [/^V_MPEG1/, 'MPEG-1'],
  [/^V_PRORES/, 'ProRes'],
  [/^V_VP8/, 'VP8'],
  [/^V_VP9/, 'VP9'],
  [/^V_AV1/, 'AV1'],
  [/^V_MJPEG/, 'Motion JPEG'],
  [/^V_FFV1/, 'FFV1'],
  [/^V_UNCOMPRESSED/, 'uncompressed'],
]
const soundCodecs: readonly (readonly [RegExp, string])[] = [
  [/^A_AAC/, 'AAC'],
  [/^A_AC3/, 'AC-3'],
  [/^A_EAC3/, 'E-AC-3'],
  [/^A_MPEG\/L3/, 'MP3'],
  [/^A_MPEG\/L2/, 'MP2'],
  [/^A_OPUS/, 'Opus'],
  [/^A_VORBIS/, 'Vorbis'],
  [/^A_FLAC/, 'FLAC'],
  [/^A_ALAC/, 'ALAC'],
  [/^A_PCM\/INT/, 'PCM'],
  [/^A_PCM\/FLOAT/, 'PCM float'],
  [/^A_DTS/, 'DTS'],
]
const nameIn = (table: readonly (readonly [RegExp, string])[], id: string) =>
  table.find(([pattern]) => pattern.test(id))?.[1]

export function readTracks(body: Cursor): MatroskaTrack[] {
  const tracks: MatroskaTrack[] = []
  for (const element of elementsIn(body)) if (element.id === 0xae) tracks.push(readTrack(element.body))
  return tracks
}

function readTrack(body: Cursor): MatroskaTrack {
  const entry = mapOf(body)
  const codecId = text(entry.get(0x86)) ?? ''
  const setup = entry.get(0x63a2)?.bytes ?? new Uint8Array(0)
  const kind = ({ 1: 'video', 2: 'audio' } as const)[unsigned(entry.get(0x83)) ?? 0] ?? 'other'
  // Codecs of the old video interface stand behind a bitmap header, which names them.
  const bitmapCode =
    codecId.startsWith('V_MS/VFW') && setup.length >= 20
      ? String.fromCharCode(...setup.subarray(16, 20))
      : null
  const quickTime = codecId.startsWith('V_QUICKTIME') ? quickTimeEntry(setup) : null
  const code = bitmapCode ?? quickTime?.code ?? (/^V_PRORES/.test(codecId) ? fourLetters(setup, 0) : null)
  const known = code === null ? null : videoCodec(code)
  const codec =
    known?.codec ??
    nameIn(kind === 'audio' ? soundCodecs : videoCodecs, codecId) ??
    `unknown (${code?.trim() ?? codecId})`
  const settings = entry.get(0xe0)
  const video = settings && mapOf(settings)
  const { codec: _, profile = null, ...ofCode } = known ?? { codec, profile: null }
  return {
    number: unsigned(entry.get(0xd7)) ?? 0,
    uid: unsigned(entry.get(0x73c5)) ?? 0,
    kind,
    codec,
    profile: profile ?? null,
    defaultDuration: unsigned(entry.get(0x23e383)) ?? null,
    claims: video
      ? [
          ...videoClaims(video),
          { layer: 'wrapper', origin: 'codec id', facts: ofCode },
          ...(quickTime?.claims ?? []),
        ]
      : [],
    rotation: video ? rotationOf(video) : 0,
    sound: kind === 'audio' ? readSound(entry.get(0xe1), codec, codecId, setup) : null,
    setup: bitmapCode
      ? setup.subarray(40)
      : quickTime
        ? (quickTime.configuration?.bytes ?? new Uint8Array(0))
        : setup,
    strippedHeader: strippedHeader(entry.get(0x6d80)),
  }
}

const fourLetters = (bytes: Uint8Array, at: number): string | null =>
  bytes.length >= at + 4 ? latin(bytes.subarray(at, at + 4)) : null

/** Codecs of QuickTime keep their sample entry beside the track, or their four letters alone. */
function quickTimeEntry(
  setup: Uint8Array,
): VisualDescription | { code: string; claims: []; configuration: null } | null {
  const entryLength = 86
  const code = fourLetters(setup, setup.length >= entryLength ? 4 : 0)
  if (code === null) return null
  return setup.length < entryLength
    ? { code, claims: [], configuration: null }
    : readVisual(code, new Cursor(setup.subarray(8)))
}

/** The turn by the projection's roll (RFC 9559 §5.1.4.1.28.46): degrees counter-clockwise. */
function rotationOf(video: ReadonlyMap<number, Cursor>): Rotation {
  const projection = video.get(0x7670)
  const roll = projection ? (float(mapOf(projection).get(0x7675)) ?? 0) : 0
  const turn = (((Math.round(-roll / 90) * 90) % 360) + 360) % 360
  return turn === 90 || turn === 180 || turn === 270 ? turn : 0
}

/** Shapes of pixels of tape and of H.264's table E-1. */
const standardShapes = [
  ...[rational(1), rational(12, 11), rational(10, 11), rational(16, 11), rational(40, 33), rational(16, 15)],
  ...[
    rational(64, 45),
    rational(8, 9),
    rational(32, 27),
    rational(4, 3),
    rational(59, 54),
    rational(118, 81),
  ],
  ...[rational(3, 2), rational(2)],
]
function shapeWithin(shape: number, tolerance: number) {
  const apart = (standard: Rational) => Math.abs(toNumber(standard) - shape)
  const [nearest] = standardShapes
    .filter((standard) => apart(standard) <= tolerance)
    .sort((a, b) => apart(a) - apart(b))
  return nearest ?? nearestRational(shape, tolerance)
}

function videoClaims(video: ReadonlyMap<number, Cursor>): PictureClaim[] {
  const width = unsigned(video.get(0xb0)) ?? 0
  const height = unsigned(video.get(0xba)) ?? 0
  const [displayWidth, displayHeight, unit] = [
    unsigned(video.get(0x54b0)),
    unsigned(video.get(0x54ba)),
    unsigned(video.get(0x54b2)) ?? 0,
  ]
  const facts: PictureClaim['facts'] = {}
  if (width > 0 && height > 0 && width < 65536 && height < 65536) Object.assign(facts, { width, height })
  if (
    displayWidth &&
    displayHeight &&
    unit <= 3 &&
    facts.width &&
    displayWidth < 1e6 &&
    displayHeight < 1e6
  ) {
    // Sizes of display are whole pixels: a standard shape that comes to them is meant, else the simplest. A ratio is meant as it stands.
    const shape = rational(displayWidth * height, displayHeight * width)
    const isPixels = unit === 0
    facts.pixelAspect = isPixels
      ? shapeWithin(toNumber(shape), (0.5 * height) / (displayHeight * width))
      : shape
  }
  const interlaced = unsigned(video.get(0x9a))
  if (interlaced === 1) facts.scan = 'interlaced'
  if (interlaced === 2) facts.scan = 'progressive'
  const order = unsigned(video.get(0x9d))
  // Orders 9 and 14 tell stored from shown; what is shown first decides.
  if (facts.scan === 'interlaced')
    facts.fieldOrder =
      order === 1 || order === 9 ? 'top-first' : order === 6 || order === 14 ? 'bottom-first' : 'unknown'
  if (unsigned(video.get(0x53c0)) === 1) facts.alpha = true
  const colour = video.get(0x55b0)
  if (colour) {
    const c = mapOf(colour)
    const range = unsigned(c.get(0x55b9))
    const code = (id: number) => unsigned(c.get(id)) ?? 2
    Object.assign(
      facts,
      colourFromCodes(
        code(0x55bb),
        code(0x55ba),
        code(0x55b1),
        range === 1 || range === 2 ? range === 2 : undefined,
      ),
    )
    const depth = unsigned(c.get(0x55b2))
    if (depth) facts.bitDepth = depth
    const [across, down] = [unsigned(c.get(0x55b3)), unsigned(c.get(0x55b4))]
    if (across === 1) facts.chroma = down === 1 ? '4:2:0' : '4:2:2'
    if (across === 0 && down === 0) facts.chroma = '4:4:4'
  }
  return [{ layer: 'wrapper', origin: 'track entry', facts }]
}

function readSound(body: Cursor | undefined, codec: string, codecId: string, setup: Uint8Array): AudioFacts {
  const sound = body ? mapOf(body) : new Map<number, Cursor>()
  const depth = unsigned(sound.get(0x6264)) ?? null
  const acm = codecId === 'A_MS/ACM' && setup.length >= 16
  return {
    codec: acm ? 'PCM' : codec,
    channels: unsigned(sound.get(0x9f)) ?? 1,
    sampleRate: float(sound.get(0xb5)) ?? 8000,
    bitDepth: acm ? byteAt(setup, 14) : /^(PCM|FLAC|ALAC)/.test(codec) ? depth : null,
  }
}

/** Header stripping, §5.1.4.1.31: bytes that stand before each frame but are kept only once. */
function strippedHeader(encodings: Cursor | undefined): Uint8Array {
  const none = new Uint8Array(0)
  const encoding = encodings && mapOf(encodings).get(0x6240)
  const compression = encoding && mapOf(encoding).get(0x5034)
  if (!compression) return none
  const parts = mapOf(compression)
  return unsigned(parts.get(0x4254)) === 3 ? (parts.get(0x4255)?.bytes ?? none) : none
}
