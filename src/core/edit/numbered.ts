import { type NumberedFacts, type NumberedPicture, numberedFacts } from '../reading/numbered/facts'
import { type NamedFile, type NumberedRun, numberOf, numberedRuns } from '../reading/numbered/names'
import type { ReadResult } from '../reading/read'
import type { Origins } from '../reading/reading'
import type { Rate } from '../rate/rate'
import { equal } from '../rational/rational'
import { type Clip, type ClipFile, claimsOf } from '../model/clip'
import { corrected } from './correction'
import { isSingle, partOf, singlesOf } from './parts'

/** Numbered pictures as one clip: each a frame, the one before for those that are left out. */

/** What is known of a file before it is read. */
export type UnreadFile = Pick<ClipFile, 'id' | 'name' | 'folder' | 'sizeBytes' | 'source'>

/** A numbered file, and what was read of it: null where it was not looked at. */
export interface NumberedFile {
  readonly file: UnreadFile & { readonly hash: string | null; readonly arrivedAt: string }
  readonly number: number
  readonly result: ReadResult | null
}

/** A clip of numbered pictures, what it left aside, and whether its rate is what the headers say. */
export interface NumberedClip {
  readonly clip: Clip
  readonly aside: readonly { readonly file: UnreadFile; readonly why: string }[]
  readonly isRateStated: boolean
}

/** Endings of pictures that are written as frames of a film; others may be photographs. */
const frameEnding = /\.(?:dpx|exr|dng|jp2|j2k|j2c|jpc)$/i
/** So many pictures of other kinds are a clip without being asked. */
const surelyClip = 25

/** Whether a run is a clip by its names alone, and only some of its headers have to be read. */
export const isClipByName = ({ after, pictures }: NumberedRun<UnreadFile>): boolean =>
  frameEnding.test(after) || pictures.length >= surelyClip

export const isNumbered = (clip: Clip): boolean => claimsOf(clip)?.video?.numbered !== undefined

/**
 * One clip out of numbered files.
 * @param rate where their headers state none
 * @param before as the clip was, with fewer of them or others: why it left some out is known from there
 * @returns null where they are not alike, or none can be read
 */
export function numberedClip(
  files: readonly NumberedFile[],
  id: string,
  rate: Rate,
  before: Clip | null = null,
): NumberedClip | null {
  const pictures = files.map(({ file: { name, sizeBytes }, number, result }): NumberedPicture => ({
    number,
    name,
    sizeBytes,
    result,
  }))
  const known = before && claimsOf(before)?.video?.numbered?.leftOut
  const facts = numberedFacts(pictures, rate, known ?? [])
  return facts && joined(files, facts, id)
}

function joined(
  files: readonly NumberedFile[],
  { reading, picture, shown, aside, isRateStated }: NumberedFacts,
  id: string,
): NumberedClip | null {
  const parts = shown.flatMap(({ index, frames }, i): ClipFile[] => {
    const numberedFile = files[index]
    if (!numberedFile) return []
    const { id: fileId, name, folder, sizeBytes, source, hash } = numberedFile.file
    const own = numberedFile.result?.ok ? numberedFile.result : null
    return [
      {
        ...{ id: fileId, name, folder, sizeBytes, source, hash },
        reading: i === 0 ? (own?.reading ?? picture) : null,
        origins: i === 0 ? originsOf(own?.origins ?? {}, isRateStated) : {},
        frameTimes: null,
        ...(frames > 1 ? { frames } : {}),
      },
    ]
  })
  const first = files[shown[0]?.index ?? 0]
  if (!first) return null
  const clip: Clip = {
    id,
    name: runName(parts),
    folder: first.file.folder,
    sizeBytes: reading.sizeBytes,
    hash: null,
    source: first.file.source,
    origins: parts[0]?.origins ?? {},
    frameTimes: null,
    reading,
    corrections: {},
    evidence: null,
    claimed: null,
    fault: null,
    priority: 'normal',
    arrivedAt: first.file.arrivedAt,
    parts,
  }
  return {
    clip,
    isRateStated,
    aside: aside.flatMap(({ index, why }) => {
      const file = files[index]?.file
      return file ? [{ file, why }] : []
    }),
  }
}

