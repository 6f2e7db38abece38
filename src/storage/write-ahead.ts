import type { Patch } from 'immer'
import type { Journal } from './history'

/**
 * A log written ahead of the database: a transaction may wait for long behind others, a line at the end of a file does not. Each tab that
 * writes a project keeps one file of lines, JSON each, of what it changed; whoever writes the project next brings into the database what
 * that one did not come to.
 */
export interface AheadEntry {
  /** Counted by the tab from 1, without a gap. */
  readonly n: number
  readonly patches: readonly Patch[]
  readonly journal: readonly Journal[]
}

export const aheadLine = (entry: AheadEntry): string => `${JSON.stringify(entry)}\n`

/** The entries of a log that follow one number without a gap. A line that a crash has torn is none, and what follows it neither. */
export function entriesAfter(n: number, text: string): AheadEntry[] {
  const entries: AheadEntry[] = []
  // What stands behind the last line end is torn.
  for (const line of text.split('\n').slice(0, -1)) {
    let entry: AheadEntry
    try {
      entry = JSON.parse(line) as AheadEntry
    } catch {
      break
    }
    if (entry.n === n + entries.length + 1) entries.push(entry)
  }
  return entries
}

/** The folder of a project's logs. @throws DOMException where the browser keeps no files, and where there is none and none is made */
export async function aheadFolder(projectId: string, create: boolean): Promise<FileSystemDirectoryHandle> {
  const root = await navigator.storage.getDirectory()
  const logs = await root.getDirectoryHandle('write-ahead', { create })
  return logs.getDirectoryHandle(projectId, { create })
}

/** Takes away what was written ahead of a project that is deleted. */
export async function dropAhead(projectId: string): Promise<void> {
  const root = await navigator.storage.getDirectory()
  await (await root.getDirectoryHandle('write-ahead')).removeEntry(projectId, { recursive: true })
}

/** The log of a tab; null where it has none. */
export async function aheadText(folder: FileSystemDirectoryHandle, writer: string): Promise<string | null> {
  try {
    return await (await (await folder.getFileHandle(writer)).getFile()).text()
  } catch {
    return null
  }
}
