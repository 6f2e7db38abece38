import { type Clip } from '../core/edit/clip'
import { type Timeline } from '../core/edit/timeline'
import type { Patch } from 'immer'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { present } from '../core/assert'
import { type Beginning, begin } from '../core/edit/begin'
import { resettle } from '../core/edit/correction'
import { type Doc, clipsOf, timelinesOf } from '../core/edit/project'
import { type ProjectFileResult, readProjectFile, writeProjectFile } from '../core/exchange/project-file'
import { copyMedia } from '../storage/media'
import type { PutAsideRow } from '../storage/database'
import { type WriteLeave, leaveByForce, leaveToWrite, leaveWhenFree } from '../storage/lock'
import {
  type ProjectEntry,
  listProjects,
  saveTouched,
  takeForWriting,
  takeInProject,
} from '../storage/projects'
import { type TabWord, hearTabs, tellTabs, thisTab } from '../storage/tabs'
import { storageTrouble } from '../storage/trouble'
import { loadOffPage, takeInOffPage } from '../workers/loading'
import { type JournalEntry, useHistory } from './history'

export const newId = (): string => crypto.randomUUID().slice(0, 13)
export const now = (): string => new Date().toISOString()

/** The open project: its document, every edit of it, undo and redo, and its way into storage. */
export const useProject = defineStore('project', () => {
  /** How often the open project was written, as far as this tab knows. */
  let revision = 0
  /** Whether what the browser had kept was gone, and all was written anew. */
  const wasCleared = ref(false)
  async function save(changed: Doc, patches: readonly Patch[], journal: readonly JournalEntry[]) {
    const projectId = changed.project.id
    try {
      const written = await saveTouched(changed, patches, journal, thisTab)
      if (written.anew) wasCleared.value = true
      if (projectId === doc.value?.project.id) revision = written.revision
      tellTabs({ kind: 'written', projectId, revision: written.revision, patches })
    } catch (error) {
      throw new Error(storageTrouble(error), { cause: error })
    }
  }
  const { doc, show, add, settled, resume, forget, receive, giveUp, ...history } = useHistory<Doc>(
    save,
    // What was measured of a clip stays, whatever is undone of it.
    (draft, patches) =>
      resettle(
        draft,
        patches.flatMap(({ path: [part, id] }) => (part === 'clips' && id !== undefined ? String(id) : [])),
      ),
    now,
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
    return leaves.has(id) || hold(id, await leaveToWrite(id))
  }
  /** Has leave to write a project, until it is given back or taken away. */
  async function hold(id: string, leave: WriteLeave | null): Promise<boolean> {
    if (!leave) return false
    leaves.set(id, leave)
    // Where nothing can be kept, nobody else keeps anything either.
    await takeForWriting(id, thisTab).catch(() => {})
    void leave.lost.then(() => {
      if (leaves.get(id) !== leave) return
      leaves.delete(id)
      if (doc.value?.project.id !== id) return
      giveUp()
      follow(id)
    })
    return true
  }

  /** The wait for leave to write the project that is only read here. */
  let waiting = new AbortController()
  /** What came of the last wish to write here; null while there was none. */
  const answer = ref<string | null>(null)
  /** Follows what another tab writes, and writes itself as soon as that one is gone. */
  function follow(id: string): void {
    waiting.abort()
    waiting = new AbortController()
    const { signal } = waiting
    void leaveWhenFree(id, signal).then(async (leave) => {
      if (!leave) return
      if (signal.aborted || doc.value?.project.id !== id) return leave.release()
      await writeHere(id, leave)
    })
  }
  /** Writes the open project here from now on, as it was last written there. */
  async function writeHere(id: string, leave: WriteLeave): Promise<void> {
    waiting.abort()
    await hold(id, leave)
    await readAgain(id, true)
    answer.value = null
  }
  async function readAgain(id: string, mayWrite: boolean): Promise<void> {
    const loaded = await loadOffPage(id, now(), mayWrite)
    if (!loaded || doc.value?.project.id !== id) return
    revision = loaded.revision
    show(loaded.doc, !mayWrite, loaded.past)
    putAside.value = loaded.putAside
  }

  /** So long a tab that is alive takes to answer, in milliseconds. */
  const patience = 3000
  /** Another tab says that it lets a project go, or why not. */
  let heard: (word: Extract<TabWord, { kind: 'gives' | 'keeps' }>) => void = () => {}
  hearTabs((word) => void listen(word))
  async function listen(word: TabWord): Promise<void> {
    const { projectId, from } = word
    if (projectId !== doc.value?.project.id) return
    switch (word.kind) {
      case 'written':
        if (!history.readOnly.value) return
        // What was missed in between is read whole.
        if (word.revision === revision + 1) receive(word.patches)
        else if (word.revision > revision) return readAgain(projectId, false)
        revision = Math.max(revision, word.revision)
        return
      case 'asks': {
        const leave = leaves.get(projectId)
        if (!leave || history.readOnly.value) return
        giveUp()
        await settled()
        const why = history.trouble.value
        if (why) history.readOnly.value = false
        else
          setTimeout(() => {
            // Nobody took it: it is written here as before.
            if (leaves.get(projectId) === leave && doc.value?.project.id === projectId)
              history.readOnly.value = false
          }, patience)
        return tellTabs(
          why ? { kind: 'keeps', projectId, to: from, why } : { kind: 'gives', projectId, to: from },
        )
      }
      default:
        if (word.to === thisTab) heard(word)
    }
  }
  /**
   * Writes the open project here and lets other tabs follow. The one that has it is asked first.
   * @param force takes it from a tab that does not answer; what that one has not written is lost, and told there
   */
  async function takeOverWriting(force = false): Promise<void> {
    const id = doc.value?.project.id
    if (!id || !history.readOnly.value) return
    const word = await new Promise<TabWord | null>((answered) => {
      if (force) return answered(null)
      heard = answered
      setTimeout(() => answered(null), patience)
      tellTabs({ kind: 'asks', projectId: id })
    })
    if (word?.kind === 'keeps')
      return void (answer.value = `The other tab keeps it, since its last changes are not saved: ${word.why}`)
    if (!word && !force)
      return void (answer.value =
        'The other tab does not answer. Taken all the same, what it has not saved is lost.')
    const leave = await leaveByForce(id)
    if (leave) await writeHere(id, leave)
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
    waiting.abort()
    wasCleared.value = false
    putAside.value = []
    // What could not be written is only here: it is opened as it was left.
    if (resume(({ project }) => project.id === id)) return true
    const mayWrite = await takeLeave(id)
    const loaded = await loadOffPage(id, now(), mayWrite)
    revision = loaded?.revision ?? 0
    answer.value = null
    show(loaded?.doc ?? null, !mayWrite, loaded?.past)
    putAside.value = loaded?.putAside ?? []
    if (!loaded) giveBack()
    else if (!mayWrite) follow(id)
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

  /**
   * Takes a project file in as a project of its own, and opens it; where nothing can be kept it is opened all the same.
   * @returns its id, or what is wrong with the file
   */
  async function importFile(file: File): Promise<{ id: string } | { error: string }> {
    await settled()
    const taken = await takeInOffPage(file, newId(), now(), thisTab).catch(() => inMemory(file))
    if ('error' in taken) return { error: `${file.name}: ${taken.error}` }
    await open(taken.id)
    return taken
  }
  async function inMemory(file: File): Promise<{ id: string } | { error: string }> {
    const text = await file.text().catch(() => null)
    if (text === null) return { error: 'it could not be read. Nothing was changed.' }
    const result = readProjectFile(text)
    if (!result.ok) return { error: result.error }
    await begun(result.doc)
    return { id: result.doc.project.id }
  }
  /** Takes in a project that was read from a file, and opens it. @returns its id */
  async function takeIn(result: Extract<ProjectFileResult, { ok: true }>): Promise<string> {
    await settled()
    const id = await takeInProject(result, newId(), now(), thisTab)
    await open(id)
    return id
  }

  /** The open project as a file, or another document. */
  const exportFile = (of = doc.value): string => (of ? writeProjectFile(of) : '')

  /** Lets go of a project that is to be deleted, unless another tab writes it. @returns whether it is let go */
  async function putAway(id: string): Promise<boolean> {
    if (!(await takeLeave(id))) return false
    await settled()
    if (doc.value?.project.id === id) show(null)
    forget(({ project }) => project.id === id)
    giveBack()
    return true
  }

  async function list(): Promise<void> {
    entries.value = await listProjects()
  }

  return {
    ...history,
    takeOverWriting,
    answer,
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
    takeIn,
    putAway,
    list,
  }
})
