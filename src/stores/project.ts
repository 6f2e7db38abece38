import { type Clip } from '../core/edit/clip'
import { type Timeline } from '../core/edit/timeline'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { present } from '../core/assert'
import { type Beginning, begin } from '../core/edit/begin'
import { resettle } from '../core/edit/correction'
import { type Doc, clipsOf, timelinesOf } from '../core/edit/project'
import { readProjectFile, writeProjectFile } from '../core/exchange/project-file'
import { copyMedia } from '../storage/media'
import type { PutAsideRow } from '../storage/database'
import { type WriteLeave, leaveToWrite } from '../storage/lock'
import {
  type ProjectEntry,
  deleteProject,
  keepPutAside,
  listProjects,
  saveTouched,
} from '../storage/projects'
import { loadOffPage } from '../workers/loading'
import { useHistory } from './history'

export const newId = (): string => crypto.randomUUID().slice(0, 13)
export const now = (): string => new Date().toISOString()

/** The open project: its document, every edit of it, undo and redo, and its way into storage. */
export const useProject = defineStore('project', () => {
  const { doc, show, add, settled, resume, forget, ...history } = useHistory<Doc>(
    saveTouched,
    // What was measured of a clip stays, whatever is undone of it.
    (draft, patches) =>
      resettle(
        draft,
        patches.flatMap(({ path: [part, id] }) => (part === 'clips' && id !== undefined ? String(id) : [])),
      ),
  )
  const entries = ref<ProjectEntry[]>([])
  /** What of the open project could not be read any more, as it was. */
  const putAside = shallowRef<readonly PutAsideRow[]>([])
  /** Leave to write projects: the open one, and those that were left with something unsaved. */
  const leaves = new Map<string, WriteLeave>()
  /** Gives back the leave of projects that are neither open nor owed anything. */
  function giveBack(): void {
    const kept = new Set(history.unsaved.value.map((one) => one.doc.project.id))
    for (const [id, leave] of leaves) {
      if (id === doc.value?.project.id || kept.has(id)) continue
      leave.release()
      leaves.delete(id)
    }
  }
  watch([history.unsaved, doc], giveBack, { flush: 'sync' })
  /** @returns whether this tab may write a project */
  async function takeLeave(id: string): Promise<boolean> {
    const leave = leaves.get(id) ?? (await leaveToWrite(id))
    if (leave) leaves.set(id, leave)
    return leave !== null
  }

  /** The open project. @throws Error where none is: its places are only shown while one is */
  const opened = computed<Doc>(() => present(doc.value, 'a project is open while its places are shown'))
  const clips = computed<Clip[]>(() => (doc.value ? clipsOf(doc.value) : []))
  const timelines = computed<Timeline[]>(() => (doc.value ? timelinesOf(doc.value) : []))
  const format = computed(() => doc.value?.project.format ?? null)

  /** Opens a project; false where there is none of this id. */
  async function open(id: string): Promise<boolean> {
    if (doc.value?.project.id === id && !history.readOnly.value) return true
    await settled()
    putAside.value = []
    // What could not be written is only here: it is opened as it was left.
    if (resume(({ project }) => project.id === id)) return true
    const mayWrite = await takeLeave(id)
    const loaded = await loadOffPage(id, now(), mayWrite)
    show(loaded?.doc ?? null, !mayWrite)
    putAside.value = loaded?.putAside ?? []
    if (!loaded) giveBack()
    return loaded !== null
  }

  /** Opens a document that is not on disk yet, and has leave to write it. */
  async function begun(created: Doc): Promise<void> {
    await settled()
    await takeLeave(created.project.id)
    putAside.value = []
    await add(created)
  }

  /** Opens a project that takes another one over: its pictures, and leave to open its files, go along. @returns its id */
  async function takeOver(made: Doc): Promise<string> {
    const from = doc.value?.project.id
    if (from) await copyMedia(from, made.project.id)
    await begun(made)
    return made.project.id
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

  /** The open project as a file, or another document. */
  const exportFile = (of = doc.value): string => (of ? writeProjectFile(of) : '')

  /** Deletes a project, unless another tab writes it. @returns whether it is gone */
  async function remove(id: string): Promise<boolean> {
    if (!(await takeLeave(id))) return false
    if (doc.value?.project.id === id) show(null)
    // Given back by the watch when the project was open: nobody else may write it before it is gone.
    await takeLeave(id)
    forget(({ project }) => project.id === id)
    await deleteProject(id)
    giveBack()
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
    opened,
    clips,
    timelines,
    format,
    open,
    create,
    takeOver,
    importFile,
    exportFile,
    remove,
    list,
  }
})
