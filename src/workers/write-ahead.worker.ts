import { expose } from 'comlink'
import { turns } from '../media/turns'
import { aheadFolder, aheadLine } from '../storage/write-ahead'
import type { AheadEntry } from '../storage/schema'

/** A log that is this long begins anew as soon as the database has all of it, in bytes. */
const longLog = 1 << 20

/** A file that lines are put at the end of. */
interface Log {
  readonly folder: FileSystemDirectoryHandle
  readonly writer: string
  readonly file: FileSystemSyncAccessHandle
  size: number
  /** The number of its last entry, and of the last that the database has. */
  last: number
  saved: number
}

const logs = new Map<string, Log>()
const encoder = new TextEncoder()

async function open(projectId: string, writer: string): Promise<void> {
  const folder = await aheadFolder(projectId, true)
  const handle = await folder.getFileHandle(writer, { create: true })
  const file = await handle.createSyncAccessHandle()
  logs.set(projectId, { folder, writer, file, size: file.getSize(), last: 0, saved: 0 })
}

function write(projectId: string, entry: AheadEntry): void {
  const log = logs.get(projectId)
  if (!log) return
  log.size += log.file.write(encoder.encode(aheadLine(entry)), { at: log.size })
  log.last = entry.n
}

function settled(projectId: string, n: number): void {
  const log = logs.get(projectId)
  if (!log) return
  log.saved = n
  if (log.last !== n || log.size < longLog) return
  log.file.truncate(0)
  log.size = 0
}

async function close(projectId: string): Promise<void> {
  const log = logs.get(projectId)
  if (!log) return
  logs.delete(projectId)
  log.file.close()
  // What the database has not is brought in by whoever writes the project next.
  if (log.saved >= log.last) await log.folder.removeEntry(log.writer)
}

const queue = turns()
/** Does one after the other; where the browser keeps no files, or has no room, the database alone keeps what is done, and tells. */
const inTurn =
  <Given extends unknown[]>(act: (...given: Given) => void | Promise<void>) =>
  (...given: Given): Promise<void> =>
    queue(async () => act(...given)).catch(() => {})

const service = {
  /** Opens the log of a project. */
  open: inTurn(open),
  /** Puts an entry at the end of a project’s log. */
  write: inTurn(write),
  /** Tells that the database has everything up to an entry. */
  settled: inTurn(settled),
  /** Closes the log of a project, and takes it away where the database has everything of it. */
  close: inTurn(close),
}

export type WriteAheadService = typeof service
expose(service)
