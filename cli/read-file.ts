import { closeSync, constants, fstatSync, lstatSync, openSync, readSync } from 'node:fs'
import { oddKind, systemReason } from '../src/media/disk/walk'
import type { ByteSource } from '../src/core/reading/bytes/source'
import { type ReadResult, read } from '../src/core/reading/read'
import type { Found } from './files'

/**
 * Opens a file, hands its source to `work`, and closes it again. Never waits for a pipe. Whoever reads does nothing else meanwhile,
 * and a file is read in many small pieces: each is fetched at once, which takes half the time of waiting for it.
 * @throws where it is no file
 */
export async function withSource<T>(path: string, work: (source: ByteSource) => Promise<T>): Promise<T> {
  const file = openSync(path, constants.O_RDONLY | constants.O_NONBLOCK)
  try {
    const facts = fstatSync(file)
    if (!facts.isFile()) throw new NoFile(oddKind(facts) ?? 'It is a folder.')
    const { size } = facts
    return await work({
      size,
      read: (offset, length) => {
        const bytes = new Uint8Array(Math.max(0, Math.min(length, size - offset)))
        return Promise.resolve(bytes.subarray(0, readSync(file, bytes, 0, bytes.length, offset)))
      },
    })
  } finally {
    closeSync(file)
  }
}

class NoFile extends Error {}

const unreadable = (message: string): ReadResult => ({ ok: false, error: { code: 'unreadable', message } })

/** Reads one file; one that cannot be opened comes back as `unreadable`. */
export async function readFile({ path, bad }: Found): Promise<ReadResult> {
  if (bad !== null) return unreadable(bad)
  try {
    return await withSource(path, (source) => read(source, undefined, path))
  } catch (error) {
    if (error instanceof NoFile) return unreadable(error.message)
    const { code } = error as NodeJS.ErrnoException
    if (!code) throw error
    if (code === 'ENOENT') return unreadable('There is no such file.')
    // A socket has a name but cannot be opened.
    const facts = code === 'ENXIO' ? lstatSync(path, { throwIfNoEntry: false }) : null
    return unreadable((facts && oddKind(facts)) ?? systemReason(error))
  }
}
