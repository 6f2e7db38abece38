import { type Clip, type LeftAside } from '../core/model/clip'
import { type Timeline } from '../core/model/timeline'
import type { Patch } from 'immer'
import Dexie, { type EntityTable, type Table, type Transaction } from 'dexie'
import type { Preferences } from '../core/model/preferences'
import type { PutAside } from '../core/stored/mend'
import { type StoredRows, migrated } from '../core/stored/migrate'
import type { Rotation } from '../core/picture/turn'
import type { Doc, Project } from '../core/model/project'
import type { MoreOfStep } from './schema'

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

/** One step of a project's history, under its number. */
export interface StepRow {
  readonly projectId: string
  readonly n: number
  readonly label: string
  readonly at: string
  readonly patches: Patch[]
  readonly inverse: Patch[]
}

/** What was joined to a step of a project's history. */
export type MoreRow = Owned<MoreOfStep>

/** Where a project stands in its history, who may write it, and how often it was written. */
export interface HistoryRow {
  readonly projectId: string
  readonly position: number
  /** The tab that took it last: nobody else's writing is taken. */
  readonly writer: string
  readonly revision: number
  /** How many of the changes that this tab wrote ahead are in; none where there is no number. */
  readonly ahead?: number
}

/** A project as it was when the editor named that. */
export interface PointRow {
  readonly projectId: string
  readonly id: string
  readonly name: string
  readonly at: string
  /** The step that was in force last. */
  readonly position: number
  readonly doc: Doc
  /** The stored version of its document; points of old do not say theirs. */
  readonly version?: number
}

/** What is told of a project in a list without opening it. */
export interface OpeningRow {
  readonly projectId: string
  readonly openedAt: string
  /** Of its footage. */
  readonly seconds: number
  readonly bytes: number
  /** When it was put out of sight; not at all where it is in the list. */
  readonly deletedAt?: string | null
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
  habits: Table<Preferences & { readonly id: string }, string>
  steps: Table<StepRow, [string, number]>
  moreOfSteps: Table<MoreRow, [string, number, number]>
  histories: Table<HistoryRow, string>
  points: Table<PointRow, [string, string]>
  openings: Table<OpeningRow, string>
  /** Folders of the editor's, by what they are for. */
  folders: Table<{ readonly id: string; readonly handle: FileSystemDirectoryHandle }, string>
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

database.version(4).upgrade((transaction) => bringAll(transaction, 2, 3))

database.version(5).stores({
  steps: '[projectId+n], projectId',
  histories: 'projectId',
  points: '[projectId+id], projectId',
  openings: 'projectId',
  folders: 'id',
})

database.version(6).stores({ moreOfSteps: '[projectId+n+part], projectId' })

const newest = 7
database.version(newest).upgrade((transaction) => bringAll(transaction, 3, 4))

// The library would open what a newer version keeps as if it were ours, and our writing could spoil it.
database.on('ready', () => {
  // Stored in tenths; what the library adds by itself counts below them.
  const found = Math.floor(database.backendDB().version / 10)
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
