import { type Rational, multiply, rational } from '../../rational/rational'
import type { PictureClaim, ClaimedFacts } from '../claims'
import type { AudioFacts } from '../reading'
import { type LocalSet, batchOf, i64Of, labelOf, ratioOf, u32Of, u8Of } from './klv'

/** What the descriptor of the picture says (SMPTE ST 377-1 Annex F, F.4). */
export interface PictureDescriptor {
  readonly codec: string
  readonly profile: string | null
  readonly claims: PictureClaim[]
  readonly rate: Rational | null
  /** Frames in the container; null where open. */
  readonly duration: number | null
}

/** Descriptors of pictures, by the kind of their set: generic, CDCI, RGBA, MPEG-2 video. */
const pictureKinds = new Set([0x27, 0x28, 0x29, 0x51])
/** Of sound: generic, AES3, wave. */
const soundKinds = new Set([0x42, 0x47, 0x48])

export function pictureDescriptor(sets: readonly LocalSet[]): PictureDescriptor | null {
  const set = sets.find((s) => pictureKinds.has(s.kind) && u32Of(s.items.get(0x3203)))
  if (!set) return null
  const item = (tag: number) => set.items.get(tag)
  const coding = labelOf(item(0x3201)) ?? ''
  const container = labelOf(item(0x3004)) ?? ''
  const ratio = ratioOf(item(0x3001))
  const duration = i64Of(item(0x3002))
  const { codec, profile } = codecOf(coding, container)
  return {
    codec,
    profile,
    claims: [{ layer: 'wrapper', origin: 'picture descriptor', facts: factsOf(set) }],
    rate: ratio ? rational(ratio.num, ratio.den) : null,
    duration: duration !== undefined && duration > 0 ? duration : null,
  }
}

function factsOf(set: LocalSet): ClaimedFacts {
  const item = (tag: number) => set.items.get(tag)
  const layout = u8Of(item(0x320c))
  // Fields kept apart, or one field alone, state the lines of a field.
  const perFrame = layout === 1 || layout === 2 ? 2 : 1
  const width = u32Of(item(0x3209)) ?? u32Of(item(0x3205)) ?? u32Of(item(0x3203)) ?? 0
  const height = (u32Of(item(0x3208)) ?? u32Of(item(0x3204)) ?? u32Of(item(0x3202)) ?? 0) * perFrame
  const facts: ClaimedFacts = {}
  if (width > 0 && height > 0 && width < 65536 && height < 65536) {
    Object.assign(facts, { width, height })
    const shape = ratioOf(item(0x320e))
    if (shape && shape.num < 100000 && shape.den < 100000)
      facts.pixelAspect = multiply(rational(shape.num, shape.den), rational(height, width))
  }
  if (layout === 0 || layout === 4) facts.scan = 'progressive'
  if (layout === 1 || layout === 2 || layout === 3)
    Object.assign(facts, { scan: 'interlaced', fieldOrder: fieldOrderOf(set) })
  const depth = u32Of(item(0x3301))
  if (depth && depth <= 32) facts.bitDepth = depth
  const [across, down] = [u32Of(item(0x3302)), u32Of(item(0x3308))]
  if (set.kind === 0x29) facts.chroma = '4:4:4'
  else if (across === 1) facts.chroma = '4:4:4'
  else if (across === 2) facts.chroma = down === 2 ? '4:2:0' : '4:2:2'
  else if (across === 4) facts.chroma = '4:1:1'
  const [transfer, primaries, matrix] = [labelOf(item(0x3210)), labelOf(item(0x3219)), labelOf(item(0x321a))]
  facts.transfer = byEnd(transfers, transfer)
  facts.primaries = byEnd(primariesByLabel, primaries)
  facts.matrix = byEnd(matrices, matrix)
  const [black, white] = [u32Of(item(0x3304)), u32Of(item(0x3305))]
  if (black !== undefined && white !== undefined && depth) facts.range = black === 0 ? 'full' : 'limited'
  return facts
}

