import { stat } from 'node:fs/promises'
import { join } from 'node:path'
import { walk } from '../src/media/disk/walk'

/** A file that the arguments name, or an entry of a folder that is none, with the reason. */
export interface Found {
  readonly path: string
  /** Why it cannot be read; null for a file. */
  readonly bad: string | null
}

/** Whoever reads a file sees for itself what it is. */
const nothing = () => null

/** The files that the arguments name, in the order given; folders are walked, their entries in order of name. */
export async function* filesOf(paths: readonly string[]): AsyncGenerator<Found> {
  for (const path of paths) {
    const found = await stat(path).catch(() => null)
    if (!found?.isDirectory()) {
      yield { path, bad: null }
      continue
    }
    for await (const entry of walk(path, nothing)) {
      if (entry.kind === 'file') {
        yield { path: entry.path, bad: null }
        continue
      }
      const place = entry.place === '.' ? path : join(path, entry.place)
      // At a terminal one reads one's own files: a link to a file stands for it. Folders behind links are not walked.
      const isFile = (await stat(place).catch(() => null))?.isFile()
      yield { path: place, bad: isFile ? null : entry.why }
    }
  }
}
