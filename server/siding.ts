import { createHash } from 'node:crypto'
import { readdir, stat } from 'node:fs/promises'
import { join, relative, sep } from 'node:path'

/** One file on the siding. The id stands for its place and leads nowhere else. */
export interface SidingFile {
  readonly id: string
  readonly name: string
  /** Folder below the siding, with `/`, empty at its top. */
  readonly folder: string
  readonly sizeBytes: number
  readonly modifiedAt: string
  /** Whether the file has come to rest: while it is being copied, it is not. */
  readonly rests: boolean
  /** What the file will come to, where that is known while it grows. */
  readonly expectedBytes: number | null
}

/** A file that was written to this recently may still be growing. */
const restMilliseconds = 1500

/** A file with its place on this machine, which never leaves the server. */
export type PlacedFile = SidingFile & { readonly path: string }

const mostFiles = 20_000

/**
 * Lists a folder that clips can be taken in from. Hidden files and links are left out, so that nothing outside the
 * folder can be reached.
 * @param sidingFolder absolute path
 */
export async function listSiding(sidingFolder: string): Promise<PlacedFile[]> {
  const files: PlacedFile[] = []
  const walk = async (folder: string): Promise<void> => {
    const entries = await readdir(folder, { withFileTypes: true })
    for (const entry of entries.sort((a, b) => (a.name < b.name ? -1 : 1))) {
      const path = join(folder, entry.name)
      if (entry.name.startsWith('.') || entry.isSymbolicLink() || files.length >= mostFiles) continue
      if (entry.isDirectory()) await walk(path)
      else if (entry.isFile()) {
        const facts = await stat(path)
        files.push({
          id: idOf(relative(sidingFolder, path)),
          name: entry.name,
          folder: relative(sidingFolder, folder).split(sep).join('/'),
          sizeBytes: facts.size,
          modifiedAt: facts.mtime.toISOString(),
          rests: Date.now() - facts.mtimeMs > restMilliseconds,
          expectedBytes: null,
          path,
        })
      }
    }
  }
  await walk(sidingFolder)
  return files
}

const idOf = (place: string) => createHash('sha256').update(place).digest('hex').slice(0, 16)
