import type { Dirent, Stats } from 'node:fs'
import { lstat, readdir } from 'node:fs/promises'
import { Buffer } from 'node:buffer'
import { join } from 'node:path'

/** What stands in a folder: a file with what was asked of it, or one bad entry with the reason why it is left out. */
export type Entry<Facts> =
  | {
      readonly kind: 'file'
      readonly path: string
      readonly folder: string
      readonly name: string
      readonly facts: Facts
    }
  | { readonly kind: 'bad'; readonly place: string; readonly why: string }

const reasons: Record<string, string> = {
  EACCES: 'It may not be read.',
  EPERM: 'It may not be read.',
  ENOENT: 'It vanished while the folder was read.',
  ELOOP: 'It leads around in a circle.',
  ENAMETOOLONG: 'Its name is too long.',
  ENOTDIR: 'It is no folder.',
}

/** An entry that is neither file nor folder. */
class OddEntry extends Error {}

/** Why the system did not give something, in a sentence. */
export const systemReason = (error: unknown): string => {
  if (error instanceof OddEntry) return error.message
  const { code, message } = error as NodeJS.ErrnoException
  return (code && reasons[code]) ?? `It could not be read (${code ?? message}).`
}

/** What an entry is that is neither file nor folder; null for these two. */
export function oddKind(
  entry: Pick<Dirent | Stats, 'isSymbolicLink' | 'isFIFO' | 'isSocket' | 'isFile' | 'isDirectory'>,
): string | null {
  if (entry.isFile() || entry.isDirectory()) return null
  if (entry.isSymbolicLink()) return 'It is a link; only what stands here itself is read.'
  if (entry.isFIFO()) return 'It is a pipe (FIFO), no file.'
  if (entry.isSocket()) return 'It is a socket, no file.'
  return 'It is a device, no file.'
}

/** Asks the system about a file. @throws OddEntry where it is none any more */
export async function statOf(path: string): Promise<Stats> {
  const facts = await lstat(path)
  const became = oddKind(facts) ?? (facts.isFile() ? null : 'It is a folder now.')
  if (became) throw new OddEntry(became)
  return facts
}

/** Looked at this many at once: the system answers them side by side. */
const abreast = 32

/**
 * Walks a folder in order of names, hidden entries left out. One bad entry – an unreadable folder, a name that is no UTF-8,
 * a file that vanished, a pipe, a socket, a link – is one line with its reason; the others go on.
 * @param root absolute path
 * @param ask what is to be known of each file; where it throws, the file is a bad entry
 * @param folder below it, with `/`, empty at its top
 */
export async function* walk<Facts>(
  root: string,
  ask: (path: string) => Facts | Promise<Facts>,
  folder = '',
): AsyncGenerator<Entry<Facts>> {
  const here = folder ? join(root, folder) : root
  let entries: Dirent<Buffer>[]
  try {
    entries = await readdir(here, { withFileTypes: true, encoding: 'buffer' })
  } catch (error) {
    yield { kind: 'bad', place: folder || '.', why: systemReason(error) }
    return
  }
  const named = entries
    .map((entry) => ({ entry, name: entry.name.toString('utf8') }))
    .sort((a, b) => (a.name < b.name ? -1 : 1))
  for (let at = 0; at < named.length; at += abreast) {
    const looked = await Promise.all(
      named.slice(at, at + abreast).map(({ entry, name }) => look(here, folder, name, entry, ask)),
    )
    for (const entry of looked) {
      if (entry === null) continue
      if (typeof entry === 'string') yield* walk(root, ask, entry)
      else yield entry
    }
  }
}

/** One entry: as it is, a folder to walk, or null where it is hidden. */
async function look<Facts>(
  here: string,
  folder: string,
  name: string,
  entry: Dirent<Buffer>,
  ask: (path: string) => Facts | Promise<Facts>,
): Promise<Entry<Facts> | string | null> {
  if (name.startsWith('.')) return null
  const place = folder ? `${folder}/${name}` : name
  if (!Buffer.from(name, 'utf8').equals(entry.name))
    return { kind: 'bad', place, why: 'Its name is no UTF-8: rename it.' }
  const odd = oddKind(entry)
  if (odd) return { kind: 'bad', place, why: odd }
  if (entry.isDirectory()) return place
  const path = join(here, name)
  try {
    return { kind: 'file', path, folder, name, facts: await ask(path) }
  } catch (error) {
    return { kind: 'bad', place, why: systemReason(error) }
  }
}
