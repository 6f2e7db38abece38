import { writeAheadService } from './services'
import type { AheadEntry } from '../storage/schema'

/** The log of a project that this tab writes: what it changed lies on disk before the database has it. */
export interface WriteAhead {
  /** Writes a change down. @returns its number */
  write(change: Omit<AheadEntry, 'n'>): number
  /** Tells that the database has everything up to a number. */
  settled(n: number): void
  close(): void
}

/**
 * Opens the log of a project.
 * @param from the number of the last change that the database has of this tab
 */
export function openWriteAhead(projectId: string, writer: string, from: number): WriteAhead {
  const service = writeAheadService()
  // What is written follows it in the worker; nobody waits for the file.
  void service.open(projectId, writer)
  let n = from
  return {
    write({ patches, journal }) {
      if (patches.length === 0 && journal.length === 0) return n
      n++
      // A whole project is new in the database: before it is there, nothing can follow it.
      if (patches.every(({ path }) => path.length > 0)) void service.write(projectId, { n, patches, journal })
      return n
    },
    settled: (upTo) => void service.settled(projectId, upTo),
    close: () => void service.close(projectId),
  }
}
