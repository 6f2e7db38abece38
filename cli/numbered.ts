import { stat } from 'node:fs/promises'
import { basename, dirname, join } from 'node:path'
import { numberOf, numberedRuns } from '../src/core/reading/numbered/names'
import { type NumberedPicture, numberedFacts, picturesToRead } from '../src/core/reading/numbered/facts'
import type { ReadResult } from '../src/core/reading/read'
import type { Rate } from '../src/core/rate/rate'
import type { Found } from './files'

/** A file that was found, or numbered pictures as one: `plates/strike.[1001-1240].dpx`. */
export interface Counted {
  readonly found: Found
  /** What the pictures are as one clip; null of a single file, which is read as any. */
  readonly result: ReadResult | null
}

/**
 * Numbered pictures among files as one clip each, at the place of their first; everything else as it is. Of many pictures some headers
 * are read.
 * @param rate where their headers state none
 */
export async function* asClips(
  files: readonly Found[],
  rate: Rate,
  read: (found: Found) => Promise<ReadResult>,
): AsyncGenerator<Counted> {
  const listed = files.map((found) => ({ found, name: basename(found.path), folder: dirname(found.path) }))
  const runs = numberedRuns(listed.filter(({ found }) => found.bad === null))
  const runOf = new Map(runs.flatMap((run) => run.pictures.map(({ file }) => [file.found, run] as const)))
  const done = new Set<Found>()
  for (const found of files) {
    if (done.has(found)) continue
    const pictures = runOf.get(found)?.pictures ?? []
    const facts = pictures.length > 0 ? await factsOf(pictures, rate, read) : null
    const [first, last] = [pictures[0]?.file, pictures.at(-1)?.file]
    if (!facts || !first || !last) {
      yield { found, result: null }
      continue
    }
    for (const { file } of pictures) done.add(file.found)
    const [from, to] = [numberOf(first.name), numberOf(last.name)]
    const name = `${from?.before ?? ''}[${from?.digits ?? ''}-${to?.digits ?? ''}]${from?.after ?? ''}`
    yield { found: { path: join(first.folder, name), bad: null }, result: facts }
  }
}

async function factsOf(
  pictures: readonly {
    readonly file: { readonly found: Found; readonly name: string }
    readonly number: number
  }[],
  rate: Rate,
  read: (found: Found) => Promise<ReadResult>,
): Promise<ReadResult | null> {
  const sizes = await Promise.all(
    pictures.map(async ({ file }) => (await stat(file.found.path).catch(() => null))?.size ?? 0),
  )
  const results = new Map<number, ReadResult>()
  for (const i of picturesToRead(sizes)) {
    const picture = pictures[i]
    if (picture) results.set(i, await read(picture.file.found))
  }
  const facts = numberedFacts(
    pictures.map(({ file, number }, i): NumberedPicture => ({
      number,
      name: file.name,
      sizeBytes: sizes[i] ?? 0,
      result: results.get(i) ?? null,
    })),
    rate,
  )
  return facts && { ok: true, reading: facts.reading, origins: {} }
}