/** Where facts are from; a rate that no header states is from nowhere. */
function originsOf({ 'video.rate': rate, ...others }: Origins, isRateStated: boolean): Origins {
  return isRateStated && rate !== undefined ? { ...others, 'video.rate': rate } : others
}

/** `strike.1001–1240.dpx`: the name of numbered pictures as one. */
function runName(parts: readonly ClipFile[]): string {
  const [first, last] = [numberOf(parts[0]?.name ?? ''), numberOf(parts.at(-1)?.name ?? '')]
  if (!first || !last) return parts[0]?.name ?? ''
  return `${first.before}${first.digits}–${last.digits}${first.after}`
}

/** Runs of numbered stills among clips that were read one by one, as files of one clip each. */
export const stillSequences = (clips: readonly Clip[]): Clip[][] =>
  numberedRuns(clips.filter((clip) => isSingle(clip) && clip.reading?.kind === 'still'))
    .map(({ pictures }) => pictures.map(({ file }) => file))
    .filter((run) => numberedFacts(picturesOf(run), { num: 25, den: 1 })?.aside.length === 0)

const picturesOf = (clips: readonly Clip[]): NumberedPicture[] =>
  filesOf(clips).map(({ file, number, result }) => ({ ...file, number, result }))

/** Clips of one file each as numbered files; one that has no number counts on. */
const filesOf = (clips: readonly Clip[]): NumberedFile[] =>
  clips.map((clip, i) => ({
    file: { ...partOf(clip), arrivedAt: clip.arrivedAt },
    number: Number(numberOf(clip.name)?.digits ?? i),
    result: resultOf(clip),
  }))

const resultOf = ({ reading, fault, origins }: Clip): ReadResult | null =>
  fault ? { ok: false, error: fault } : reading ? { ok: true, reading, origins } : null

/** A clip out of numbered stills, one a frame. @param rate where their headers state none */
export const joinStills = (stills: readonly Clip[], id: string, rate: Rate): Clip | null =>
  numberedClip(filesOf(stills), id, rate)?.clip ?? null

/** The files of a clip of numbered pictures, as far as they are known: those that are as the first were not all looked at. */
function filesOfClip(clip: Clip, fresh?: ReadonlyMap<string, Clip>): NumberedFile[] {
  const singles = singlesOf(clip)
  return clip.parts.flatMap((part, i) => {
    const single = singles[i]
    if (!single) return []
    const anew = fresh?.get(part.id)
    const file = { ...partOf(anew ?? single), id: part.id, arrivedAt: clip.arrivedAt }
    const number = Number(numberOf(part.name)?.digits ?? i)
    return [{ file, number, result: anew ? resultOf(anew) : part.reading && resultOf(single) }]
  })
}

/** A clip of numbered pictures, some of which were read again. Null where they are none any more. */
export function numberedAnew(clip: Clip, fresh: ReadonlyMap<string, Clip>): Clip | null {
  const rate = claimsOf(clip)?.video?.rate
  return rate ? (numberedClip(filesOfClip(clip, fresh), clip.id, rate, clip)?.clip ?? null) : null
}

/** Pictures that go on where a clip of numbered ones ends, or fill what is left out in it. */
export interface Continuing<File extends NamedFile> {
  readonly clip: Clip
  readonly pictures: readonly { readonly file: File; readonly number: number }[]
}

