import { reasonOf } from '../core/words/reason'
import { type Patch, applyPatches, enablePatches, produceWithPatches } from 'immer'
import { computed, ref, shallowRef } from 'vue'
import type { Draft } from '../core/edit/draft'
import { joined } from './joined'
import type { Journal, StoredPast, StoredStep } from '../storage/history'

enablePatches()

/** One step that can be undone. */
export interface HistoryStep extends StoredStep {
  /** Steps that follow each other with the same word are one. */
  readonly joins?: string | undefined
  /** How many were joined to it and are written beside it. */
  readonly parts?: number
}

/** A line of the history as it is listed. */
export interface HistoryLine {
  readonly n: number
  readonly label: string
  readonly at: string
  readonly isDone: boolean
}

/** A step with what is joined to it: in as few patches as do the same, or as a further part where none falls away. */
function joinedStep(step: HistoryStep, patches: Patch[], inverse: Patch[]): HistoryStep {
  const [forth, back] = [
    [...step.patches, ...patches],
    [...inverse, ...step.inverse],
  ]
  const [fewer, fewerBack] = [joined(forth), joined(back)]
  const isFewer = fewer.length < forth.length || fewerBack.length < back.length
  return { ...step, patches: fewer, inverse: fewerBack, parts: isFewer ? 0 : (step.parts ?? 0) + 1 }
}

/** What one change owes to the disk. */
interface PendingWrite<Doc> {
  readonly doc: Doc
  readonly patches: readonly Patch[]
  readonly journal: readonly Journal[]
  /** The number under which it was written ahead. */
  readonly ahead: number
}

/** A document and what of it is not on disk yet. It stays, whatever is opened next, until nothing is owed. */
interface OpenDocument<Doc> {
  doc: Doc
  /** What waits to be written, in order. */
  waiting: PendingWrite<Doc>[]
  /** What could not be written. */
  owed: Pick<PendingWrite<Doc>, 'patches' | 'journal'>
  /** Why it could not; null where nothing is owed. */
  trouble: string | null
  /** Its history, while it is not open. */
  left: {
    readonly done: readonly HistoryStep[]
    readonly undone: readonly HistoryStep[]
    readonly before: number
  } | null
}

/** More changes than these that wait are written together: whole steps, one transaction. */
const mostWaiting = 3

const nothingOwed = { patches: [], journal: [] } as const

/** A document that was left while its last changes could not be written. */
export interface Unsaved<Doc> {
  readonly doc: Doc
  readonly trouble: string
}

/** What came of an edit: the document after it with patches to it and back, or why it was refused. */
type Change<Doc> =
  | { readonly ok: true; readonly doc: Doc; readonly patches: Patch[]; readonly inverse: Patch[] }
  | { readonly ok: false; readonly error: string }

/** Edits a document by a recipe, and by nothing else. */
function plainly<Doc extends object>(doc: Doc, recipe: (draft: Draft<Doc>) => void): Change<Doc> {
  const [next, patches, inverse] = produceWithPatches(doc as object, (draft) =>
    recipe(draft as Draft<Doc>),
  ) as unknown as [Doc, Patch[], Patch[]]
  return { ok: true, doc: next, patches, inverse }
}

/**
 * A document with its history: every edit is a recipe whose changes are kept as patches, undone and redone by them.
 * @param save writes what patches touched; called one after the other, in order. What it fails to write goes along
 * with the next that is written, so that nothing is left behind.
 * @param writeAhead writes a change down at once, where a crash does not lose it until it is saved; gives its number
 * @param clock when a step is done
 * @param change edits a document by a recipe, and by what follows from it
 * @param follows puts right what follows from what an undone or redone step and what was learned since both say
 */