/** The parity of the first lines of both fields tells which is coded first; dominance tells which is shown first. */
function fieldOrderOf(set: LocalSet): ClaimedFacts['fieldOrder'] {
  const lines = batchOf(set.items.get(0x320d), 4).map((line) => line.i32())
  const [top = 0, bottom = 0] = lines
  if (top <= 0 || bottom <= 0) return 'unknown'
  const codedTopFirst = (top + bottom) % 2 !== 0
  const secondShownFirst = u8Of(set.items.get(0x3212)) === 2
  return codedTopFirst !== secondShownFirst ? 'top-first' : 'bottom-first'
}

const byEnd = (table: Record<string, string>, label: string | undefined): string | null =>
  label?.startsWith('060e2b34040101') ? (table[label.slice(16, 32)] ?? null) : null

/** SMPTE ST 2067-21 and RP 224 labels, from the ninth byte on. */
const transfers: Record<string, string> = {
  '0401010101010000': 'bt601',
  '0401010101020000': 'bt709',
  '0401010101030000': 'smpte240m',
  '0401010101060000': 'linear',
  '0401010101080000': 'xvycc',
  '0401010101090000': 'bt2020-10',
  '04010101010a0000': 'pq',
  '04010101010b0000': 'hlg',
}
const primariesByLabel: Record<string, string> = {
  '0401010103010000': 'bt601-525',
  '0401010103020000': 'bt601-625',
  '0401010103030000': 'bt709',
  '0401010103040000': 'bt2020',
  '0401010103060000': 'display-p3',
}
const matrices: Record<string, string> = {
  '0401010102010000': 'bt601-625',
  '0401010102020000': 'bt709',
  '0401010102030000': 'smpte240m',
  '0401010102060000': 'bt2020',
}

/** The codec behind the labels of picture coding and essence container (RP 224 registers). */
function codecOf(coding: string, container: string): { codec: string; profile: string | null } {
  const group = coding.slice(16)
  const known = (codec: string, profile: string | null = null) => ({ codec, profile })
  if (group.startsWith('040102020120')) return known('MPEG-4 Visual')
  if (/^04010202013[0-9a-f]/.test(group)) return known('H.264')
  if (/^04010202014[0-9a-f]/.test(group)) return known('HEVC')
  if (group.startsWith('0401020201')) return known('MPEG-2')
  if (group.startsWith('0401020202')) return known('DV')
  if (group.startsWith('040102020306')) return known('ProRes', proResProfiles[group.slice(12, 14)] ?? null)
  if (group.startsWith('0401020203')) return known('JPEG 2000')
  if (group.startsWith('0401020271')) return known('DNxHD')
  if (group.startsWith('04010201')) return known('uncompressed')
  const kind = /^060e2b34040101..0d010301(?:02)(..)/.exec(container)?.[1] ?? ''
  const byContainer: Record<string, string> = {
    '01': 'MPEG-2',
    '02': 'DV',
    '04': 'MPEG-2',
    '05': 'uncompressed',
    '0c': 'JPEG 2000',
    '0f': 'H.264',
    '10': 'H.264',
    '11': 'DNxHD',
    '1c': 'ProRes',
  }
  return known(byContainer[kind] ?? `unknown (${coding || container || 'no label'})`)
}

const proResProfiles: Record<string, string> = {
  '01': '422 Proxy',
  '02': '422 LT',
  '03': '422',
  '04': '422 HQ',
  '05': '4444',
  '06': '4444 XQ',
}

export function soundDescriptors(sets: readonly LocalSet[]): AudioFacts[] {
  return sets
    .filter((set) => soundKinds.has(set.kind))
    .map(({ items }) => {
      const rate = ratioOf(items.get(0x3d03))
      return {
        codec: 'PCM',
        channels: u32Of(items.get(0x3d07)) ?? null,
        sampleRate: rate ? rate.num / rate.den : null,
        bitDepth: u32Of(items.get(0x3d01)) ?? null,
      }
    })
}