/** Which of the files go on with, or fill, clips of numbered pictures. */
export function continuing<File extends NamedFile>(
  clips: readonly Clip[],
  files: readonly File[],
): Continuing<File>[] {
  const keyOf = (folder: string, { before, digits, after }: NonNullable<ReturnType<typeof numberOf>>) =>
    [folder, before, after, digits.startsWith('0') ? digits.length : ''].join('\0')
  const keysOf = (folder: string, name: NonNullable<ReturnType<typeof numberOf>>) => [
    keyOf(folder, name),
    // 1000 follows on 0999.
    [folder, name.before, name.after, name.digits.length].join('\0'),
  ]
  const open = new Map<string, { clip: Clip; pictures: { file: File; number: number }[] }>()
  for (const clip of clips) {
    const [first] = clip.parts
    const name = isNumbered(clip) && first ? numberOf(first.name) : null
    if (first && name) open.set(keyOf(first.folder, name), { clip, pictures: [] })
  }
  if (open.size === 0) return []
  for (const file of files) {
    const name = numberOf(file.name)
    const found =
      name &&
      keysOf(file.folder, name)
        .map((key) => open.get(key))
        .find(Boolean)
    const numbered = found && claimsOf(found.clip)?.video?.numbered
    if (!name || !found || !numbered) continue
    const number = Number(name.digits)
    const fills = numbered.leftOut.some(({ from, to }) => from <= number && number <= to)
    if (number > numbered.last || fills) found.pictures.push({ file, number })
  }
  return [...open.values()].filter(({ pictures }) => pictures.length > 0)
}

/** Files on their way in, by what becomes of them. */
export interface SortedOut<File extends UnreadFile> {
  /** Pictures of clips that are there already. */
  readonly known: readonly { readonly file: File; readonly part: ClipFile; readonly clip: Clip }[]
  readonly more: readonly Continuing<File>[]
  /** Runs that are a clip by their names; of each some headers are read. */
  readonly runs: readonly (readonly { readonly file: File; readonly number: number }[])[]
  readonly lone: readonly File[]
}

/** Sorts files on their way in: numbered pictures that are a clip, or belong to one, and all others. */
export function sortedOut<File extends UnreadFile>(
  clips: readonly Clip[],
  files: readonly File[],
): SortedOut<File> {
  const placeOf = ({ folder, name, sizeBytes }: UnreadFile) => `${folder}/${name} ${sizeBytes}`
  const parts = new Map(
    clips.filter(isNumbered).flatMap((clip) => clip.parts.map((part) => [placeOf(part), { part, clip }])),
  )
  const known = files.flatMap((file) => {
    const found = file.source.kind === 'file' ? parts.get(placeOf(file)) : undefined
    return found ? [{ file, ...found }] : []
  })
  const taken = new Set<File>(known.map(({ file }) => file))
  const left = () => files.filter((file) => !taken.has(file))
  const more = continuing(clips, left())
  for (const { pictures } of more) for (const { file } of pictures) taken.add(file)
  const runs = numberedRuns(left())
    .filter(isClipByName)
    .map(({ pictures }) => pictures)
  for (const { file } of runs.flat()) taken.add(file)
  return { known, more, runs, lone: left() }
}

/** A clip of numbered pictures with more of them, under the name and with the corrections that it has. Null where they are not alike. */
export function lengthened(clip: Clip, more: readonly NumberedFile[]): NumberedClip | null {
  const rate = claimsOf(clip)?.video?.rate
  if (!rate) return null
  const all = new Map([...filesOfClip(clip), ...more].map((file) => [file.number, file]))
  const files = [...all.values()].sort((a, b) => a.number - b.number)
  const whole = numberedClip(files, clip.id, rate, clip)
  if (!whole) return null
  const { priority, arrivedAt, corrections } = clip
  return { ...whole, clip: corrected({ ...whole.clip, priority, arrivedAt }, corrections) }
}

/** A clip of numbered pictures at another rate than the one that was taken for want of a stated one. */
export function atRate(clip: Clip, rate: Rate): Clip {
  const claims = claimsOf(clip)
  if (!claims?.video?.rate || equal(claims.video.rate, rate)) return clip
  return numberedClip(filesOfClip(clip), clip.id, rate, clip)?.clip ?? clip
}
