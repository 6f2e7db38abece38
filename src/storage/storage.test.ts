import { newTimeline, placementOf } from '../core/edit/placing'
import type { Draft } from '../core/edit/draft'
import 'fake-indexeddb/auto'
import { produceWithPatches, enablePatches } from 'immer'
import { afterEach, describe, expect, it } from 'vitest'
import { aDoc, aStill, aVideo } from '../core/model/doc.fixture'
import { defaultPreferences } from '../core/model/preferences'
import { addTimeline, takeOut } from '../core/edit/operations'
import type { Doc } from '../core/model/project'
import { parseFormat } from '../core/format/parse'
import { defaultPolicy } from '../core/toll/policy'
import { database } from './database'
import { loadPreferences, savePreferences } from './preferences'
import { clipsWithHandle, fileFromHandle, loadPosters, saveHandle, savePoster } from './media'
import { deleteProject, listProjects, loadProject, saveDoc, saveTouched } from './projects'

enablePatches()
afterEach(() => Promise.all(database.tables.map((table) => table.clear())))

const hd25 = parseFormat('1920x1080@25p')!.format
const bell = () => {
  const doc = aDoc([aVideo('hall', '3840x2160@25p', 12), aVideo('bell', '1920x1080@50p', 4), aStill('title')])
  addTimeline(doc, newTimeline('t1', 'Main cut', '2026-05-01T10:00:00Z', hd25))
  return doc
}
const other = (): Doc => {
  const doc = aDoc([aVideo('hall', '1280x720@25p', 3)])
  return {
    ...doc,
    project: { ...doc.project, id: 'p2', name: 'Second casting', createdAt: '2026-06-01T08:00:00Z' },
  }
}

const at = '2026-06-02T08:00:00Z'
const loadDoc = async (id: string) => (await loadProject(id, at))?.doc ?? null

