import type { Patch } from 'immer'
import { type Ref, ref, watch } from 'vue'
import { type WriteLock, stealWriteLock, requestWriteLock, writeLockWhenFree } from '../../storage/lock'
import { takeForWriting } from '../../storage/projects'
import { type TabMessage, onTabMessage, postToTabs, thisTab } from '../../storage/tabs'
import { recoverOffPage } from '../../workers/loading'
import { type WriteAhead, openWriteAhead } from '../../workers/write-ahead'
import type { AheadEntry } from '../../storage/schema'

/** So long a tab that is alive takes to answer, in milliseconds. */
const patience = 3000

/** Leave to write a project, and the log in which it is written ahead. */
interface Desk {
  readonly leave: WriteLock
  readonly log: WriteAhead
}

/** The project that is open, as far as it matters who writes it. */
interface Writable {
  /** The id of the open project; null where none is. */
  readonly id: () => string | null
  /** Ids of projects that were left with something unsaved. */
  readonly owing: () => readonly string[]
  readonly readOnly: Ref<boolean>
  /** Why the last changes could not be written; null where they were. */
  readonly trouble: Ref<string | null>
  /** Waits until everything is on disk. */
  readonly settled: () => Promise<void>
  /** Takes over what another tab wrote. */
  readonly receive: (patches: readonly Patch[]) => void
  /** Reads the open project anew, to write it from now on or to follow. */
  readonly readAgain: (id: string, mayWrite: boolean) => Promise<void>
}

/**
 * Who of several tabs writes a project: one has leave to, the others follow what it writes and take over when it lets go, closes or
 * dies.
 */
export function useWriting(open: Writable) {
  /** Projects that this tab writes: the open one, and those that were left with something unsaved. */
  const desks = new Map<string, Desk>()
  /** How often the open project was written, as far as this tab knows. */
  let revision = 0
  /** What came of the last wish to write here; null while there was none. */
  const answer = ref<string | null>(null)

  /** Gives back the leave of projects that are neither open nor owed anything. */
  function giveBack(): void {
    const kept = new Set(open.owing())
    for (const [id, { leave, log }] of desks) {
      if (id === open.id() || kept.has(id)) continue
      log.close()
      leave.release()
      desks.delete(id)
    }
  }
  watch([open.owing, open.id], giveBack, { flush: 'sync' })

  /** @returns whether this tab may write a project */
  async function takeLeave(id: string): Promise<boolean> {
    return desks.has(id) || hold(id, await requestWriteLock(id))
  }
  /** Has leave to write a project, until it is given back or taken away. */
  async function hold(id: string, leave: WriteLock | null): Promise<boolean> {
    if (!leave) return false
    // Where nothing can be kept, nobody else keeps anything either.
    await recoverOffPage(id, new Date().toISOString()).catch(() => {})
    const inThere = await takeForWriting(id, thisTab).catch(() => 0)
    const log = openWriteAhead(id, thisTab, inThere)
    desks.set(id, { leave, log })
    void leave.lost.then(() => {
      if (desks.get(id)?.leave !== leave) return
      log.close()
      desks.delete(id)
      if (open.id() !== id) return
      open.readOnly.value = true
      follow(id)
    })
    return true
  }

  /** The wait for leave to write the project that is only read here. */
  let waiting = new AbortController()
  const stopFollowing = () => waiting.abort()
  /** Follows what another tab writes, and writes itself as soon as that one is gone. */
  function follow(id: string): void {
    stopFollowing()
    waiting = new AbortController()
    const { signal } = waiting
    void writeLockWhenFree(id, signal).then(async (leave) => {
      if (!leave) return
      if (signal.aborted || open.id() !== id) return leave.release()
      await writeHere(id, leave)
    })
  }
  /** Writes the open project here from now on, as it was last written there. */
  async function writeHere(id: string, leave: WriteLock): Promise<void> {
    stopFollowing()
    await hold(id, leave)
    await open.readAgain(id, true)
    answer.value = null
  }

  /** Whether a tab of another version has the open project too: what it tells is not taken over. */
  const otherVersion = ref(false)
  const toldToReload = new Set<string>()
  /** Another tab says that it lets a project go, or why not. */
  let heard: (word: TabMessage) => void = () => {}
  onTabMessage({
    message(message) {
      if (message.projectId !== open.id()) return
      if (message.kind === 'written') void takeWritten(message)
      else if (message.kind === 'asks') void letGo(message)
      else if (message.to !== thisTab) return
      else if (message.kind === 'reload') otherVersion.value = true
      else heard(message)
    },
    foreign({ projectId, from, kind }) {
      if (projectId !== open.id()) return
      otherVersion.value = true
      // Said once to each: two versions would tell each other for ever.
      if (kind === 'reload' || toldToReload.has(from)) return
      toldToReload.add(from)
      postToTabs({ kind: 'reload', projectId, to: from })
    },
  })
  async function takeWritten(word: Extract<TabMessage, { kind: 'written' }>): Promise<void> {
    if (!open.readOnly.value || word.revision <= revision) return
    // What was missed in between is read whole.
    if (word.revision > revision + 1) return open.readAgain(word.projectId, false)
    open.receive(word.patches)
    revision = word.revision
  }
  async function letGo({ projectId, from: to }: TabMessage): Promise<void> {
    const desk = desks.get(projectId)
    if (!desk || open.readOnly.value) return
    open.readOnly.value = true
    await open.settled()
    const why = open.trouble.value
    if (why) {
      open.readOnly.value = false
      return postToTabs({ kind: 'keeps', projectId, to, why })
    }
    setTimeout(() => {
      // Nobody took it: it is written here as before.
      if (desks.get(projectId) === desk && open.id() === projectId) open.readOnly.value = false
    }, patience)
    postToTabs({ kind: 'gives', projectId, to })
  }

  /**
   * Writes the open project here and lets other tabs follow. The one that has it is asked first.
   * @param force takes it from a tab that does not answer; what that one has not written is lost, and told there
   */
  async function takeOverWriting(force = false): Promise<void> {
    const id = open.id()
    if (!id || !open.readOnly.value) return
    const word = await new Promise<TabMessage | null>((answered) => {
      if (force) return answered(null)
      heard = answered
      setTimeout(() => answered(null), patience)
      postToTabs({ kind: 'asks', projectId: id })
    })
    if (word?.kind === 'keeps') {
      answer.value = `The other tab keeps it, since its last changes are not saved: ${word.why}`
      return
    }
    if (!word && !force) {
      answer.value = 'The other tab does not answer. Taken all the same, what it has not saved is lost.'
      return
    }
    const leave = await stealWriteLock(id)
    if (leave) await writeHere(id, leave)
  }

  /** Notes that the open project was read as it stood after so many writings. */
  function wasRead(count: number): void {
    revision = count
    answer.value = null
  }
  /** Writes a change of a project down ahead of the database. @returns its number */
  const writeAhead = (projectId: string, change: Omit<AheadEntry, 'n'>): number =>
    desks.get(projectId)?.log.write(change) ?? 0
  /**
   * Notes that a project was written here, and tells the others.
   * @param ahead the number of the last change that was written
   */
  function wasWritten(projectId: string, count: number, patches: readonly Patch[], ahead: number): void {
    desks.get(projectId)?.log.settled(ahead)
    if (projectId === open.id()) revision = count
    postToTabs({ kind: 'written', projectId, revision: count, patches })
  }

  return {
    takeLeave,
    giveBack,
    follow,
    stopFollowing,
    takeOverWriting,
    answer,
    otherVersion,
    writeAhead,
    wasRead,
    wasWritten,
  }
}
