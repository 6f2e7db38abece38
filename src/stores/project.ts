import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { type Beginning, begin } from '../core/edit/begin'
import { type Clip, type Doc, type Timeline, clipsOf, timelinesOf } from '../core/edit/project'
import { readProjectFile, writeProjectFile } from '../core/exchange/project-file'
import { type ProjectEntry, deleteProject, listProjects, loadDoc, saveTouched } from '../storage/projects'
import { useHistory } from './history'

export const newId = (): string => crypto.randomUUID().slice(0, 13)
export const now = (): string => new Date().toISOString()

/** The open project: its document, every edit of it, undo and redo, and its way into storage. */
export const useProject = defineStore('project', () => {
  const { doc, show, add, settled, ...history } = useHistory<Doc>(saveTouched)
  const entries = ref<ProjectEntry[]>([])

  const clips = computed<Clip[]>(() => (doc.value ? clipsOf(doc.value) : []))
  const timelines = computed<Timeline[]>(() => (doc.value ? timelinesOf(doc.value) : []))
  const format = computed(() => doc.value?.project.format ?? null)

  /** Opens a project; false where there is none of this id. */
  async function open(id: string): Promise<boolean> {
    if (doc.value?.project.id === id) return true
    await settled()
    const loaded = await loadDoc(id)
    show(loaded)
    return loaded !== null
  }

  /** Makes a project as it was begun, and opens it. @returns its id */
  async function create(beginning: Beginning): Promise<string> {
    const created = begin(newId(), now(), beginning)
    await add(created)
    return created.project.id
  }

  /** Takes a project file in as a project of its own. @returns its id, or what is wrong with the file */
  async function importFile(file: File): Promise<{ id: string } | { error: string }> {
    const text = await file.text().catch(() => null)
    if (text === null) return { error: `${file.name} could not be read. Nothing was changed.` }
    const result = readProjectFile(text)
    if (!result.ok) return { error: `${file.name}: ${result.error}` }
    const taken = await loadDoc(result.doc.project.id)
    // A project that is here already is not overwritten: the file becomes a second one.
    const id = taken ? newId() : result.doc.project.id
    const imported: Doc = { ...result.doc, project: { ...result.doc.project, id } }
    await add(imported)
    return { id }
  }

  const exportFile = (): string => (doc.value ? writeProjectFile(doc.value) : '')

  async function remove(id: string): Promise<void> {
    if (doc.value?.project.id === id) show(null)
    await deleteProject(id)
    await list()
  }

  async function list(): Promise<void> {
    entries.value = await listProjects()
  }

  return {
    ...history,
    doc,
    settled,
    entries,
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
