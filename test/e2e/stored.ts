import type { Page } from '@playwright/test'
import type { Project } from '../../src/core/model/project'
import type { Timeline } from '../../src/core/model/timeline'

/** What the browser keeps of the project that is open, as it lies on disk. */
export interface Stored {
  readonly project: Project
  readonly timelines: readonly Timeline[]
  readonly steps: readonly { readonly n: number; readonly label: string }[]
  readonly position: number
  /** How often it was written. */
  readonly revision: number
}

/** Reads the project of the page's address out of the browser's storage, past the app. */
export const stored = (page: Page): Promise<Stored> =>
  page.evaluate(async () => {
    const id = /\/p\/([^/]+)/.exec(location.pathname)![1]!
    const database = await new Promise<IDBDatabase>((done, failed) => {
      const request = indexedDB.open('yard-tally')
      request.onsuccess = () => done(request.result)
      request.onerror = () => failed(request.error)
    })
    const all = (table: string) =>
      new Promise<Record<string, unknown>[]>((done, failed) => {
        const request = database.transaction(table).objectStore(table).getAll()
        request.onsuccess = () => done(request.result)
        request.onerror = () => failed(request.error)
      })
    const ours = async (table: string) => (await all(table)).filter(({ projectId }) => projectId === id)
    const project = (await all('projects')).find((row) => row.id === id)
    const timelines = await ours('timelines')
    const steps = (await ours('steps')).sort((a, b) => (a.n as number) - (b.n as number))
    const [history] = await ours('histories')
    database.close()
    return {
      project,
      timelines,
      steps,
      position: history?.position ?? 0,
      revision: history?.revision ?? 0,
    } as never
  })
