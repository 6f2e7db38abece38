import type { Clip, ClipFile } from '../model/clip'
import type { Doc } from '../model/project'
import { clipsOf } from '../model/project'

/** A file that a clip needs and that is not at hand. */
export interface SoughtFile {
  /** Of the clip, or of one of its parts. */
  readonly fileId: string
  readonly clipId: string
  readonly name: string
  readonly folder: string
  readonly sizeBytes: number
  /** Of head and tail; null where it was never read. */
  readonly hash: string | null
}

/** A file that is offered. */
export interface OfferedFile {
  readonly name: string
  readonly folder: string
  readonly sizeBytes: number
}

/** The files of clips that are sought: all of a clip's that lies in several. */
export const soughtFiles = (doc: Doc, isSought: (clip: Clip) => boolean): SoughtFile[] =>
  clipsOf(doc)
    .filter(isSought)
    .flatMap((clip) =>
      (clip.parts.length ? clip.parts : [clip]).map((file: Clip | ClipFile) => ({
        fileId: file.id,
        clipId: clip.id,
        name: file.name,
        folder: file.folder,
        sizeBytes: file.sizeBytes,
        hash: file.hash,
      })),
    )

const nameKey = (name: string) => name.toLowerCase()

/** Which of the offered files have to be hashed at all: those that agree with a sought one in name or in size. @returns their indexes */
export function worthHashing(sought: readonly SoughtFile[], offered: readonly OfferedFile[]): number[] {
  const names = new Set(sought.map(({ name }) => nameKey(name)))
  const sizes = new Set(sought.map(({ sizeBytes }) => sizeBytes))
  return offered.flatMap(({ name, sizeBytes }, i) =>
    sizeBytes > 0 && (sizes.has(sizeBytes) || names.has(nameKey(name))) ? [i] : [],
  )
}

/** What became of the files that were sought. */
export interface Refound {
  /** The same bytes, wherever they lie and whatever they are called. */
  readonly found: readonly {
    readonly sought: SoughtFile
    readonly offered: number
    readonly renamed: boolean
  }[]
  /** A file of the same name that holds something else: not linked by itself. */
  readonly changed: readonly { readonly sought: SoughtFile; readonly offered: number }[]
  readonly notThere: readonly SoughtFile[]
}

/**
 * Tells moved files from changed ones: by size and hash of head and tail whatever the name, and by name where those differ. Of several
 * that hold the same, the one of the same name goes first, then the one of the same folder.
 * @param hashes of offered files, by index; what is not hashed is left out
 */
export function refound(
  sought: readonly SoughtFile[],
  offered: readonly OfferedFile[],
  hashes: ReadonlyMap<number, string>,
): Refound {
  const byContent = new Map<string, number[]>()
  const byName = new Map<string, number[]>()
  const push = (map: Map<string, number[]>, key: string, i: number) => {
    const known = map.get(key)
    if (known) known.push(i)
    else map.set(key, [i])
  }
  offered.forEach((file, i) => {
    push(byName, nameKey(file.name), i)
    const hash = hashes.get(i)
    if (hash) push(byContent, `${file.sizeBytes} ${hash}`, i)
  })
  const found: Refound['found'][number][] = []
  const changed: Refound['changed'][number][] = []
  const notThere: SoughtFile[] = []
  for (const file of sought) {
    const alike =
      file.hash === null
        ? (byName.get(nameKey(file.name)) ?? []).filter((i) => offered[i]?.sizeBytes === file.sizeBytes)
        : (byContent.get(`${file.sizeBytes} ${file.hash}`) ?? [])
    const best = nearest(file, alike, offered)
    const namesake = nearest(file, byName.get(nameKey(file.name)) ?? [], offered)
    if (best !== null)
      found.push({
        sought: file,
        offered: best,
        renamed: nameKey(offered[best]?.name ?? '') !== nameKey(file.name),
      })
    else if (namesake !== null) changed.push({ sought: file, offered: namesake })
    else notThere.push(file)
  }
  return { found, changed, notThere }
}

function nearest(
  file: SoughtFile,
  indexes: readonly number[],
  offered: readonly OfferedFile[],
): number | null {
  const score = (i: number) => {
    const offeredFile = offered[i]
    if (!offeredFile) return 0
    const sameName =
      offeredFile.name === file.name ? 4 : nameKey(offeredFile.name) === nameKey(file.name) ? 3 : 0
    return (
      sameName +
      (offeredFile.folder.endsWith(file.folder) ? 1 : 0) +
      (offeredFile.folder === file.folder ? 1 : 0)
    )
  }
  return indexes.reduce<number | null>(
    (best, i) => (best === null || score(i) > score(best) ? i : best),
    null,
  )
}
