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
 * @param save writes what patches touched; called one after the other, in order
 */
export function useHistory<Doc extends object>(
  save: (doc: Doc, patches: readonly Patch[]) => Promise<unknown>,
) {
  const doc = shallowRef<Doc | null>(null)
  const done = shallowRef<readonly Step[]>([])
  const undone = shallowRef<readonly Step[]>([])
  /** How many writes are not on disk yet. */
  const unsaved = ref(0)
  let saving: Promise<unknown> = Promise.resolve()

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
    void persist(() => save(next, patches))
  }

  /** Moves one step between what is done and what is undone, and applies its patches. */
  function shift(from: typeof done, to: typeof done, patchesOf: (step: Step) => Patch[]): string | null {
    const step = from.value.at(-1)
    if (!step || !doc.value) return null
    const next = applyPatches(doc.value, patchesOf(step))
    doc.value = next
    from.value = from.value.slice(0, -1)
    to.value = [...to.value, step]
    void persist(() => save(next, patchesOf(step)))
    return step.label
  }
  const undo = () => shift(done, undone, (step) => step.inverse)
  const redo = () => shift(undone, done, (step) => step.patches)

  /** Opens another document; its history begins here. */
  function show(next: Doc | null): void {
    doc.value = next
    done.value = []
    undone.value = []
  }

  return { doc, undoLabel, redoLabel, unsaved, edit, undo, redo, show, settled: () => saving }
}
