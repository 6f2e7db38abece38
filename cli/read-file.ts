import { constants } from 'node:fs'
import { lstat, open } from 'node:fs/promises'
import { oddKind, reasonFor } from '../server/walk'
import type { ByteSource } from '../src/core/reading/bytes/source'
import { type ReadResult, read } from '../src/core/reading/read'
import type { Found } from './files'

/** Opens a file, hands its source to `work`, and closes it again. Never waits for a pipe. @throws where it is no file */
export async function withSource<T>(path: string, work: (source: ByteSource) => Promise<T>): Promise<T> {
  const handle = await open(path, constants.O_RDONLY | constants.O_NONBLOCK)
  try {
    const facts = await handle.stat()
    if (!facts.isFile()) throw new NoFile(oddKind(facts) ?? 'It is a folder.')
    const { size } = facts
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

class NoFile extends Error {}

const unreadable = (message: string): ReadResult => ({ ok: false, error: { code: 'unreadable', message } })

/** Reads one file; one that cannot be opened comes back as `unreadable`. */
export async function readFile({ path, bad }: Found): Promise<ReadResult> {
  if (bad !== null) return unreadable(bad)
  try {
    return await withSource(path, (source) => read(source))
  } catch (error) {
    if (error instanceof NoFile) return unreadable(error.message)
    const { code } = error as NodeJS.ErrnoException
    if (!code) throw error
    if (code === 'ENOENT') return unreadable('There is no such file.')
    // A socket has a name but cannot be opened.
    const facts = code === 'ENXIO' ? await lstat(path).catch(() => null) : null
    return unreadable((facts && oddKind(facts)) ?? reasonFor(error))
  }
}
