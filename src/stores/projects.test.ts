import 'fake-indexeddb/auto'
import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { aVideo } from '../core/model/doc.fixture'
import { takeIn } from '../core/edit/operations'
import { keptBackups, writeBackupInto } from '../storage/backups'
import { database } from '../storage/database'
import { useProject } from './document/project'
import { useProjects } from './projects'

beforeEach(() => setActivePinia(createPinia()))
afterEach(() => Promise.all(database.tables.map((table) => table.clear())))

async function begun(name = 'The Ninth Bell') {
  const project = useProject()
  const id = await project.create({ name })
  project.edit('take in', (doc) => takeIn(doc, [aVideo('hall', '3840x2160@25p', 12)]))
  await project.settled()
  return { project, projects: useProjects(), id }
}
const fileOf = (text: string) => new File([text], 'backup.json')
const names = () => useProjects().found.map(({ name }) => name)

describe('projects', () => {
  it('are listed by when they were opened, with their footage, and found by name', async () => {
    const { projects } = await begun()
    await projects.note()
    const { project } = await begun('Second casting')
    await projects.list()
    expect(project.entries.find(({ name }) => name === 'The Ninth Bell')?.opening).toMatchObject({
      seconds: 12,
      bytes: 1000,
    })
    projects.query = 'CAST'
    expect(names()).toEqual(['Second casting'])
  })

  it('are named anew, whether open or not; nothing is no name', async () => {
    const { projects, id } = await begun()
    await projects.rename(id, 'The Tenth Bell')
    expect(useProject().doc?.project.name).toBe('The Tenth Bell')
    await begun('Second casting')
    await projects.rename(id, ' The Ninth Bell ')
    await projects.rename(id, ' ')
    expect(names().sort()).toEqual(['Second casting', 'The Ninth Bell'])
  })

  it('are copied whole, and each goes its own way', async () => {
    const { projects, project, id } = await begun()
    await projects.duplicate(id, 'The Ninth Bell')
    expect(names().sort()).toEqual(['The Ninth Bell', 'The Ninth Bell, copy'])
    const copy = project.entries.find((entry) => entry.id !== id)!
    await project.open(copy.id)
    project.edit('count as key', (doc) => void (doc.clips.hall!.priority = 'key'))
    await project.open(id)
    expect(project.clips[0]!.priority).toBe('normal')
  })

  it('are put away and brought back until the page closes, then they are gone', async () => {
    const { projects, project, id } = await begun()
    await projects.remove(id, 'The Ninth Bell')
    expect([names(), project.doc]).toEqual([[], null])
    await projects.bringBack()
    expect(names()).toEqual(['The Ninth Bell'])
    await projects.remove(id, 'The Ninth Bell')
    setActivePinia(createPinia())
    await useProjects().list()
    expect(await database.projects.count()).toBe(0)
    expect(await database.clips.count()).toBe(0)
  })

  it('are backed up to one file and told apart when it comes back: the same, other, not here', async () => {
    const { projects, project, id } = await begun()
    await begun('Second casting')
    const text = await projects.backUp(
      project.entries.map((entry) => entry.id).concat(id, project.doc!.project.id),
    )
    await project.open(id)
    project.edit('count as key', (doc) => void (doc.clips.hall!.priority = 'key'))
    await project.settled()
    const offered = await projects.open(fileOf(text))
    expect(offered.map(({ name, state, says }) => [name, state, says])).toEqual([
      ['The Ninth Bell', 'differs', ['hall.mp4 counts as normal, not key']],
      ['Second casting', 'same', []],
    ])
    // What is here stays; what comes back is one of its own.
    await projects.restore(offered.filter(({ state }) => state === 'differs'))
    expect(names().sort()).toEqual(['Second casting', 'The Ninth Bell', 'The Ninth Bell'])
    expect(await projects.open(fileOf('Dear founder'))).toEqual([])
    expect(projects.trouble).toContain('backup.json')
  })

  it('of which one in a backup is damaged leave the others', async () => {
    const { projects, id } = await begun()
    const text = await projects.backUp([id])
    const damaged = text.replace('"projects":[', '"projects":[{"kind":"yard-tally-project","version":5},')
    const offered = await projects.open(fileOf(damaged))
    expect(offered.map(({ state }) => state)).toEqual(['unreadable', 'same'])
  })
})

describe('backups in a folder', () => {
  /** A folder that holds its files in memory. */
  function aFolder() {
    const files = new Map<string, string>()
    const folder = {
      kind: 'directory',
      getFileHandle: async (name: string) => ({
        createWritable: async () => ({
          write: async (text: string) => void files.set(name, text),
          close: async () => {},
        }),
      }),
      removeEntry: async (name: string) => void files.delete(name),
      async *values() {
        for (const name of files.keys()) yield { kind: 'file', name }
      },
    }
    return { files, folder: folder as unknown as FileSystemDirectoryHandle }
  }

  it('are the last ten of each project, under names that follow in time', async () => {
    const { files, folder } = aFolder()
    const bell = { id: 'p1', name: 'The Ninth/Bell' }
    for (let minute = 10; minute < 10 + keptBackups + 3; minute++)
      await writeBackupInto(folder, bell, `${minute}`, `2026-06-02T08:${minute}:00.000Z`)
    await writeBackupInto(folder, { id: 'p2', name: 'Second' }, 'other', '2026-06-02T07:00:00.000Z')
    const own = [...files.keys()].filter((name) => name.startsWith('The_Ninth_Bell_')).sort()
    expect(own).toHaveLength(keptBackups)
    expect(own[0]).toBe('The_Ninth_Bell_20260602-081300_p1.json')
    expect(files.size).toBe(keptBackups + 1)
  })
})
