/** What wrappers can hold and codecs can be: the rules of the standards that name them, and what can be made here. */

export const deliveryWrappers = ['MP4', 'QuickTime', 'MXF', 'Matroska', 'WebM'] as const
export type DeliveryWrapper = (typeof deliveryWrappers)[number]

/** The ending of a file's name, by its wrapper. */
export const endingOf: Readonly<Record<DeliveryWrapper, string>> = {
  MP4: 'mp4',
  QuickTime: 'mov',
  MXF: 'mxf',
  Matroska: 'mkv',
  WebM: 'webm',
}

export const chromas = ['4:2:0', '4:2:2', '4:4:4'] as const
export type Chroma = (typeof chromas)[number]
/** Samples of luma for one of chroma, across and down. */
export const perChroma: Readonly<Record<Chroma, readonly [across: number, down: number]>> = {
  '4:2:0': [2, 2],
  '4:2:2': [2, 1],
  '4:4:4': [1, 1],
}

/** What a profile of a codec holds in each sample. */
export interface Profile {
  readonly name: string
  readonly chroma: Chroma
  readonly bitDepth: number
}

export interface VideoCodec {
  readonly name: string
  readonly wrappers: readonly DeliveryWrapper[]
  /** The first is the usual one. */
  readonly profiles: readonly Profile[]
  /** Whether it can hold the fields of an interlaced picture. */
  readonly interlaced: boolean
  /** Whether it can be made in two passes: the first measures, the second spreads the bits. */
  readonly twoPasses: boolean
  /** How its amount of data is set: as a bit rate, by the profile alone, or by nothing, since nothing is lost. */
  readonly amount: 'bit-rate' | 'profile' | 'lossless'
  /** Bits for each pixel of each frame between which a picture is neither starved nor padded; of a profile, what it has. */
  readonly bitsPerPixel: (profile: string) => readonly [least: number, most: number]
}

const profile = (name: string, chroma: Chroma, bitDepth: number): Profile => ({ name, chroma, bitDepth })
const between =
  (least: number, most: number): VideoCodec['bitsPerPixel'] =>
  () => [least, most]
/** By profile, the bits of one pixel at its target rate. */
const each =
  (bits: Readonly<Record<string, number>>): VideoCodec['bitsPerPixel'] =>
  (name) => [bits[name] ?? 0, bits[name] ?? 0]

export const videoCodecs: readonly VideoCodec[] = [
  {
    name: 'H.264',
    wrappers: ['MP4', 'QuickTime', 'Matroska'],
    profiles: [profile('High', '4:2:0', 8), profile('Main', '4:2:0', 8), profile('High 4:2:2', '4:2:2', 10)],
    interlaced: true,
    twoPasses: true,
    amount: 'bit-rate',
    bitsPerPixel: between(0.08, 0.28),
  },
  {
    name: 'MPEG-2',
    wrappers: ['MXF', 'QuickTime', 'Matroska'],
    profiles: [profile('4:2:2', '4:2:2', 8), profile('Main', '4:2:0', 8)],
    interlaced: true,
    twoPasses: true,
    amount: 'bit-rate',
    bitsPerPixel: between(0.35, 1),
  },
  {
    name: 'ProRes',
    wrappers: ['QuickTime', 'Matroska'],
    profiles: [
      profile('422 HQ', '4:2:2', 10),
      profile('422', '4:2:2', 10),
      profile('422 LT', '4:2:2', 10),
      profile('422 Proxy', '4:2:2', 10),
      profile('4444', '4:4:4', 10),
    ],
    interlaced: true,
    twoPasses: false,
    amount: 'profile',
    bitsPerPixel: each({ '422 Proxy': 0.73, '422 LT': 1.64, '422': 2.36, '422 HQ': 3.54, '4444': 5.3 }),
  },
  {
    name: 'DNxHR',
    wrappers: ['MXF', 'QuickTime'],
    profiles: [profile('HQ', '4:2:2', 8), profile('SQ', '4:2:2', 8), profile('LB', '4:2:2', 8)],
    interlaced: false,
    twoPasses: false,
    amount: 'profile',
    bitsPerPixel: each({ LB: 0.7, SQ: 2.31, HQ: 3.5 }),
  },
  {
    name: 'FFV1',
    wrappers: ['Matroska'],
    profiles: [
      profile('4:2:0', '4:2:0', 8),
      profile('4:2:2, 10 bit', '4:2:2', 10),
      profile('4:4:4', '4:4:4', 8),
    ],
    interlaced: true,
    twoPasses: false,
    amount: 'lossless',
    bitsPerPixel: between(2, 12),
  },
  {
    name: 'VP9',
    wrappers: ['WebM', 'Matroska', 'MP4'],
    profiles: [profile('0', '4:2:0', 8)],
    interlaced: false,
    twoPasses: true,
    amount: 'bit-rate',
    bitsPerPixel: between(0.05, 0.2),
  },
  {
    name: 'AV1',
    wrappers: ['WebM', 'MP4', 'Matroska'],
    profiles: [profile('Main', '4:2:0', 8)],
    interlaced: false,
    twoPasses: false,
    amount: 'bit-rate',
    bitsPerPixel: between(0.04, 0.16),
  },
]