describe('projects at rest', () => {
  it('come back as they were written', async () => {
    const doc = bell()
    await saveDoc(doc)
    expect(await loadDoc('p1')).toEqual(doc)
    expect(await loadDoc('nobody')).toBeNull()
  })

  it('are listed with what they hold, the newest first', async () => {
    await saveDoc(bell())
    await saveDoc(other())
    expect((await listProjects()).map(({ name, clips }) => [name, clips])).toEqual([
      ['Second casting', 1],
      ['The Ninth Bell', 3],
    ])
  })

  it('keep clips of one id in two projects apart', async () => {
    await saveDoc(bell())
    await saveDoc(other())
    const sizes = await Promise.all(
      ['p1', 'p2'].map(async (id) => (await loadDoc(id))!.clips.hall!.reading!.video!.width),
    )
    expect(sizes).toEqual([3840, 1280])
  })

  it('are written whole where a patch is of the whole', async () => {
    await saveTouched(bell(), [{ op: 'replace', path: [], value: bell() }])
    expect(await loadDoc('p1')).toEqual(bell())
  })

  it('write only what an edit touched', async () => {
    const doc = bell()
    await saveDoc(doc)
    // A row that nobody touches is left as it lies there.
    await database.clips.update(['p1', 'bell'], { name: 'as it lies' })
    const [next, patches] = produceWithPatches(doc, (draft) => void (draft.clips.hall!.priority = 'key'))
    await saveTouched(next, patches)
    const loaded = (await loadDoc('p1'))!
    expect(loaded.clips.hall!.priority).toBe('key')
    expect(loaded.clips.bell!.name).toBe('as it lies')
  })

  it('drop the rows of what was taken out', async () => {
    const doc = bell()
    await saveDoc(doc)
    const [next, patches] = produceWithPatches(doc, (draft) => takeOut(draft as Draft<Doc>, ['bell'], true))
    await saveTouched(next, patches)
    expect(await loadDoc('p1')).toEqual(next)
    expect(await database.clips.get(['p1', 'bell'])).toBeUndefined()
  })

  it('open without a clip whose row is damaged, which is kept as it was with the reason', async () => {
    const doc = bell()
    doc.timelines.t1!.tracks[0]!.placements = ['hall', 'bell'].map((clipId, i) => ({
      ...placementOf(doc.clips[clipId]!, hd25, `m${i}`),
      start: 25 * i,
      length: 25,
      channels: null,
    }))
    await saveDoc(doc)
    // As a reader of before could have written it: more frames than a number counts exactly.
    const row = (await database.clips.get(['p1', 'hall']))!
    const video = { ...row.reading!.video!, frameCount: 4.6e18 }
    const damaged = { ...row, reading: { ...row.reading!, video } }
    await database.clips.put(damaged)
    const opened = (await loadProject('p1', at))!
    expect(Object.keys(opened.doc.clips)).toEqual(['bell', 'title'])
    expect(opened.doc.project.clipOrder).toEqual(['bell', 'title'])
    expect(opened.doc.timelines.t1!.tracks[0]!.placements).toMatchObject([
      { source: { kind: 'clip', clipId: 'bell' }, start: 25 },
    ])
    expect(opened.putAside).toMatchObject([
      { what: 'clip', name: 'hall.mp4', at, row: { reading: { video: { frameCount: 4.6e18 } } } },
      {
        what: 'timeline',
        name: 'Main cut',
        row: { tracks: [{ placements: [{ id: 'm0' }, { id: 'm1' }] }, {}] },
      },
    ])
    expect(opened.putAside[0]!.why).toContain('reading.video.frameCount')
    // It stays put aside, and the project is whole from then on.
    const again = (await loadProject('p1', at))!
    expect(again.doc).toEqual(opened.doc)
    expect(again.putAside.map(({ name }) => name)).toEqual(['hall.mp4', 'Main cut'])
    expect(await database.clips.get(['p1', 'hall'])).toBeUndefined()
  })

  it('leave everything where it lies for a reader', async () => {
    await saveDoc(bell())
    await database.clips.update(['p1', 'hall'], { priority: 'mine' })
    expect((await loadProject('p1', at, false))!.putAside).toMatchObject([{ name: 'hall.mp4' }])
    expect(await database.putAside.count()).toBe(0)
    expect(await database.clips.get(['p1', 'hall'])).toBeDefined()
  })

  it('open where their own row is damaged, as new in what cannot be read', async () => {
    await saveDoc(bell())
    await database.projects.update('p1', { lean: 'mine', policy: { leans: 3 } })
    const { doc, putAside } = (await loadProject('p1', at))!
    expect(doc.project).toMatchObject({ name: 'The Ninth Bell', lean: 'balanced', policy: defaultPolicy })
    expect(putAside).toMatchObject([{ what: 'project', row: { lean: 'mine' } }])
  })

  it('take nothing in that could not be read again', async () => {
    const doc = bell()
    await saveDoc(doc)
    const wrong = (value: unknown, path: (string | number)[]) =>
      produceWithPatches(doc, (draft: object) => {
        const last = path.at(-1)!
        let holder = draft as Record<string | number, unknown>
        for (const key of path.slice(0, -1)) holder = holder[key] as Record<string | number, unknown>
        holder[last] = value
      })
    for (const [value, path] of [
      [Number.NaN, ['clips', 'hall', 'reading', 'durationSec']],
      [{ num: 0, den: 1 }, ['clips', 'hall', 'reading', 'video', 'rate']],
      [-1, ['clips', 'hall', 'sizeBytes']],
      ['mine', ['project', 'lean']],
    ] as const) {
      const [next, patches] = wrong(value, [...path])
      await expect(saveTouched(next, patches)).rejects.toThrow()
      expect(await loadDoc('p1')).toEqual(doc)
    }
  })

  it('go with all that is theirs, and nothing of others', async () => {
    await saveDoc(bell())
    await saveDoc(other())
    await savePoster({ projectId: 'p1', clipId: 'hall', picture: new Blob(['x']), turn: 0 })
    await savePoster({ projectId: 'p2', clipId: 'hall', picture: new Blob(['y']), turn: 0 })
    await deleteProject('p1')
    expect(await loadDoc('p1')).toBeNull()
    expect(await database.clips.where({ projectId: 'p1' }).count()).toBe(0)
    expect((await loadPosters('p1')).length).toBe(0)
    expect((await loadPosters('p2')).length).toBe(1)
    expect((await loadDoc('p2'))?.project.name).toBe('Second casting')
  })

  it('of an older form gain what came later', async () => {
    const doc = bell()
    await saveDoc(doc)
    const { formatOrigin: _, ...older } = doc.timelines.t1!
    await database.timelines.put({ ...older, projectId: 'p1' } as never)
    expect((await loadDoc('p1'))!.timelines.t1!.formatOrigin).toBeNull()
  })
})

