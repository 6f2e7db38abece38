import { type Patch, applyPatches, enablePatches, produceWithPatches } from 'immer'
import { computed, ref, shallowRef } from 'vue'

enablePatches()

/** One step that can be undone. */
interface Step {
  readonly label: string
  readonly patches: Patch[]
  readonly inverse: Patch[]
  /** Steps that follow each other with the same word are one. */
  readonly joins?: string
}

/**
 * A document with its history: every edit is a recipe whose changes are kept as patches, undone and redone by them.
 * @param save writes what patches touched; called one after the other, in order. What it fails to write goes along
 * with the next that is written, so that nothing is left behind.
 */
export function useHistory<Doc extends object>(
  save: (doc: Doc, patches: readonly Patch[]) => Promise<unknown>,
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
  /** What could not be written. */
  let owed: readonly Patch[] = []
  /** Why it could not; null where nothing is owed. */
  const trouble = ref<string | null>(null)
  /** Whether everything is on disk. */
  const saved = computed(() => queued.value === 0 && trouble.value === null)

  const undoLabel = computed(() => done.value.at(-1)?.label ?? null)
  const redoLabel = computed(() => undone.value.at(-1)?.label ?? null)

  function persist(next: Doc, patches: readonly Patch[]) {
    queued.value++
    saving = saving.then(async () => {
      const due = [...owed, ...patches]
      try {
        await save(next, due)
        owed = []
        trouble.value = null
      } catch (error) {
        owed = due
        // Storage adds what lies behind an error in further lines.
        trouble.value = (error instanceof Error ? error.message : String(error)).split('\n')[0].trim()
      } finally {
        queued.value--
      }
    })
  }
  /** Tries once more to write what could not be written. */
  function retry(): void {
    if (doc.value && trouble.value !== null) persist(doc.value, [])
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
  function edit(label: string, recipe: (draft: Doc) => void, joins?: string): void {
    if (!doc.value) return
    if (readOnly.value) {
      refused.value = label
      return
    }
    const [next, patches, inverse] = produceWithPatches(doc.value as object, (draft) =>
      recipe(draft as Doc),
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
    persist(next, patches)
  }

  /** Moves one step between what is done and what is undone, and applies its patches. */
  function shift(from: typeof done, to: typeof done, patchesOf: (step: Step) => Patch[]): string | null {
    const step = from.value.at(-1)
    if (!step || !doc.value || readOnly.value) return null
    const next = applyPatches(doc.value, patchesOf(step))
    doc.value = next
    from.value = from.value.slice(0, -1)
    to.value = [...to.value, step]
    persist(next, patchesOf(step))
    return step.label
  }
  const undo = () => shift(done, undone, (step) => step.inverse)
  const redo = () => shift(undone, done, (step) => step.patches)

  /** Opens another document; its history begins here. */
  function show(next: Doc | null, onlyToRead = false): void {
    doc.value = next
    readOnly.value = onlyToRead
    refused.value = null
    done.value = []
    undone.value = []
    owed = []
    trouble.value = null
  }

  /** Opens a document that is not on disk yet, and writes all of it; what is owed to the one before goes first. */
  async function add(next: Doc): Promise<void> {
    await settled()
    show(next)
    persist(next, [{ op: 'replace', path: [], value: next }])
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
    retry,
    edit,
    undo,
    redo,
    show,
    add,
    settled,
  }
}