export function useHistory<Doc extends object>(
  save: (doc: Doc, patches: readonly Patch[], journal: readonly Journal[], ahead: number) => Promise<unknown>,
  follows: (draft: Draft<Doc>, patches: readonly Patch[]) => void = () => {},
  clock: () => string = () => '',
  writeAhead: (doc: Doc, patches: readonly Patch[], journal: readonly Journal[]) => number = () => 0,
  change: (doc: Doc, recipe: (draft: Draft<Doc>) => void) => Change<Doc> = plainly,
) {
  const doc = shallowRef<Doc | null>(null)
  const done = shallowRef<readonly HistoryStep[]>([])
  const undone = shallowRef<readonly HistoryStep[]>([])
  /** How many steps there were before the first that is still known. */
  const before = ref(0)
  /** The number of the last step that is in force. */
  const position = computed(() => before.value + done.value.length)
  const lines = computed<readonly HistoryLine[]>(() => [
    ...done.value.map(({ label, at }, i) => ({ n: before.value + i + 1, label, at, isDone: true })),
    ...undone.value
      .map(({ label, at }, i) => ({ n: position.value + undone.value.length - i, label, at, isDone: false }))
      .reverse(),
  ])
  const queued = ref(0)
  let saving: Promise<void> = Promise.resolve()
  /** Whether nothing may be changed: another tab writes this document. */
  const readOnly = ref(false)
  /** What was last asked for and not done, since nothing may be changed; null where nothing was. */
  const refused = ref<string | null>(null)
  /** Why the last edit was not done, in a sentence; null where it was. */
  const notDone = ref<{ readonly label: string; readonly error: string } | null>(null)
  /** The document that is open, and those that were left with something owed. */
  let current: OpenDocument<Doc> | null = null
  const accounts = new Set<OpenDocument<Doc>>()
  /** Why the open document could not be written; null where nothing is owed. */
  const trouble = ref<string | null>(null)
  /** Documents that were left while their last changes could not be written; they are kept while this page is open. */
  const unsaved = shallowRef<readonly Unsaved<Doc>[]>([])
  /** Whether everything is on disk. */
  const saved = computed(() => queued.value === 0 && trouble.value === null && unsaved.value.length === 0)

  const undoLabel = computed(() => done.value.at(-1)?.label ?? null)
  const redoLabel = computed(() => undone.value.at(-1)?.label ?? null)

  /** Tells how the accounts stand, and closes those that owe nothing and are open no more. */
  function showUnsaved() {
    trouble.value = current?.trouble ?? null
    for (const account of accounts)
      if (account !== current && account.trouble === null && queued.value === 0) accounts.delete(account)
    unsaved.value = [...accounts].flatMap((account) =>
      account !== current && account.trouble !== null ? [{ doc: account.doc, trouble: account.trouble }] : [],
    )
  }

  function persist(
    account: OpenDocument<Doc>,
    next: Doc,
    patches: readonly Patch[],
    journal: readonly Journal[] = [],
  ) {
    account.doc = next
    account.waiting.push({ doc: next, patches, journal, ahead: writeAhead(next, patches, journal) })
    queued.value++
    saving = saving.then(async () => {
      const count = account.waiting.length > mostWaiting ? account.waiting.length : 1
      const taken = account.waiting.splice(0, count)
      const last = taken.at(-1)
      const due = {
        patches: [...account.owed.patches, ...taken.flatMap((write) => write.patches)],
        journal: [...account.owed.journal, ...taken.flatMap((write) => write.journal)],
      }
      try {
        // It was written along with what waited before it.
        if (last) await save(last.doc, due.patches, due.journal, last.ahead)
        account.owed = nothingOwed
        account.trouble = null
      } catch (error) {
        account.owed = due
        account.trouble = reasonOf(error)
      } finally {
        queued.value--
        showUnsaved()
      }
    })
  }
  /** Tries once more to write what could not be written, of the open document and of those that were left. */
  function retry(): void {
    for (const account of accounts) if (account.trouble !== null) persist(account, account.doc, [])
  }
  /** Waits until everything is on disk; what could not be written is tried once more. */
  async function settled(): Promise<void> {
    await saving
    retry()
    await saving
  }

  /**
   * Changes the document by a recipe, as one step that can be undone.
   * @param joins steps that follow each other with the same word are undone together
   */
  function edit(label: string, recipe: (draft: Draft<Doc>) => void, joins?: string): void {
    if (!doc.value || !current) return
    if (readOnly.value) {
      refused.value = label
      return
    }
    const changed = change(doc.value, recipe)
    notDone.value = changed.ok ? null : { label, error: changed.error }
    if (!changed.ok || changed.patches.length === 0) return
    const { doc: next, patches, inverse } = changed
    doc.value = next
    const last = done.value.at(-1)
    undone.value = []
    if (joins === undefined || last?.joins !== joins) {
      const step: HistoryStep = { label, at: clock(), joins, patches, inverse }
      done.value = [...done.value, step]
      const n = position.value
      return persist(current, next, patches, [{ position: n, put: { n, step }, dropsLater: true }])
    }
    const step = joinedStep({ ...last, label, at: clock() }, patches, inverse)
    done.value = [...done.value.slice(0, -1), step]
    const n = position.value
    const { parts: part = 0 } = step
    persist(current, next, patches, [
      part > 0
        ? {
            position: n,
            put: null,
            more: { n, part, label, at: step.at, patches, inverse },
            dropsLater: true,
          }
        : { position: n, put: { n, step }, dropsLater: true },
    ])
  }

  /** Changes the document by what was found out about it: it is kept, and is no step of the editor's that is undone. */
  function learn(recipe: (draft: Draft<Doc>) => void): void {
    if (!doc.value || !current || readOnly.value) return
    const [next, patches] = produceWithPatches(doc.value as object, (draft) =>
      recipe(draft as Draft<Doc>),
    ) as unknown as [Doc, Patch[]]
    if (patches.length === 0) return
    doc.value = next
    persist(current, next, patches)
  }

  /** Moves steps between what is done and what is undone, and applies their patches, all in one go. */
  function shift(count: number, back: boolean): string | null {
    const [from, to] = back ? [done, undone] : [undone, done]
    if (!doc.value || !current || readOnly.value) return null
    const moved = from.value.slice(from.value.length - Math.min(count, from.value.length)).reverse()
    const last = moved.at(-1)
    if (!last) return null
    const patches = moved.flatMap((step) => (back ? step.inverse : step.patches))
    const [next, more] = produceWithPatches(applyPatches(doc.value, patches) as object, (draft) =>
      follows(draft as Draft<Doc>, patches),
    ) as unknown as [Doc, Patch[]]
    doc.value = next
    const n = position.value
    from.value = from.value.slice(0, from.value.length - moved.length)
    to.value = [...to.value, ...moved]
    const journal = moved.map((step, i) => ({
      position: position.value,
      put: { n: back ? n - i : n + i + 1, step },
      dropsLater: false,
    }))
    persist(current, next, [...patches, ...more], journal)
    return last.label
  }
  const undo = () => shift(1, true)
  const redo = () => shift(1, false)
  /** Goes back or forward to where a step is the last in force; 0 is before the first. */
  const goTo = (n: number) =>
    n < position.value ? shift(position.value - n, true) : shift(n - position.value, false)
  /** The document as it was when a step was the last in force, without what follows from later findings. */
  function docAt(n: number): Doc | null {
    if (!doc.value) return null
    const steps =
      n < position.value
        ? done.value.slice(Math.max(0, n - before.value)).reverse()
        : undone.value.slice(Math.max(0, undone.value.length - (n - position.value))).reverse()
    const patches = steps.flatMap((step) => (n < position.value ? step.inverse : step.patches))
    return applyPatches(doc.value, patches) as Doc
  }

  /** Takes the last step back as if it had never been, where it is the one that is meant: a drag that goes on. */
  function takeBack(joins: string): void {
    if (done.value.at(-1)?.joins !== joins) return
    undo()
    // What was undone before followed on it, and follows on nothing now.
    undone.value = []
    if (current && doc.value)
      persist(current, doc.value, [], [{ position: position.value, put: null, dropsLater: true }])
  }

  function open(
    account: OpenDocument<Doc> | null,
    onlyToRead: boolean,
    past: OpenDocument<Doc>['left'],
  ): void {
    if (current) current.left = { done: done.value, undone: undone.value, before: before.value }
    current = account
    if (account) accounts.add(account)
    doc.value = account?.doc ?? null
    readOnly.value = onlyToRead
    refused.value = null
    notDone.value = null
    done.value = past?.done ?? []
    undone.value = past?.undone ?? []
    before.value = past?.before ?? 0
    showUnsaved()
  }
  /** Opens another document, with the history that it was left with. What is owed to the one before stays owed. */
  function show(next: Doc | null, onlyToRead = false, past: StoredPast | null = null): void {
    const fresh = next && { doc: next, waiting: [], owed: nothingOwed, trouble: null, left: null }
    const count = past ? past.position - past.first + 1 : 0
    open(
      fresh,
      onlyToRead,
      past && {
        done: past.steps.slice(0, count),
        undone: past.steps.slice(count).reverse(),
        before: past.first - 1,
      },
    )
  }

  /** Opens a document again that was left with something owed, as it was left. @returns false where it was not */
  function resume(isIt: (doc: Doc) => boolean): boolean {
    const account = [...accounts].find(
      (document) => document !== current && document.trouble !== null && isIt(document.doc),
    )
    if (account) open(account, false, account.left)
    return account !== undefined
  }

  /** Takes over what another tab wrote into the document that is only read here. */
  function receive(patches: readonly Patch[]): void {
    if (!doc.value || !current || !readOnly.value) return
    doc.value = applyPatches(doc.value, patches as Patch[]) as Doc
    current.doc = doc.value
  }
  /** Forgets what is owed to documents that are not wanted any more: they are deleted. */
  function forget(isIt: (doc: Doc) => boolean): void {
    for (const account of accounts) if (isIt(account.doc) && account !== current) accounts.delete(account)
    showUnsaved()
  }

  /** Opens a document that is not on disk yet, and writes all of it; what is owed to the one before goes first. */
  async function add(next: Doc): Promise<void> {
    await settled()
    show(next)
    if (current) persist(current, next, [{ op: 'replace', path: [], value: next }])
    await saving
  }

  return {
    doc,
    readOnly,
    refused,
    notDone,
    undoLabel,
    redoLabel,
    saved,
    trouble,
    unsaved,
    retry,
    edit,
    learn,
    undo,
    redo,
    goTo,
    docAt,
    lines,
    position,
    receive,
    takeBack,
    show,
    resume,
    forget,
    add,
    settled,
  }
}
