import { type Result, failure } from '../../core/result'
import { type Clip } from '../../core/model/clip'
import { type Timeline } from '../../core/model/timeline'
import type { Patch } from 'immer'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { present } from '../../core/assert'
import { type Beginning, begin } from '../../core/edit/begin'
import { change } from '../../core/edit/change'
import { resettle } from '../../core/edit/correction'
import { type Doc, inOrder, timelinesOf } from '../../core/model/project'
import { writeProjectFile } from '../../core/stored/project-file'
import { copyMedia } from '../../storage/media'
import type { PutAsideRow } from '../../storage/database'
import { type LoadedProject, type ProjectEntry, listProjects, saveTouched } from '../../storage/projects'
import { thisTab } from '../../storage/tabs'
import { storageError } from '../../storage/error'
import { loadOffPage, takeInOffPage } from '../../workers/loading'
import { useDocument } from './document'
import { useWriting } from './writer'
import type { Journal } from '../../storage/schema'

export const newId = (): string => crypto.randomUUID().slice(0, 13)
export const timeNow = (): string => new Date().toISOString()

/** The open project: its document, every edit of it, undo and redo, and its way into storage. */
export const useProject = defineStore('project', () => {
  /** Whether what the browser had kept was gone, and all was written anew. */
  const wasCleared = ref(false)
  async function save(changed: Doc, patches: readonly Patch[], journal: readonly Journal[], ahead: number) {
    try {
      const written = await saveTouched(changed, patches, journal, thisTab, ahead)
      if (written.anew) wasCleared.value = true
      writing.wasWritten(changed.project.id, written.revision, patches, ahead)
    } catch (error) {
      throw new Error(storageError(error), { cause: error })
    }
  }
  const { doc, show, add, settled, resume, forget, receive, ...history } = useDocument<Doc>({
    save,
    // What was measured of a clip stays, whatever is undone of it.
    follows: (draft, patches) =>
      resettle(
        draft,
        patches.flatMap(({ path: [part, id] }) => (part === 'clips' && id !== undefined ? String(id) : [])),
      ),
    clock: timeNow,
    writeAhead: (changed, patches, journal) => writing.writeAhead(changed.project.id, { patches, journal }),
    change: (before, recipe) => change(before, recipe, newId),
  })
  const entries = ref<ProjectEntry[]>([])
  /** What of the open project could not be read any more, as it was. */
  const putAside = shallowRef<readonly PutAsideRow[]>([])
  const writing = useWriting({
    id: () => doc.value?.project.id ?? null,
    owing: () => history.unsaved.value.map((document) => document.doc.project.id),
    readOnly: history.readOnly,
    trouble: history.trouble,
    settled,
    receive,
    readAgain,
  })
  async function readAgain(id: string, mayWrite: boolean): Promise<void> {
    const loaded = await loadOffPage(id, timeNow(), mayWrite)
    if (!loaded || doc.value?.project.id !== id) return
    showLoaded(loaded, mayWrite)
  }
  function showLoaded(loaded: LoadedProject, mayWrite: boolean): void {
    writing.wasRead(loaded.revision)
    show(loaded.doc, !mayWrite, loaded.past)
    putAside.value = loaded.putAside
  }

  /** The open project. @throws Error where none is: its places are only shown while one is */
  const opened = computed<Doc>(() => present(doc.value, 'a project is open while its places are shown'))
  // An edit of a timeline leaves the clips what they are: of 25 000, whoever looks through them does not do so at each step.
  const clipTable = computed(() => doc.value?.clips)
  const clipOrder = computed(() => doc.value?.project.clipOrder)
  const clips = computed<Clip[]>(() =>
    clipTable.value && clipOrder.value ? inOrder(clipOrder.value, clipTable.value) : [],
  )
  const timelines = computed<Timeline[]>(() => (doc.value ? timelinesOf(doc.value) : []))
  const format = computed(() => doc.value?.project.format ?? null)

  /** Opens a project; false where there is none of this id. */
  async function open(id: string): Promise<boolean> {
    if (doc.value?.project.id === id && !history.readOnly.value) return true
    await settled()
    leaveOpen()
    // What could not be written is only here: it is opened as it was left.
    if (resume(({ project }) => project.id === id)) return true
    return openLoaded(id, (mayWrite) => loadOffPage(id, timeNow(), mayWrite))
  }

  function leaveOpen(): void {
    writing.stopFollowing()
    wasCleared.value = false
    putAside.value = []
  }
  /** Opens a project as it is loaded; false where there is nothing to load. */
  async function openLoaded(
    id: string,
    load: (mayWrite: boolean) => Promise<LoadedProject | null>,
  ): Promise<boolean> {
    const mayWrite = await writing.takeLeave(id)
    const loaded = await load(mayWrite)
    if (loaded) showLoaded(loaded, mayWrite)
    else show(null)
    if (!loaded) writing.giveBack()
    else if (!mayWrite) writing.follow(id)
    return loaded !== null
  }

  /** Opens a document that is not on disk yet, and has leave to write it. */
  async function begun(created: Doc): Promise<void> {
    await settled()
    await writing.takeLeave(created.project.id)
    putAside.value = []
    await add(created)
  }

  /** Opens a project that takes another one over: its pictures, and leave to open its files, go along. @returns its id */
  async function takeOver(copy: Doc): Promise<string> {
    const from = doc.value?.project.id
    if (from) await copyMedia(from, copy.project.id)
    await begun(copy)
    return copy.project.id
  }

  /** Makes a project as it was begun, and opens it. @returns its id */
  async function create(beginning: Beginning): Promise<string> {
    const created = begin(newId(), timeNow(), beginning)
    await begun(created)
    return created.project.id
  }

  /**
   * Takes a project file in as a project of its own, and opens it; where nothing can be kept it is opened all the same.
   * @returns its id, or what is wrong with the file
   */
  async function importFile(file: File): Promise<Result<{ id: string }>> {
    await settled()
    const taken = await takeInOffPage(file, { freshId: newId(), at: timeNow(), writer: thisTab })
    if (!taken.ok) return failure(`${file.name}: ${taken.error}`)
    const { loaded, isKept } = taken
    const { id } = loaded.doc.project
    leaveOpen()
    if (isKept) await openLoaded(id, async () => loaded)
    else await begun(loaded.doc)
    return { ok: true, id }
  }
  /** The open project as a file, or another document. */
  const exportFile = (document = doc.value): string => (document ? writeProjectFile(document) : '')

  /** Lets go of a project that is to be deleted, unless another tab writes it. @returns whether it is let go */
  async function putAway(id: string): Promise<boolean> {
    if (!(await writing.takeLeave(id))) return false
    await settled()
    if (doc.value?.project.id === id) show(null)
    forget(({ project }) => project.id === id)
    writing.giveBack()
    return true
  }

  async function list(): Promise<void> {
    entries.value = await listProjects()
  }

  return {
    ...history,
    takeOverWriting: writing.takeOverWriting,
    answer: writing.answer,
    otherVersion: writing.otherVersion,
    wasCleared,
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
    putAway,
    list,
  }
})
