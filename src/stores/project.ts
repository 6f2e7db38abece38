import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { type Beginning, begin } from '../core/edit/begin'
import { type Clip, type Doc, type Timeline, clipsOf, timelinesOf } from '../core/edit/project'
import { readProjectFile, writeProjectFile } from '../core/exchange/project-file'
import type { PutAsideRow } from '../storage/database'
import { type WriteLeave, leaveToWrite } from '../storage/lock'
import {
  type ProjectEntry,
  deleteProject,
  keepPutAside,
  listProjects,
  loadProject,
  saveTouched,
} from '../storage/projects'
import { useHistory } from './history'

export const newId = (): string => crypto.randomUUID().slice(0, 13)
export const now = (): string => new Date().toISOString()

/** The open project: its document, every edit of it, undo and redo, and its way into storage. */
export const useProject = defineStore('project', () => {
  const { doc, show, add, settled, ...history } = useHistory<Doc>(saveTouched)
  const entries = ref<ProjectEntry[]>([])
  /** What of the open project could not be read any more, as it was. */
  const putAside = shallowRef<readonly PutAsideRow[]>([])
  /** Leave to write the open project; null where another tab has it. */
  let leave: WriteLeave | null = null

  const clips = computed<Clip[]>(() => (doc.value ? clipsOf(doc.value) : []))
  const timelines = computed<Timeline[]>(() => (doc.value ? timelinesOf(doc.value) : []))
  const format = computed(() => doc.value?.project.format ?? null)

  /** Opens a project; false where there is none of this id. */
  async function open(id: string): Promise<boolean> {
    if (doc.value?.project.id === id && !history.readOnly.value) return true
    await settled()
    leave?.release()
    leave = await leaveToWrite(id)
    const loaded = await loadProject(id, now(), leave !== null)
    show(loaded?.doc ?? null, leave === null)
    putAside.value = loaded?.putAside ?? []
    return loaded !== null
  }

  /** Opens a document that is not on disk yet, and has leave to write it. */
  async function begun(created: Doc): Promise<void> {
    await settled()
    leave?.release()
    leave = await leaveToWrite(created.project.id)
    putAside.value = []
    await add(created)
  }

  /** Makes a project as it was begun, and opens it. @returns its id */
  async function create(beginning: Beginning): Promise<string> {
    const created = begin(newId(), now(), beginning)
    await begun(created)
    return created.project.id
  }

  /** Takes a project file in as a project of its own. @returns its id, or what is wrong with the file */
  async function importFile(file: File): Promise<{ id: string } | { error: string }> {
    const text = await file.text().catch(() => null)
    if (text === null) return { error: `${file.name} could not be read. Nothing was changed.` }
    const result = readProjectFile(text)
    if (!result.ok) return { error: `${file.name}: ${result.error}` }
    const taken = (await listProjects()).some((entry) => entry.id === result.doc.project.id)
    // A project that is here already is not overwritten: the file becomes a second one.
    const id = taken ? newId() : result.doc.project.id
    const imported: Doc = { ...result.doc, project: { ...result.doc.project, id } }
    await begun(imported)
    if (result.putAside.length) {
      await keepPutAside(id, now(), result.putAside)
      putAside.value = result.putAside.map((row) => ({ ...row, projectId: id, at: now() }))
    }
    return { id }
  }

  const exportFile = (): string => (doc.value ? writeProjectFile(doc.value) : '')

  /** Deletes a project, unless another tab writes it. @returns whether it is gone */
  async function remove(id: string): Promise<boolean> {
    const mine = doc.value?.project.id === id && !history.readOnly.value
    const toDelete = mine ? leave : await leaveToWrite(id)
    if (!toDelete) return false
    if (doc.value?.project.id === id) show(null)
    await deleteProject(id)
    toDelete.release()
    if (mine) leave = null
    await list()
    return true
  }

  async function list(): Promise<void> {
    entries.value = await listProjects()
  }

  return {
    ...history,
    doc,
    settled,
    entries,
    putAside,
    clips,
    timelines,
    format,
    open,
    create,
    importFile,
    exportFile,
    remove,
    list,
  }
})
