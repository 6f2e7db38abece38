import { type Patch, applyPatches, enablePatches, produceWithPatches } from 'immer'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { type Clip, type Doc, type Timeline, clipsOf, newProject, timelinesOf } from '../core/edit/project'
import { readProjectFile, writeProjectFile } from '../core/exchange/project-file'
import {
  type ProjectEntry,
  deleteProject,
  listProjects,
  loadDoc,
  saveDoc,
  saveTouched,
} from '../storage/projects'

enablePatches()

/** One step that can be undone. */
interface Step {
  readonly label: string
  readonly patches: Patch[]
  readonly inverse: Patch[]
  /** Steps that follow each other with the same word are one. */
  readonly joins?: string
}

export const newId = (): string => crypto.randomUUID().slice(0, 13)
export const now = (): string => new Date().toISOString()

/** The open project: its document, every edit of it, undo and redo, and its way into storage. */
export const useProject = defineStore('project', () => {
  const doc = shallowRef<Doc | null>(null)
  const entries = ref<ProjectEntry[]>([])
  const done = shallowRef<readonly Step[]>([])
  const undone = shallowRef<readonly Step[]>([])
  /** Whether everything is on disk. */
  const unsaved = ref(0)
  let saving: Promise<unknown> = Promise.resolve()

  const clips = computed<Clip[]>(() => (doc.value ? clipsOf(doc.value) : []))
  const timelines = computed<Timeline[]>(() => (doc.value ? timelinesOf(doc.value) : []))
  const format = computed(() => doc.value?.project.format ?? null)
  const undoLabel = computed(() => done.value.at(-1)?.label ?? null)
  const redoLabel = computed(() => undone.value.at(-1)?.label ?? null)

  function persist(work: () => Promise<unknown>) {
    unsaved.value++
    saving = saving.then(work).finally(() => unsaved.value--)
    return saving
  }

  /**
   * Changes the document by a recipe, as one step that can be undone.
   * @param joins steps that follow each other with the same word are undone together
   */
  function edit(label: string, recipe: (draft: Doc) => void, joins?: string): void {
    if (!doc.value) return
    const [next, patches, inverse] = produceWithPatches(doc.value, (draft: Doc) => recipe(draft))
    if (patches.length === 0) return
    doc.value = next
    const last = done.value.at(-1)
    if (joins && last?.joins === joins) {
      const step = {
        label,
        joins,
        patches: [...last.patches, ...patches],
        inverse: [...inverse, ...last.inverse],
      }
      done.value = [...done.value.slice(0, -1), step]
    } else done.value = [...done.value, { label, joins, patches, inverse }]
    undone.value = []
    void persist(() => saveTouched(next, patches))
  }

  /** Moves one step between what is done and what is undone, and applies its patches. */
  function shift(from: typeof done, to: typeof done, patchesOf: (step: Step) => Patch[]): string | null {
    const step = from.value.at(-1)
    if (!step || !doc.value) return null
    const next = applyPatches(doc.value, patchesOf(step))
    doc.value = next
    from.value = from.value.slice(0, -1)
    to.value = [...to.value, step]
    void persist(() => saveTouched(next, patchesOf(step)))
    return step.label
  }
  const undo = () => shift(done, undone, (step) => step.inverse)
  const redo = () => shift(undone, done, (step) => step.patches)

  function show(next: Doc | null) {
    doc.value = next
    done.value = []
    undone.value = []
  }

  /** Opens a project; false where there is none of this id. */
  async function open(id: string): Promise<boolean> {
    if (doc.value?.project.id === id) return true
    await saving
    const loaded = await loadDoc(id)
    show(loaded)
    return loaded !== null
  }

  async function create(name: string): Promise<string> {
    const created: Doc = { project: newProject(newId(), name, now()), clips: {}, timelines: {} }
    await saveDoc(created)
    show(created)
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
    await saveDoc(imported)
    show(imported)
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
    doc,
    entries,
    clips,
    timelines,
    format,
    undoLabel,
    redoLabel,
    unsaved,
    edit,
    undo,
    redo,
    open,
    create,
    importFile,
    exportFile,
    remove,
    list,
    settled: () => saving,
  }
})
