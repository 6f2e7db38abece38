import 'fake-indexeddb/auto'
import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { aVideo } from '../../core/model/doc.fixture'
import { takeIn } from '../../core/edit/operations'
import { database } from '../../storage/database'
import { deleteProject } from '../../storage/projects'
import { useProject } from './project'
import { useProjects } from '../projects'

beforeEach(() => setActivePinia(createPinia()))
afterEach(async () => {
  vi.restoreAllMocks()
  await Promise.all(database.tables.map((table) => table.clear()))
})

const fileOf = (text: string) => new File([text], 'bell.json')

/** A project with one clip, everything on disk. */
async function begun() {
  const project = useProject()
  const id = await project.create({ name: 'The Ninth Bell' })
  project.edit('take in', (doc) => takeIn(doc, [aVideo('hall', '3840x2160@25p', 12)]))
  await project.settled()
  return { project, id }
}

describe('the open project', () => {
  it('is on disk as soon as it is made, and comes back with its edits', async () => {
    const { id } = await begun()
    setActivePinia(createPinia())
    const again = useProject()
    expect(await again.open(id)).toBe(true)
    expect(again.clips.map((clip) => clip.id)).toEqual(['hall'])
    expect([again.undoLabel, again.saved]).toEqual(['take in', true])
    again.undo()
    expect(again.clips).toEqual([])
    expect(await again.open('nobody')).toBe(false)
    expect(again.doc).toBeNull()
  })

  it('waits for what is being written before another is opened', async () => {
    const { project, id } = await begun()
    const second = await project.create({ name: 'Second casting' })
    project.edit('rename', (doc) => void (doc.project.name = 'Third casting'))
    await project.open(id)
    await project.open(second)
    expect(project.doc?.project.name).toBe('Third casting')
  })

  it('comes out as a file and in again as a second project', async () => {
    const { project, id } = await begun()
    const text = project.exportFile()
    const result = await project.importFile(fileOf(text))
    expect(result).toEqual({ ok: true, id: expect.not.stringMatching(id) })
    expect(project.clips).toHaveLength(1)
    await project.list()
    expect(project.entries.map((entry) => [entry.name, entry.clips])).toEqual([
      ['The Ninth Bell', 1],
      ['The Ninth Bell', 1],
    ])
    await useProjects().remove(id, 'The Ninth Bell')
    await deleteProject(id)
    // What was removed may come in under its own id.
    expect(await project.importFile(fileOf(text))).toEqual({ ok: true, id })
  })

  it('is left alone by a file that is none', async () => {
    const { project, id } = await begun()
    expect(await project.importFile(fileOf('Dear founder'))).toEqual({
      ok: false,
      error: expect.stringMatching(/^bell\.json: /),
    })
    expect(project.doc?.project.id).toBe(id)
  })

  it('is closed when it is removed, and stays open when another is', async () => {
    const { project, id } = await begun()
    const second = await project.create({ name: 'Second casting' })
    await useProjects().remove(id, 'The Ninth Bell')
    expect(project.doc?.project.id).toBe(second)
    await useProjects().remove(second, 'Second casting')
    expect([project.doc, project.entries]).toEqual([null, []])
  })

  it('is there and says so when it cannot be written, and is written once it can', async () => {
    const put = vi.spyOn(database.projects, 'put').mockRejectedValue(new Error('The disk is full.'))
    const project = useProject()
    const id = await project.create({ name: 'The Ninth Bell' })
    expect(project.trouble).toBe('The disk is full.')
    project.edit('take in', (doc) => takeIn(doc, [aVideo('hall', '3840x2160@25p', 12)]))
    put.mockRestore()
    await project.settled()
    expect([project.trouble, project.saved]).toEqual([null, true])
    setActivePinia(createPinia())
    expect(await useProject().open(id)).toBe(true)
    expect(useProject().clips).toHaveLength(1)
  })
})
