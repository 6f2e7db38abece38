import 'fake-indexeddb/auto'
import { readFile } from 'node:fs/promises'
import Dexie from 'dexie'
import { beforeAll, describe, expect, it } from 'vitest'
import { checkTimeline } from '../core/check/check'
import { readProjectFile, writeProjectFile } from '../core/exchange/project-file'
import { formatText } from '../core/format/format'
import { loadHabits } from './habits'
import { database } from './database'
import { listProjects, loadProject } from './projects'

/** What an earlier Yard Tally kept: a database as the browser held it, and the project file of the same project. */
const kept = (name: string) => readFile(new URL(`../../fixtures/stored/${name}`, import.meta.url), 'utf8')
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
  skip: 0.05,
  judderPerMs: 0.04,
}

beforeAll(async () => {
  const { projects, clips, timelines, habits } = JSON.parse(await kept('database-20.json')) as Tables
  const before = new Dexie('yard-tally')
  before.version(1).stores({
    projects: 'id',
    clips: '[projectId+id], projectId',
    timelines: '[projectId+id], projectId',
    posters: '[projectId+clipId], projectId',
    handles: '[projectId+clipId], projectId',
  })
  before.version(2).stores({ habits: 'id' })
  await before.table('projects').bulkAdd(projects)
  await before.table('clips').bulkAdd(clips)
  await before.table('timelines').bulkAdd(timelines)
  await before.table('habits').bulkAdd(habits)
  before.close()
})

describe('a database of before', () => {
  it('opens whole, own weights included', async () => {
    const [entry] = await listProjects()
    const { doc, putAside } = (await loadProject(entry!.id, '2026-06-01T08:00:00Z'))!
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
    expect((await loadHabits()).ownFormats.map(({ format }) => formatText(format))).toEqual(['1080x1350@25p'])
    expect(database.verno).toBe(4)
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
