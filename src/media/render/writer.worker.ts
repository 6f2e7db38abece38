import type { Core } from '@ffmpeg/core'
import { expose } from 'comlink'
import { reasonOf } from '../../core/words/reason'
import { type Ring, ringReader } from '../decode/ring'
import { newCore } from '../decode/toolkit-core'
import { logFolder } from './words'

/** What is written into a file. */
export interface WriterJob {
  /** What the toolkit is told, but for the name of the file. */
  readonly words: readonly string[]
  readonly picture: Ring
  readonly sound: Ring | null
  /** A file of the browser's own storage; what was in it is gone. */
  readonly file: FileSystemFileHandle
  /** What an earlier pass has measured. */
  readonly log: PassLog
}

/** Files in which a pass keeps what it measured of the picture. */
export type PassLog = readonly { readonly name: string; readonly bytes: Uint8Array }[]

/** How the writing ended. */
export interface WriterEnd {
  readonly code: number
  readonly bytes: number
  /** The last lines that the toolkit said. */
  readonly said: readonly string[]
  readonly log: PassLog
}

const most = 60
const [fromStart, fromHere] = [0, 1]

/** Gives the toolkit a file that it reads from a ring. */
function fromRing({ FS }: Core, name: string, minor: number, ring: Ring): void {
  const reader = ringReader(ring)
  const device = FS.makedev(71, minor)
  FS.registerDevice(device, {
    open: () => undefined,
    close: () => undefined,
    read: (_stream, heap, offset, length) =>
      reader.fill(new Uint8Array(heap.buffer, heap.byteOffset + offset, length)),
  })
  FS.mkdev(`/in/${name}`, device)
}

/** Gives the toolkit a file to write that lies in the browser's own storage: read again and at any place, as indexes need it. */
function intoFile({ FS }: Core, file: FileSystemSyncAccessHandle, failed: (error: unknown) => void): void {
  const device = FS.makedev(72, 0)
  const room = (heap: Uint8Array | Int8Array, offset: number, length: number) =>
    new Uint8Array(heap.buffer as ArrayBuffer, heap.byteOffset + offset, length)
  FS.registerDevice(device, {
    open: () => undefined,
    close: () => undefined,
    read: (_stream, heap, offset, length, at) => file.read(room(heap, offset, length), { at }),
    write(_stream, heap, offset, length, at) {
      try {
        const written = file.write(room(heap, offset, length), { at })
        // Where there is no room, what is returned may be less than was wanted, or no count at all.
        if (written !== length) throw new DOMException('not all of it was written', 'QuotaExceededError')
        return written
      } catch (error) {
        // The toolkit only knows that something failed.
        failed(error)
        throw error
      }
    },
    llseek: ({ position }, offset, whence) =>
      whence === fromStart ? offset : whence === fromHere ? position + offset : file.getSize() + offset,
  })
  FS.mkdir('/out')
  FS.mkdev('/out/file', device)
}

/** What a pass has measured. */
const logOf = ({ FS }: Core): PassLog =>
  FS.readdir(logFolder)
    .filter((name) => !name.startsWith('.'))
    .map((name) => ({ name, bytes: FS.readFile(`${logFolder}/${name}`) }))

/** Why bytes could not be written. */
const troubleOf = (error: unknown): string =>
  error instanceof DOMException ? `${error.name}: ${error.message}` : reasonOf(error)

const service = {
  /** Writes one file from beginning to end; the worker hears nothing else meanwhile. */
  async run({ words, picture, sound, file, log }: WriterJob): Promise<WriterEnd> {
    const said: string[] = []
    /** What went wrong with the file. */
    let first: unknown = null
    const out = await file.createSyncAccessHandle()
    try {
      out.truncate(0)
      const core = await newCore()
      core.setLogger(({ message }) => {
        said.push(message)
        if (said.length > most) said.shift()
      })
      core.FS.mkdir('/in')
      fromRing(core, 'picture', 0, picture)
      if (sound) fromRing(core, 'sound', 1, sound)
      intoFile(core, out, (error) => (first ??= error))
      core.FS.mkdir(logFolder)
      for (const { name, bytes } of log) core.FS.writeFile(`${logFolder}/${name}`, bytes)
      const code = core.exec('-nostdin', '-nostats', ...words, '-y', '/out/file')
      out.flush()
      if (first) return { code: 1, bytes: 0, said: [troubleOf(first)], log: [] }
      return { code, bytes: out.getSize(), said, log: logOf(core) }
    } catch (error) {
      return { code: 1, bytes: 0, said: first ? [troubleOf(first)] : [...said, reasonOf(error)], log: [] }
    } finally {
      // Whoever still puts something in is told that nothing is wanted.
      ringReader(picture).cancel()
      if (sound) ringReader(sound).cancel()
      out.close()
    }
  },
}

export type WriterService = typeof service
expose(service)
