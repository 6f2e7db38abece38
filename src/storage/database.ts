import { type Clip, type LeftAside } from '../core/edit/clip'
import { type Timeline } from '../core/edit/timeline'
import Dexie, { type EntityTable, type Table, type Transaction } from 'dexie'
import type { Habits } from '../core/edit/habits'
import type { PutAside } from '../core/edit/mend'
import { type StoredRows, migrated } from '../core/edit/migrate'
import type { Rotation } from '../core/picture/turn'
import type { Project } from '../core/edit/project'

/** A row that belongs to a project; the project's id leads its key. */
export type Owned<T> = T & { readonly projectId: string }

/** A small picture of a clip. */
export interface PosterRow {
  readonly projectId: string
  readonly clipId: string
  readonly picture: Blob
  /** The turn at which it was drawn upright; posters of old were drawn as their file claims, and are drawn anew where that is a turn. */
  readonly turn?: Rotation
}

/** Leave to open a file of the editor's again, where the browser grants it. */
export interface HandleRow {
  readonly projectId: string
  readonly clipId: string
  readonly handle: FileSystemFileHandle
}

/** What of a project could not be read any more. */
export type PutAsideRow = PutAside & {
  readonly key?: number
  readonly projectId: string
  readonly at: string
}

/** All that is kept in the browser. */
export const database = new Dexie('yard-tally') as Dexie & {
  projects: EntityTable<Project, 'id'>
  clips: Table<Owned<Clip>, [string, string]>
  timelines: Table<Owned<Timeline>, [string, string]>
  leftAside: Table<Owned<LeftAside>, [string, string]>
  putAside: Table<PutAsideRow, number>
  posters: Table<PosterRow, [string, string]>
  handles: Table<HandleRow, [string, string]>
  habits: Table<Habits & { readonly id: string }, string>
}

database.version(1).stores({
  projects: 'id',
  clips: '[projectId+id], projectId',
  timelines: '[projectId+id], projectId',
  posters: '[projectId+clipId], projectId',
  handles: '[projectId+clipId], projectId',
})

database.version(2).stores({ habits: 'id' })

database
  .version(3)
  .stores({ leftAside: '[projectId+id], projectId', putAside: '++key, projectId' })
  .upgrade((transaction) => bringAll(transaction, 1, 2))

const newest = 4
database.version(newest).upgrade((transaction) => bringAll(transaction, 2, 3))

// The library would open what a newer version keeps as if it were ours, and our writing could spoil it.
database.on('ready', () => {
  // Stored in tenths.
  const found = database.backendDB().version / 10
  if (found <= newest) return
  throw new Error(
    `A newer Yard Tally keeps its projects in this browser (database ${found}, this one knows ${newest}). They were left as they are. Open them with the newer version.`,
  )
})

/** Brings every project of the database from one stored version to the next; rows that cannot be brought stay as they are. */
async function bringAll(transaction: Transaction, from: number, to: number): Promise<void> {
  const [projects, timelines] = [
    transaction.table<unknown>('projects'),
    transaction.table<unknown>('timelines'),
  ]
  const rows = await timelines.toArray()
  for (const project of await projects.toArray()) {
    const { id } = project as { id?: unknown }
    const theirs = rows.filter((row) => (row as { projectId?: unknown }).projectId === id)
    const stored: StoredRows = { project, clips: [], timelines: theirs, leftAside: [] }
    const brought = migrated(stored, from, to)
    await projects.put(brought.project)
    await timelines.bulkPut([...brought.timelines])
  }
}
