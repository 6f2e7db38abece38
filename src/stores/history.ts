import { reasonOf } from '../core/words/reason'
import { type Patch, applyPatches, enablePatches, produceWithPatches } from 'immer'
import { computed, ref, shallowRef } from 'vue'
import type { Draft } from '../core/edit/draft'

enablePatches()

/** One step that can be undone. */
interface Step {
  readonly label: string
  readonly patches: Patch[]
  readonly inverse: Patch[]
  /** Steps that follow each other with the same word are one. */
  readonly joins: string | undefined
}

/** A document and what of it is not on disk yet. It stays, whatever is opened next, until nothing is owed. */
interface Account<Doc> {
  doc: Doc
  /** What could not be written. */
  owed: readonly Patch[]
  /** Why it could not; null where nothing is owed. */
  trouble: string | null
}

/** A document that was left while its last changes could not be written. */
export interface Unsaved<Doc> {
  readonly doc: Doc
  readonly trouble: string
}

/**
 * A document with its history: every edit is a recipe whose changes are kept as patches, undone and redone by them.
 * @param save writes what patches touched; called one after the other, in order. What it fails to write goes along
 * with the next that is written, so that nothing is left behind.
 * @param follows puts right what follows from what an undone or redone step and what was learned since both say
 */
export function useHistory<Doc extends object>(
  save: (doc: Doc, patches: readonly Patch[]) => Promise<unknown>,
  follows: (draft: Draft<Doc>, patches: readonly Patch[]) => void = () => {},
) {
  const doc = shallowRef<Doc | null>(null)
  const done = shallowRef<readonly Step[]>([])
  const undone = shallowRef<readonly Step[]>([])
  const queued = ref(0)
  let saving: Promise<void> = Promise.resolve()
  /** Whether nothing may be changed: another tab writes this document. */
  const readOnly = ref(false)
  /** What was last asked for and not done, since nothing may be changed; null where nothing was. */
  const refused = ref<string | null>(null)
  /** The document that is open, and those that were left with something owed. */
  let current: Account<Doc> | null = null
  const accounts = new Set<Account<Doc>>()
  /** Why the open document could not be written; null where nothing is owed. */
  const trouble = ref<string | null>(null)
  /** Documents that were left while their last changes could not be written; they are kept while this page is open. */
  const unsaved = shallowRef<readonly Unsaved<Doc>[]>([])
  /** Whether everything is on disk. */
  const saved = computed(() => queued.value === 0 && trouble.value === null && unsaved.value.length === 0)

  const undoLabel = computed(() => done.value.at(-1)?.label ?? null)
  const redoLabel = computed(() => undone.value.at(-1)?.label ?? null)

  /** Tells how the accounts stand, and closes those that owe nothing and are open no more. */
  function settleAccounts() {
    trouble.value = current?.trouble ?? null
    for (const account of accounts)
      if (account !== current && account.trouble === null && queued.value === 0) accounts.delete(account)
    unsaved.value = [...accounts].flatMap((account) =>
      account !== current && account.trouble !== null ? [{ doc: account.doc, trouble: account.trouble }] : [],
    )
  }

  function persist(account: Account<Doc>, next: Doc, patches: readonly Patch[]) {
    account.doc = next
    queued.value++
    saving = saving.then(async () => {
      const due = [...account.owed, ...patches]
      try {
        await save(next, due)
        account.owed = []
        account.trouble = null
      } catch (error) {
        account.owed = due
        account.trouble = reasonOf(error)
      } finally {
        queued.value--
        settleAccounts()
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
    const [next, patches, inverse] = produceWithPatches(doc.value as object, (draft) =>
      recipe(draft as Draft<Doc>),
    ) as unknown as [Doc, Patch[], Patch[]]
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
    persist(current, next, patches)
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

  /** Moves one step between what is done and what is undone, and applies its patches. */
  function shift(from: typeof done, to: typeof done, patchesOf: (step: Step) => Patch[]): string | null {
    const step = from.value.at(-1)
    if (!step || !doc.value || !current || readOnly.value) return null
    const patches = patchesOf(step)
    const [next, more] = produceWithPatches(applyPatches(doc.value, patches) as object, (draft) =>
      follows(draft as Draft<Doc>, patches),
    ) as unknown as [Doc, Patch[]]
    doc.value = next
    from.value = from.value.slice(0, -1)
    to.value = [...to.value, step]
    persist(current, next, [...patches, ...more])
    return step.label
  }
  const undo = () => shift(done, undone, (step) => step.inverse)
  const redo = () => shift(undone, done, (step) => step.patches)

  /** Takes the last step back as if it had never been, where it is the one that is meant: a drag that goes on. */
  function takeBack(joins: string): void {
    const before = undone.value
    if (done.value.at(-1)?.joins !== joins) return
    undo()
    undone.value = before
  }

  function open(account: Account<Doc> | null, onlyToRead: boolean): void {
    current = account
    if (account) accounts.add(account)
    doc.value = account?.doc ?? null
    readOnly.value = onlyToRead
    refused.value = null
    done.value = []
    undone.value = []
    settleAccounts()
  }
  /** Opens another document; its history begins here. What is owed to the one before stays owed. */
  const show = (next: Doc | null, onlyToRead = false): void =>
    open(next && { doc: next, owed: [], trouble: null }, onlyToRead)

  /** Opens a document again that was left with something owed, as it was left. @returns false where it was not */
  function resume(isIt: (doc: Doc) => boolean): boolean {
    const account = [...accounts].find((one) => one !== current && one.trouble !== null && isIt(one.doc))
    if (account) open(account, false)
    return account !== undefined
  }

  /** Forgets what is owed to documents that are not wanted any more: they are deleted. */
  function forget(isIt: (doc: Doc) => boolean): void {
    for (const account of accounts) if (isIt(account.doc) && account !== current) accounts.delete(account)
    settleAccounts()
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
    takeBack,
    show,
    resume,
    forget,
    add,
    settled,
  }
}
