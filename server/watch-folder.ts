import { createHash } from 'node:crypto'
import { statOf, walk } from '../src/media/disk/walk'
import type { BadEntry, ListedFile } from '../src/core/card/listing'

/** A file with its place on this machine, which never leaves the server. */
export type PlacedFile = ListedFile & { readonly path: string }

/** What stands on a card. */
export interface Listing {
  readonly files: readonly PlacedFile[]
  readonly bad: readonly BadEntry[]
}

/** A file that was written to this recently may still be growing. */
const restMilliseconds = 1500
const mostFiles = 100_000
const mostBad = 1000

/**
 * Lists a folder that clips can be taken in from. Hidden files are left out; links are not followed, so that nothing
 * outside the folder can be reached.
 * @param folder absolute path
 * @param found told of what came in since the last time it was told, while the walk goes on
 */
export async function listFolder(
  folder: string,
  found?: (files: readonly PlacedFile[]) => void,
): Promise<Listing> {
  const files: PlacedFile[] = []
  const bad: BadEntry[] = []
  for await (const entry of walk(folder, statOf)) {
    if (entry.kind === 'bad') {
      if (bad.length < mostBad) bad.push({ place: entry.place, why: entry.why })
      continue
    }
    if (files.length >= mostFiles) {
      bad.push({ place: '.', why: `More than ${mostFiles} files: the rest is not listed.` })
      break
    }
    const { path, name, facts } = entry
    files.push({
      id: idOf(entry.folder ? `${entry.folder}/${name}` : name),
      name,
      folder: entry.folder,
      sizeBytes: facts.size,
      modifiedAt: facts.mtime.toISOString(),
      rests: Date.now() - facts.mtimeMs > restMilliseconds,
      expectedBytes: null,
      path,
    })
    if (found && files.length % 250 === 0) found(files)
  }
  return { files, bad }
}

const idOf = (place: string) => createHash('sha256').update(place).digest('hex').slice(0, 16)
