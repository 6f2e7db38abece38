import type { Patch } from 'immer'
import { computed, ref, shallowRef } from 'vue'
import { reasonOf } from '../../core/words/reason'
import { turns } from '../../media/turns'
import type { Past } from './history'
import type { Journal } from '../../storage/schema'

/** A change that is not saved yet: the document after it, patches, journal rows and its write-ahead number. */
interface PendingWrite<Doc> {
  readonly doc: Doc
  readonly patches: readonly Patch[]
  readonly journal: readonly Journal[]
  readonly ahead: number
}

/** A document and what of it is not on disk yet. It stays, whatever is opened next, until everything is. */
interface OpenDocument<Doc> {
  doc: Doc
  /** What waits to be written, in order. */
  pending: PendingWrite<Doc>[]
  /** What could not be written: it goes along with the next that is. */
  failed: Pick<PendingWrite<Doc>, 'patches' | 'journal'>
  /** Why it could not; null where nothing failed. */
  error: string | null
  /** Its history, while it is not open. */
  past: Past | null
}

/** More changes than these that wait are written together: whole steps, one transaction. */
const mostPending = 3

const nothing = { patches: [], journal: [] } as const

/** A document that was left while its last changes could not be written. */
export interface Unsaved<Doc> {
  readonly doc: Doc
  readonly trouble: string
}

export interface SavingOptions<Doc> {
  /** Writes what patches touched; called one after the other, in order. */
  readonly save: (
    doc: Doc,
    patches: readonly Patch[],
    journal: readonly Journal[],
    ahead: number,
  ) => Promise<unknown>
  /** Writes a change down at once, where a crash does not lose it until it is saved; gives its number. */
  readonly writeAhead?: (doc: Doc, patches: readonly Patch[], journal: readonly Journal[]) => number
}

/** The way of documents to the disk: what changes is written in order, and what cannot be written is kept and tried again. */
export function useSaving<Doc extends object>({ save, writeAhead = () => 0 }: SavingOptions<Doc>) {
  /** The document that is open, and those that were left with something unsaved. */
  let current: OpenDocument<Doc> | null = null
  const documents = new Set<OpenDocument<Doc>>()
  const queued = ref(0)
  const inTurn = turns()
  /** Why the open document could not be written; null where everything was. */
  const trouble = ref<string | null>(null)
  /** Documents that were left while their last changes could not be written; they are kept while this page is open. */
  const unsaved = shallowRef<readonly Unsaved<Doc>[]>([])
  /** What changed while a key is held: written once it is let go. */
  let held: { readonly document: OpenDocument<Doc>; patches: readonly Patch[]; journal: Journal[] } | null =
    null
  const hasHeld = ref(false)
  /** Whether everything is on disk. */
  const saved = computed(
    () => queued.value === 0 && !hasHeld.value && trouble.value === null && unsaved.value.length === 0,
  )

  /** Tells what is unsaved, and lets go of documents that are saved and open no more. */
  function showUnsaved(): void {
    trouble.value = current?.error ?? null
    for (const document of documents)
      if (document !== current && document.error === null && queued.value === 0) documents.delete(document)
    unsaved.value = [...documents].flatMap((document) =>
      document !== current && document.error !== null ? [{ doc: document.doc, trouble: document.error }] : [],
    )
  }

  function write(
    document: OpenDocument<Doc>,
    patches: readonly Patch[],
    journal: readonly Journal[] = [],
  ): void {
    const { doc } = document
    document.pending.push({ doc, patches, journal, ahead: writeAhead(doc, patches, journal) })
    queued.value++
    void inTurn(async () => {
      const count = document.pending.length > mostPending ? document.pending.length : 1
      const taken = document.pending.splice(0, count)
      const last = taken.at(-1)
      const together = {
        patches: [...document.failed.patches, ...taken.flatMap((change) => change.patches)],
        journal: [...document.failed.journal, ...taken.flatMap((change) => change.journal)],
      }
      try {
        // It was written along with what waited before it.
        if (last) await save(last.doc, together.patches, together.journal, last.ahead)
        document.failed = nothing
        document.error = null
      } catch (error) {
        document.failed = together
        document.error = reasonOf(error)
      } finally {
        queued.value--
        showUnsaved()
      }
    })
  }

  /** Writes a change of the open document; while a key is held, all that it does is written together when it is let go. */
  function changed(doc: Doc, patches: readonly Patch[], journal: readonly Journal[]): void {
    if (!current) return
    current.doc = doc
    if (held?.document !== current) return write(current, patches, journal)
    held.patches = [...held.patches, ...patches]
    held.journal = [...held.journal, ...journal]
    hasHeld.value = true
  }
  function beginHold(): void {
    endHold()
    held = current && { document: current, patches: [], journal: [] }
  }
  /** Writes what was done while a key was held. */
  function endHold(): void {
    const ended = held
    held = null
    hasHeld.value = false
    if (ended && (ended.patches.length > 0 || ended.journal.length > 0))
      write(ended.document, ended.patches, ended.journal)
  }

  /** Tries once more to write what could not be written, of the open document and of those that were left. */
  function retry(): void {
    for (const document of documents) if (document.error !== null) write(document, [])
  }
  /** Waits until everything is on disk; what could not be written is tried once more. */
  async function settled(): Promise<void> {
    const everythingSoFar = () => inTurn(async () => {})
    endHold()
    await everythingSoFar()
    retry()
    await everythingSoFar()
  }

  function setCurrent(document: OpenDocument<Doc> | null, past: Past): void {
    endHold()
    if (current) current.past = past
    current = document
    if (document) documents.add(document)
  }
  /**
   * Opens another document. What is unsaved of the one before is still written. Whoever opens calls `showUnsaved` once the document is shown.
   * @param past the history that the one before is left with
   */
  const open = (doc: Doc | null, past: Past): void =>
    setCurrent(doc && { doc, pending: [], failed: nothing, error: null, past: null }, past)

  /** Opens a document again that was left with something unsaved. @returns it as it was left; null where it was not */
  function resume(isIt: (doc: Doc) => boolean, past: Past): { doc: Doc; past: Past | null } | null {
    const document = [...documents].find((left) => left !== current && left.error !== null && isIt(left.doc))
    if (!document) return null
    setCurrent(document, past)
    return document
  }

  /** Takes over what another tab wrote. */
  function received(doc: Doc): void {
    if (current) current.doc = doc
  }
  /** Forgets what is unsaved of documents that are not wanted any more: they are deleted. */
  function forget(isIt: (doc: Doc) => boolean): void {
    for (const document of documents)
      if (isIt(document.doc) && document !== current) documents.delete(document)
    showUnsaved()
  }

  return {
    saved,
    trouble,
    unsaved,
    changed,
    beginHold,
    endHold,
    retry,
    settled,
    open,
    resume,
    received,
    forget,
    showUnsaved,
  }
}