export interface SoundCodec {
  readonly name: string
  readonly wrappers: readonly DeliveryWrapper[]
  readonly sampleRates: readonly number[]
  /** How much data there is: bits a second for each channel, or bits for each sample. */
  readonly amount: { readonly bitsPerChannel: number } | { readonly bitsPerSample: number }
}

const studioRates = [48_000, 96_000] as const
export const soundCodecs: readonly SoundCodec[] = [
  {
    name: 'AAC',
    wrappers: ['MP4', 'QuickTime', 'Matroska'],
    sampleRates: [48_000, 44_100, 96_000],
    amount: { bitsPerChannel: 96_000 },
  },
  {
    name: 'PCM 24 bit',
    wrappers: ['MXF', 'QuickTime', 'Matroska'],
    sampleRates: studioRates,
    amount: { bitsPerSample: 24 },
  },
  {
    name: 'PCM 16 bit',
    wrappers: ['MXF', 'QuickTime', 'Matroska'],
    sampleRates: studioRates,
    amount: { bitsPerSample: 16 },
  },
  {
    name: 'Opus',
    wrappers: ['WebM', 'Matroska', 'MP4'],
    sampleRates: [48_000],
    amount: { bitsPerChannel: 96_000 },
  },
  {
    name: 'FLAC',
    wrappers: ['Matroska'],
    sampleRates: [48_000, 44_100, 96_000],
    amount: { bitsPerSample: 14 },
  },
]

/** Wrappers that hold a start timecode: as a track, in their own metadata, or as a tag (Matroska). */
export const holdsTimecode: ReadonlySet<DeliveryWrapper> = new Set(['MP4', 'QuickTime', 'MXF', 'Matroska'])

export const wrapperNamed = (name: string | null): DeliveryWrapper | undefined =>
  deliveryWrappers.find((wrapper) => wrapper === name)
export const videoCodecNamed = (name: string | null | undefined): VideoCodec | undefined =>
  videoCodecs.find((videoCodec) => videoCodec.name === name)
export const soundCodecNamed = (name: string | null | undefined): SoundCodec | undefined =>
  soundCodecs.find((soundCodec) => soundCodec.name === name)
export const profileNamed = (codec: VideoCodec, name: string | null): Profile | undefined =>
  codec.profiles.find((profile) => profile.name === name)

/** The codec and the profile of what is set; null where one of them is none of these. */
export function codecOf(
  video: { readonly codec: string; readonly profile: string | null } | null,
): { readonly codec: VideoCodec; readonly profile: Profile } | null {
  const codec = videoCodecNamed(video?.codec)
  const profile = codec && profileNamed(codec, video?.profile ?? null)
  return codec && profile ? { codec, profile } : null
}

/** A level of H.264 by what it allows (ITU-T H.264, table A-1). */
interface Level {
  readonly name: string
  /** Macroblocks a second, and in one frame. */
  readonly perSecond: number
  readonly perFrame: number
  /** Bits a second of the Main profile. */
  readonly bitsPerSecond: number
}
const level = (name: string, perSecond: number, perFrame: number, kilobits: number): Level => ({
  name,
  perSecond,
  perFrame,
  bitsPerSecond: kilobits * 1000,
})
const levels: readonly Level[] = [
  level('3', 40_500, 1620, 10_000),
  level('3.1', 108_000, 3600, 14_000),
  level('3.2', 216_000, 5120, 20_000),
  level('4', 245_760, 8192, 20_000),
  level('4.1', 245_760, 8192, 50_000),
  level('4.2', 522_240, 8704, 50_000),
  level('5', 589_824, 22_080, 135_000),
  level('5.1', 983_040, 36_864, 240_000),
  level('5.2', 2_073_600, 36_864, 240_000),
  level('6', 4_177_920, 139_264, 240_000),
  level('6.1', 8_355_840, 139_264, 480_000),
  level('6.2', 16_711_680, 139_264, 800_000),
]

/** How many times the bits of Main a profile may have at a level (ITU-T H.264, table A-2). */
const bitsOfProfile: Readonly<Record<string, number>> = { Main: 1, High: 1.25, 'High 10': 3, 'High 4:2:2': 4 }

/** The lowest level of H.264 that holds a picture of a size, a rate and so many bits a second; null where none does. */
export function levelFor(
  { width, height }: { readonly width: number; readonly height: number },
  framesPerSecond: number,
  bitsPerSecond: number,
  profile: string | null,
): string | null {
  const blocks = Math.ceil(width / 16) * Math.ceil(height / 16)
  const found = levels.find(
    (level) =>
      blocks <= level.perFrame &&
      blocks * framesPerSecond <= level.perSecond &&
      bitsPerSecond <= level.bitsPerSecond * (bitsOfProfile[profile ?? ''] ?? 1.25) &&
      // A side may be no longer than eight times the square root of the frame.
      Math.max(width, height) / 16 <= Math.sqrt(level.perFrame * 8),
  )
  return found?.name ?? null
}
