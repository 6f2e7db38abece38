import Dexie, { type EntityTable, type Table } from 'dexie'
import type { Habits } from '../core/edit/habits'
import type { PutAside } from '../core/edit/mend'
import { projectFrom1 } from '../core/edit/migrate'
import type { Clip, LeftAside, Project, Timeline } from '../core/edit/project'

/** A row that belongs to a project; the project's id leads its key. */
export type Owned<T> = T & { readonly projectId: string }

/** A small picture of a clip. */
export interface PosterRow {
  readonly projectId: string
  readonly clipId: string
  readonly picture: Blob
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
  .upgrade((transaction) =>
    transaction
      .table('projects')
      .toCollection()
      .modify((row, place) => void (place.value = projectFrom1(row))),
  )
