import 'fake-indexeddb/auto'
import { IDBFactory } from 'fake-indexeddb'
import { readFile } from 'node:fs/promises'
import { describe, expect, it, vi } from 'vitest'
import { checkTimeline } from '../core/check/check'
import { readProjectFile, writeProjectFile } from '../core/stored/project-file'
import { formatText } from '../core/format/format'

/** What an earlier Yard Tally kept: a database as the browser held it, and the project file of the same project. */
const kept = (name: string) =>
  readFile(new URL(`../../test/fixtures/stored/${name}`, import.meta.url), 'utf8')
type Tables = Record<'projects' | 'clips' | 'timelines' | 'habits', Record<string, unknown>[]>

/** The weights that were the editor's own in it. */
const ownWeights = {
  leans: {
    balanced: { unused: 0.35, bars: 0.4 },
    sharp: { unused: 0.12, bars: 0.4 },
    detail: { unused: 1, bars: 0.2 },
  },
  crop: 0.4,
  repeat: 0.1,
  judderPerMs: 0.04,
}

/** What the tables of a version were. */
const version1 = {
  projects: 'id',
  clips: '[projectId+id], projectId',
  timelines: '[projectId+id], projectId',
  posters: '[projectId+clipId], projectId',
  handles: '[projectId+clipId], projectId',
}
const version3 = {
  ...version1,
  habits: 'id',
  leftAside: '[projectId+id], projectId',
  putAside: '++key, projectId',
}
const version5 = {
  steps: '[projectId+n], projectId',
  histories: 'projectId',
  points: '[projectId+id], projectId',
  openings: 'projectId',
  folders: 'id',
}

const version6 = { moreOfSteps: '[projectId+n+part], projectId' }

/** A database as a version of before left it, and today's storage upon it. */
async function storageOver(version: number, stores: Record<string, string>, dump: string | null) {
  vi.resetModules()
  const { default: Dexie } = await import('dexie')
  Dexie.dependencies.indexedDB = new IDBFactory()
  const before = new Dexie('yard-tally')
  before.version(version).stores(stores)
  await before.open()
  const tables = dump === null ? {} : (JSON.parse(await kept(dump)) as Record<string, unknown>)
  for (const [name, rows] of Object.entries(tables))
    if (Array.isArray(rows)) await before.table(name).bulkAdd(rows)
  before.close()
  const [{ database }, projects, { loadPreferences: loadHabits }] = await Promise.all([
    import('./database'),
    import('./projects'),
    import('./preferences'),
  ])
  return { database, loadHabits, ...projects }
}

describe('a database of before', () => {
  it('of version 2 opens whole, own weights included', async () => {
    const stored = await storageOver(2, { ...version1, habits: 'id' }, 'database-20.json')
    const [entry] = await stored.listProjects()
    const { doc, putAside } = (await stored.loadProject(entry!.id, '2026-06-01T08:00:00Z'))!
    expect(putAside).toEqual([])
    expect(Object.keys(doc.clips)).toHaveLength(19)
    expect(doc.project.policy).toMatchObject(ownWeights)
    expect(doc.project).toMatchObject({ mains: null, card: 'siding' })
    const visitor = Object.values(doc.clips).find((clip) => clip.name.startsWith('visitor'))!
    expect(visitor).toMatchObject({ corrections: { rate: { num: 24, den: 1 } }, parts: [] })
    const [timeline] = Object.values(doc.timelines)
    expect(checkTimeline(doc, timeline!)!.findings.map(({ clip }) => clip!.name.slice(0, 5))).toEqual([
      'hall_',
      'bell_',
      'visit',
      'title',
    ])
    expect((await stored.loadHabits()).ownFormats.map(({ format }) => formatText(format))).toEqual([
      '1080x1350@25p',
    ])
    expect(stored.database.verno).toBe(7)
  })

  it('of version 3 opens whole: every placement where it was, each timeline on its own rate', async () => {
    const stored = await storageOver(3, version3, 'database-30.json')
    const [entry] = await stored.listProjects()
    const { doc, putAside } = (await stored.loadProject(entry!.id, '2026-06-01T08:00:00Z'))!
    expect(putAside).toEqual([])
    expect(Object.keys(doc.clips)).toHaveLength(20)
    expect(Object.keys(doc.leftAside)).toHaveLength(1)
    expect((await stored.loadHabits()).ownFormats.map(({ name }) => name)).toEqual(['Foundry wall'])
    const was = JSON.parse(await kept('database-30.json')) as {
      timelines: {
        id: string
        tracks: { id: string; placements: { id: string; start: number; length: number }[] }[]
      }[]
    }
    const spans = (timelines: typeof was.timelines) =>
      timelines.map(({ id, tracks }) => [
        id,
        tracks.map((track) => track.placements.map(({ id, start, length }) => [id, start, length])),
      ])
    const today = was.timelines.map(({ id }) => doc.timelines[id]!)
    expect(spans(today as never)).toEqual(spans(was.timelines))
    expect(today.map(({ rate }) => rate)).toEqual(today.map(() => ({ num: 25, den: 1 })))
    // It is written as it is today, and opens the same again.
    await stored.saveDoc(doc)
    expect((await stored.loadProject(entry!.id, '2026-06-01T09:00:00Z'))!.doc).toEqual(doc)
  })

  it('of a newer version is refused with a reason, and left as it is', async () => {
    const stored = await storageOver(8, { ...version3, ...version5, ...version6, bells: 'id' }, null)
    await expect(stored.listProjects()).rejects.toThrow(
      'A newer Yard Tally keeps its projects in this browser (database 8, this one knows 7). They were left as they are.',
    )
    await expect(stored.loadProject('any', '2026-06-01T08:00:00Z')).rejects.toThrow(
      'Open them with the newer',
    )
  })
})

describe('a project file of before', () => {
  it('opens whole, own weights included, and is written as one of today', async () => {
    const opened = readProjectFile(await kept('project-1.json'))
    if (!opened.ok) throw new Error(opened.error)
    expect(opened.putAside).toEqual([])
    expect(opened.doc.project.policy).toMatchObject(ownWeights)
    expect(readProjectFile(writeProjectFile(opened.doc))).toEqual(opened)
  })

  it('opens without a clip that was written then and is absurd today, and tells it', async () => {
    const file = JSON.parse(await kept('project-1.json')) as Tables
    const video = (
      file.clips.find((clip) => String(clip.name).startsWith('bell_swing_B011'))!.reading as {
        video: Record<string, unknown>
      }
    ).video
    video.frameCount = 4.6e18
    const opened = readProjectFile(JSON.stringify(file))
    if (!opened.ok) throw new Error(opened.error)
    expect(Object.keys(opened.doc.clips)).toHaveLength(18)
    expect(opened.putAside.map(({ what, name }) => `${what} ${name}`)).toEqual([
      'clip bell_swing_B011.mp4',
      'timeline Cut 3840×2160 · 25p',
    ])
    // The same in a file of today is refused.
    const today = JSON.stringify({ ...JSON.parse(writeProjectFile(opened.doc)), clips: file.clips })
    expect(readProjectFile(today)).toMatchObject({
      ok: false,
      error: expect.stringMatching(
        /reading\.video\.frameCount \(bell_swing_B011\.mp4\).*Nothing was changed/,
      ),
    })
  })
})
