/** What a codec's identifier alone tells. */
export interface CodecName {
  readonly codec: string
  readonly profile?: string
  readonly bitDepth?: number
  readonly chroma?: string
  readonly alpha?: boolean
}

const proRes = (profile: string, chroma = '4:2:2', bitDepth = 10): CodecName => ({
  codec: 'ProRes',
  profile,
  chroma,
  bitDepth,
})
const dv = (profile: string, chroma: string): CodecName => ({ codec: 'DV', profile, chroma, bitDepth: 8 })
const raw = (bitDepth: number, chroma: string, alpha = false): CodecName => ({
  codec: 'uncompressed',
  bitDepth,
  chroma,
  alpha,
})

/** Video codecs by four-character code, as QuickTime, ISO files and AVI use them (AVI's in upper case too). */
const videoCodes: Record<string, CodecName> = {
  avc1: { codec: 'H.264' },
  avc2: { codec: 'H.264' },
  avc3: { codec: 'H.264' },
  h264: { codec: 'H.264' },
  x264: { codec: 'H.264' },
  hvc1: { codec: 'HEVC' },
  hev1: { codec: 'HEVC' },
  hevc: { codec: 'HEVC' },
  dvh1: { codec: 'HEVC' },
  apco: proRes('422 Proxy'),
  apcs: proRes('422 LT'),
  apcn: proRes('422'),
  apch: proRes('422 HQ'),
  ap4h: proRes('4444', '4:4:4', 12),
  ap4x: proRes('4444 XQ', '4:4:4', 12),
  AVdn: { codec: 'DNxHD' },
  AVdh: { codec: 'DNxHR' },
  mp4v: { codec: 'MPEG-4 Visual' },
  xvid: { codec: 'MPEG-4 Visual' },
  divx: { codec: 'MPEG-4 Visual' },
  dx50: { codec: 'MPEG-4 Visual' },
  fmp4: { codec: 'MPEG-4 Visual' },
  m2v1: { codec: 'MPEG-2' },
  mp2v: { codec: 'MPEG-2' },
  mpg2: { codec: 'MPEG-2' },
  mpeg: { codec: 'MPEG-1' },
  dvc: dv('DV25', '4:1:1'),
  'dvc ': dv('DV25', '4:1:1'),
  dvcp: dv('DV25', '4:2:0'),
  dvsd: dv('DV25', '4:2:0'),
  dvpp: dv('DV25, 4:1:1 in 625', '4:1:1'),
  dv5n: dv('DV50', '4:2:2'),
  dv5p: dv('DV50', '4:2:2'),
  dvh2: dv('DV100', '4:2:2'),
  dvh3: dv('DV100', '4:2:2'),
  dvh5: dv('DV100', '4:2:2'),
  dvh6: dv('DV100', '4:2:2'),
  dvhp: dv('DV100', '4:2:2'),
  dvhq: dv('DV100', '4:2:2'),
  vp08: { codec: 'VP8', bitDepth: 8, chroma: '4:2:0' },
  vp80: { codec: 'VP8', bitDepth: 8, chroma: '4:2:0' },
  vp09: { codec: 'VP9' },
  vp90: { codec: 'VP9' },
  av01: { codec: 'AV1' },
  jpeg: { codec: 'Motion JPEG', bitDepth: 8 },
  mjpg: { codec: 'Motion JPEG', bitDepth: 8 },
  mjpa: { codec: 'Motion JPEG', profile: 'A', bitDepth: 8 },
  mjpb: { codec: 'Motion JPEG', profile: 'B', bitDepth: 8 },
  ffv1: { codec: 'FFV1' },
  cfhd: { codec: 'Cineform' },
  mjp2: { codec: 'JPEG 2000' },
  mj2c: { codec: 'JPEG 2000' },
  '2vuy': raw(8, '4:2:2'),
  uyvy: raw(8, '4:2:2'),
  yuv2: raw(8, '4:2:2'),
  yuy2: raw(8, '4:2:2'),
  v210: raw(10, '4:2:2'),
  v410: raw(10, '4:4:4'),
  v408: raw(8, '4:4:4', true),
  'raw ': raw(8, '4:4:4'),
  i420: raw(8, '4:2:0'),
  png: { codec: 'PNG', chroma: '4:4:4' },
  'png ': { codec: 'PNG', chroma: '4:4:4' },
  rle: { codec: 'run-length', chroma: '4:4:4' },
  'rle ': { codec: 'run-length', chroma: '4:4:4' },
}

/** MPEG-2 in QuickTime goes by a family of codes that state rate and raster; the stream states them again. */
const mpeg2Family = /^(hdv[1-9a-f]|xd(v[1-9a-f]|5[1-9a-f]|h[d2])|xd5.|mx[35][np])$/

/** The codec behind a video four-character code, or null where it is not known. */
export const videoCodec = (code: string): CodecName | null =>
  videoCodes[code] ??
  videoCodes[code.toLowerCase()] ??
  (mpeg2Family.test(code.toLowerCase()) ? { codec: 'MPEG-2' } : null)

/** Sound codecs by four-character code; PCM with its depth where the code states it. */
const audioCodes: Record<string, { codec: string; bitDepth?: number }> = {
  mp4a: { codec: 'AAC' },
  'ac-3': { codec: 'AC-3' },
  'ec-3': { codec: 'E-AC-3' },
  alac: { codec: 'ALAC' },
  Opus: { codec: 'Opus' },
  fLaC: { codec: 'FLAC' },
  '.mp3': { codec: 'MP3', bitDepth: undefined },
  'mp3 ': { codec: 'MP3' },
  sowt: { codec: 'PCM', bitDepth: 16 },
  twos: { codec: 'PCM', bitDepth: 16 },
  in24: { codec: 'PCM', bitDepth: 24 },
  in32: { codec: 'PCM', bitDepth: 32 },
  fl32: { codec: 'PCM float', bitDepth: 32 },
  fl64: { codec: 'PCM float', bitDepth: 64 },
  lpcm: { codec: 'PCM' },
  ipcm: { codec: 'PCM' },
  fpcm: { codec: 'PCM float' },
  'raw ': { codec: 'PCM', bitDepth: 8 },
  NONE: { codec: 'PCM' },
  ulaw: { codec: 'µ-law' },
  alaw: { codec: 'A-law' },
}

export const audioCodec = (code: string): { codec: string; bitDepth?: number } | null =>
  audioCodes[code] ?? null

/** The codec behind an MPEG-4 object type indication (ISO/IEC 14496-1, registered values). */
export function codecOfObjectType(type: number): string | null {
  if (type === 0x20) return 'MPEG-4 Visual'
  if (type === 0x21) return 'H.264'
  if (type === 0x23) return 'HEVC'
  if (type === 0x40 || (type >= 0x66 && type <= 0x68)) return 'AAC'
  if (type >= 0x60 && type <= 0x65) return 'MPEG-2'
  if (type === 0x69 || type === 0x6b) return 'MP3'
  if (type === 0x6a) return 'MPEG-1'
  if (type === 0x6c) return 'Motion JPEG'
  if (type === 0xa5) return 'AC-3'
  if (type === 0xa6) return 'E-AC-3'
  if (type === 0xad) return 'Opus'
  return null
}
