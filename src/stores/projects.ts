import { deepEqual } from '../core/equality'
import { failure } from '../core/result'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { differencesBetween } from '../core/check/differences'
import { type Doc } from '../core/model/project'
import { type BackedUp, readBackup, writeBackup } from '../core/stored/backup-file'
import { writeProjectFile } from '../core/stored/project-file'
import { backupFolder, mayWrite, setBackupFolder, writeBackupInto } from '../storage/backups'
import { whileNobodyElse } from '../storage/lock'
import {
  deleteProject,
  deletedProjects,
  duplicateProject,
  markDeleted,
  noteOpening,
  renameProject,
  freeId,
  takeInProject,
  withId,
} from '../storage/projects'
import { thisTab } from '../storage/tabs'
import { storageError } from '../storage/error'
import { loadOffPage } from '../workers/loading'
import { newId, timeNow, useProject } from './document/project'
import { changeProject } from '../core/edit/settings'

/** A project of a backup beside what is here of it. */
export interface Restorable {
  readonly project: BackedUp
  readonly name: string
  readonly state: 'same' | 'differs' | 'not-here' | 'unreadable'
  /** What is another in the backup than here, in words; why it cannot be read. */
  readonly says: readonly string[]
}

/** The projects that are kept in this browser: found, named, copied, put away, backed up and brought back. */
export const useProjects = defineStore('projects', () => {
  const project = useProject()
  const query = ref('')
  const trouble = ref<string | null>(null)
  /** What was deleted last and can be brought back. */
  const deleted = shallowRef<{ readonly id: string; readonly name: string } | null>(null)
  const found = computed(() => {
    const sought = query.value.trim().toLowerCase()
    return project.entries.filter(({ name }) => name.toLowerCase().includes(sought))
  })

  async function attempt(act: () => Promise<unknown>): Promise<void> {
    trouble.value = null
    try {
      await act()
      await project.list()
    } catch (error) {
      trouble.value = storageError(error)
    }
  }

  const list = () =>
    attempt(async () => {
      // What was put away by tabs that are closed goes for good.
      for (const id of await deletedProjects())
        await whileNobodyElse(`deleted ${id}`, () => deleteProject(id))
    })

  const rename = (id: string, name: string) =>
    attempt(async () => {
      const wanted = name.trim()
      if (!wanted) return
      if (project.doc?.project.id === id && !project.readOnly) {
        project.edit(`call the project ${wanted}`, (doc) => changeProject(doc, { name: wanted }))
        return project.settled()
      }
      const done = await whileNobodyElse(`project ${id}`, () => renameProject(id, wanted))
      if (!done) trouble.value = 'Another tab has this project open: it can be named there.'
    })
  const duplicate = (id: string, name: string) =>
    attempt(async () => {
      await project.settled()
      await duplicateProject(id, newId(), `${name}, copy`, timeNow())
    })
  /** Puts a project away; until this page closes it can be brought back. */
  const remove = (id: string, name: string) =>
    attempt(async () => {
      if (!(await project.putAway(id)))
        return void (trouble.value = 'Another tab has this project open: close it there first.')
      void whileNobodyElse(`deleted ${id}`, () => new Promise(() => {}))
      await markDeleted(id, timeNow())
      deleted.value = { id, name }
    })
  const bringBack = () =>
    attempt(async () => {
      if (deleted.value) await markDeleted(deleted.value.id, null)
      deleted.value = null
    })

  /** Notes that the open project was opened, and what footage it has. */
  async function note(): Promise<void> {
    const { doc } = project
    if (!doc) return
    const clips = Object.values(doc.clips).filter(({ fault }) => !fault)
    const seconds = clips
      .filter(({ reading }) => reading?.kind === 'video')
      .reduce((sum, { reading }) => sum + (reading?.durationSec ?? 0), 0)
    const bytes = clips.reduce((sum, { sizeBytes }) => sum + sizeBytes, 0)
    await noteOpening({ projectId: doc.project.id, openedAt: timeNow(), seconds, bytes }).catch(() => {})
  }

  async function kept(ids: readonly string[]): Promise<Doc[]> {
    await project.settled()
    const docs: Doc[] = []
    for (const id of ids) {
      const loaded = await loadOffPage(id, timeNow(), false)
      if (loaded) docs.push(loaded.doc)
    }
    return docs
  }
  /** Some projects, or all, as one file. */
  const backUp = async (ids: readonly string[]): Promise<string> => writeBackup(await kept(ids), timeNow())

  /** What is in a backup, beside what is here. */
  async function open(file: File): Promise<Restorable[]> {
    trouble.value = null
    const text = await file.text().catch(() => null)
    const read = text === null ? failure('it could not be read. Nothing was changed.') : readBackup(text)
    if (!read.ok) {
      trouble.value = `${file.name}: ${read.error}`
      return []
    }
    return Promise.all(read.projects.map(beside))
  }
  async function beside(projectFileResult: BackedUp): Promise<Restorable> {
    if (!projectFileResult.ok)
      return {
        project: projectFileResult,
        name: 'a project',
        state: 'unreadable',
        says: [projectFileResult.error],
      }
    const { name, id } = projectFileResult.doc.project
    const here = (await loadOffPage(id, timeNow(), false))?.doc
    if (!here || (await deletedProjects()).includes(id))
      return { project: projectFileResult, name, state: 'not-here', says: [] }
    const same = deepEqual(here, projectFileResult.doc)
    const says = same ? [] : differencesBetween(here, projectFileResult.doc)
    return {
      project: projectFileResult,
      name,
      state: same ? 'same' : 'differs',
      says: same || says.length ? says : ['facts of clips'],
    }
  }
  /** Takes projects of a backup in, each as one of its own: nothing here is overwritten. */
  const restore = (restorables: readonly Restorable[]) =>
    attempt(async () => {
      for (const { project: result } of restorables) {
        if (!result.ok) continue
        const doc = withId(result.doc, await freeId(result.doc.project.id, newId()))
        await takeInProject({ doc, putAside: result.putAside }, timeNow(), thisTab)
      }
    })

  /** The folder that backups go to by themselves, and how that stands. */
  const folder = shallowRef<FileSystemDirectoryHandle | null>(null)
  const folderStands = ref<'none' | 'ready' | 'asks'>('none')
  /** When the open project was last backed up there, and under which name. */
  const lastBackup = ref<string | null>(null)
  let backedUp: Doc | null = null
  async function findFolder(): Promise<void> {
    folder.value = await backupFolder().catch(() => null)
    folderStands.value = !folder.value ? 'none' : (await mayWrite(folder.value)) ? 'ready' : 'asks'
  }
  async function chooseFolder(handle: FileSystemDirectoryHandle | null): Promise<void> {
    await setBackupFolder(handle)
    await findFolder()
    if (folder.value) await backUpNow()
  }
  async function allowFolder(): Promise<void> {
    if (folder.value && (await mayWrite(folder.value, true))) folderStands.value = 'ready'
  }
  /** Backs the open project up into the folder, where it changed since. */
  async function backUpNow(): Promise<void> {
    const { doc } = project
    if (!doc || !folder.value || folderStands.value !== 'ready' || doc === backedUp) return
    try {
      lastBackup.value = await writeBackupInto(folder.value, doc.project, writeProjectFile(doc), timeNow())
      backedUp = doc
    } catch (error) {
      trouble.value = `The backup could not be written. ${storageError(error)}`
      folderStands.value = 'asks'
    }
  }

  return {
    query,
    found,
    trouble,
    deleted,
    list,
    rename,
    duplicate,
    remove,
    bringBack,
    note,
    backUp,
    open,
    restore,
    folder,
    folderStands,
    lastBackup,
    findFolder,
    chooseFolder,
    allowFolder,
    backUpNow,
  }
})