describe('habits at rest', () => {
  it('are the usual ones until they are set', async () => {
    expect(await loadPreferences()).toEqual(defaultPreferences)
    const own = { id: 'f1', name: 'Foundry window', format: parseFormat('1080x1350@25p')!.format }
    const mine = { ...defaultPreferences, mains: 60 as const, ownFormats: [own] }
    await savePreferences(mine)
    expect(await loadPreferences()).toEqual(mine)
  })
  it('stay where one of them cannot be read; an own format that cannot is put aside', async () => {
    const good = { id: 'f1', name: 'Foundry window', format: parseFormat('1080x1350@25p')!.format }
    const bad = { id: 'f2', name: 'Too fast', format: { ...good.format, rate: { num: 2000, den: 1 } } }
    await database.habits.put({
      ...defaultPreferences,
      id: 'mine',
      mains: 55,
      shape: '9:16',
      ownFormats: [good, bad],
    } as never)
    expect(await loadPreferences()).toEqual({ ...defaultPreferences, shape: '9:16', ownFormats: [good] })
    expect(await database.putAside.toArray()).toMatchObject([{ what: 'own-format', row: bad }])
    expect(await loadPreferences()).toEqual({ ...defaultPreferences, shape: '9:16', ownFormats: [good] })
    expect(await database.putAside.count()).toBe(1)
  })

  it('are the usual ones where what is kept cannot be read', async () => {
    await database.habits.put({ ...defaultPreferences, id: 'mine', mains: 55 } as never)
    expect(await loadPreferences()).toEqual(defaultPreferences)
  })
})

describe('leave to open files again', () => {
  const handle = (answer: 'granted' | 'prompt' | 'gone') =>
    ({
      queryPermission: async () => (answer === 'gone' ? 'granted' : answer),
      getFile: async () => {
        if (answer === 'gone') throw new DOMException('no such file', 'NotFoundError')
        return new File(['bytes'], 'bell.mp4')
      },
    }) as unknown as FileSystemFileHandle

  it('is known by clip', async () => {
    // Handles are cloned by the browser; here a plain value stands for one.
    await saveHandle('p1', 'bell', { name: 'bell.mp4' } as unknown as FileSystemFileHandle)
    await saveHandle('p2', 'hall', { name: 'hall.mp4' } as unknown as FileSystemFileHandle)
    expect(await clipsWithHandle('p1')).toEqual(new Set(['bell']))
  })

  it.each([
    ['granted', 'bell.mp4'],
    ['prompt', undefined],
    ['gone', undefined],
  ] as const)('gives the file where it is %s', async (answer, name) => {
    const get = database.handles.get.bind(database.handles)
    database.handles.get = (async () => ({
      projectId: 'p1',
      clipId: 'bell',
      handle: handle(answer),
    })) as never
    try {
      expect((await fileFromHandle('p1', 'bell'))?.name).toBe(name)
    } finally {
      database.handles.get = get
    }
  })
  it('is nothing where there is none', async () => {
    expect(await fileFromHandle('p1', 'nobody')).toBeNull()
  })
})
