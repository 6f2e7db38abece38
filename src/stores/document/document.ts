import type { Patch } from 'immer'
import type { StoredPast } from '../../storage/history'
import { type HistoryOptions, pastOf, useHistory } from './history'
import { type SavingOptions, useSaving } from './saving'

/** How a document is edited and where it is written. */
export type DocumentOptions<Doc> = SavingOptions<Doc> & Omit<HistoryOptions<Doc>, 'changed'>

/** A document with its history and its way to the disk. */
export function useDocument<Doc extends object>({ save, writeAhead, ...options }: DocumentOptions<Doc>) {
  const saving = useSaving<Doc>({ save, ...(writeAhead && { writeAhead }) })
  const history = useHistory<Doc>({ ...options, changed: saving.changed })
  const { open: openInHistory, past, receive: receiveInHistory, ...edits } = history
  const { open: openInSaving, resume: resumeInSaving, received, changed, showUnsaved, ...writes } = saving

  /** Opens another document, with the history that it was left with. What is unsaved of the one before stays to be written. */
  function show(next: Doc | null, onlyToRead = false, stored: StoredPast | null = null): void {
    openInSaving(next, past())
    openInHistory(next, onlyToRead, stored && pastOf(stored))
    // Who may write what is settled by what is open and what is unsaved: told when both are true.
    showUnsaved()
  }

  /** Opens a document again that was left with something unsaved, as it was left. @returns false where it was not */
  function resume(isIt: (doc: Doc) => boolean): boolean {
    const resumed = resumeInSaving(isIt, past())
    if (resumed) openInHistory(resumed.doc, false, resumed.past)
    showUnsaved()
    return resumed !== null
  }

  /** Takes over what another tab wrote into the document that is only read here. */
  function receive(patches: readonly Patch[]): void {
    const next = receiveInHistory(patches)
    if (next) received(next)
  }

  /** Opens a document that is not on disk yet, and writes all of it; what is unsaved of the one before goes first. */
  async function add(next: Doc): Promise<void> {
    await writes.settled()
    show(next)
    changed(next, [{ op: 'replace', path: [], value: next }], [])
    await writes.settled()
  }

  /** A key is down: what it does until it is let go is one step, and is written once. */
  function beginHold(): void {
    saving.beginHold()
    history.beginHold()
  }
  function endHold(): void {
    saving.endHold()
    history.endHold()
  }

  return { ...edits, ...writes, show, resume, receive, add, beginHold, endHold }
}
