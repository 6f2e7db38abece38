import { open, readdir, stat } from 'node:fs/promises'
import { join } from 'node:path'
import type { ByteSource } from '../src/core/reading/bytes/source'
import { type ReadResult, read } from '../src/core/reading/read'

/** The files that the arguments name, in the order given; folders are walked, their files in order of name. */
export async function* filesOf(paths: readonly string[]): AsyncGenerator<string> {
  for (const path of paths) {
    const found = await stat(path).catch(() => null)
    if (found?.isDirectory()) yield* walk(path)
    else yield path
  }
}

async function* walk(folder: string): AsyncGenerator<string> {
  const entries = (await readdir(folder, { withFileTypes: true })).sort((a, b) => (a.name < b.name ? -1 : 1))
  for (const entry of entries) {
    const path = join(folder, entry.name)
    if (entry.isDirectory()) yield* walk(path)
    else if (entry.isFile() && !entry.name.startsWith('.')) yield path
  }
}

/** Opens a file, hands its source to `work`, and closes it again. */
export async function withSource<T>(path: string, work: (source: ByteSource) => Promise<T>): Promise<T> {
  const handle = await open(path, 'r')
  try {
    const { size } = await handle.stat()
    return await work({
      size,
      async read(offset, length) {
        const bytes = new Uint8Array(Math.max(0, Math.min(length, size - offset)))
        const { bytesRead } = await handle.read(bytes, 0, bytes.length, offset)
        return bytes.subarray(0, bytesRead)
      },
    })
  } finally {
    await handle.close()
  }
}

/** Reads one file; one that cannot be opened comes back as `unreadable`. */
export async function readFile(path: string): Promise<ReadResult> {
  try {
    return await withSource(path, (source) => read(source))
  } catch (error) {
    const reasons: Record<string, string> = {
      ENOENT: 'There is no such file.',
      EACCES: 'The file may not be read.',
    }
    const code = (error as NodeJS.ErrnoException).code
    if (!code) throw error
    return {
      ok: false,
      error: { code: 'unreadable', message: reasons[code] ?? `The file could not be opened (${code}).` },
    }
  }
}
