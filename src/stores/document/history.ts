import type { Result } from '../../core/result'
import { type Patch, applyPatches, enablePatches, produceWithPatches } from 'immer'
import { computed, ref, shallowRef, watch } from 'vue'
import type { Draft } from '../../core/edit/draft'
import type { StoredPast } from '../../storage/history'
import { joined } from './joined'
import type { Journal, StoredStep } from '../../storage/schema'

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

/** The steps of a document that is not open: what is done, what is undone, and how many there were before the first known. */
export interface Past {
  readonly done: readonly HistoryStep[]
  readonly undone: readonly HistoryStep[]
  readonly before: number
}

/** How something is done. */
export interface ActOptions {
  /** Steps that follow each other with the same word are undone together. */
  readonly joins?: string | undefined
  /** It is a gesture that goes on: shown, and kept once it is committed. */
  readonly isPreview?: boolean
}

/** What came of an edit: the document after it with patches to it and back, or why it was refused. */
export type Change<Doc> = Result<{ doc: Doc; patches: Patch[]; inverse: Patch[] }>

export interface HistoryOptions<Doc> {
  /** Edits a document by a recipe, and by what follows from it. */
  readonly change?: (doc: Doc, recipe: (draft: Draft<Doc>) => void) => Change<Doc>
  /** Puts right what follows from what an undone or redone step and what was learned since both say. */
  readonly follows?: (draft: Draft<Doc>, patches: readonly Patch[]) => void
  /** When a step is done. */
  readonly clock?: () => string
  /** Hears of each change: the document after it, the patches to it, and what became of its steps. */
  readonly changed: (doc: Doc, patches: readonly Patch[], journal: readonly Journal[]) => void
}

/** A document after a recipe, with patches to it and back. */
const produced = <Doc extends object>(doc: Doc, recipe: (draft: Draft<Doc>) => void) =>
  produceWithPatches(doc as object, (draft) => recipe(draft as Draft<Doc>)) as unknown as [
    Doc,
    Patch[],
    Patch[],
  ]

/** Edits a document by a recipe, and by nothing else. */
export function changePlainly<Doc extends object>(
  doc: Doc,
  recipe: (draft: Draft<Doc>) => void,
): Change<Doc> {
  const [next, patches, inverse] = produced(doc, recipe)
  return { ok: true, doc: next, patches, inverse }
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

/**
 * A document with its history: every edit is a recipe whose changes are kept as patches, undone and redone by them. It knows no disk and
 * no other tab: it tells what changed.
 */
export function useHistory<Doc extends object>(options: HistoryOptions<Doc>) {
  const { change = changePlainly, follows = () => {}, clock = () => '', changed } = options
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
  const undoLabel = computed(() => done.value.at(-1)?.label ?? null)
  const redoLabel = computed(() => undone.value.at(-1)?.label ?? null)

  /** Whether nothing may be changed: another tab writes this document. */
  const readOnly = ref(false)
  /** What was last asked for and not done, since nothing may be changed; null where nothing was. */
  const refused = ref<string | null>(null)
  /** Why the last edit was not done, in a sentence; null where it was. */
  const notDone = ref<{ readonly label: string; readonly error: string } | null>(null)
  /** Whether something may be changed; where it may not, it is told what was asked for. */
  function mayChange(label: string): boolean {
    if (readOnly.value) refused.value = label
    return !readOnly.value
  }

  /** A gesture under way: what it makes of the document as it was when it began. It is shown and nowhere else. */
  let gesture: {
    readonly base: Doc
    readonly label: string
    readonly recipe: (draft: Draft<Doc>) => void
    readonly outcome: Change<Doc>
  } | null = null
  /** The word under which edits are joined while a key is held. */
  let heldAs: string | undefined
  let holds = 0

  /** Records what an edit changed as a step, or as more of the last one. */
  function record(label: string, outcome: Change<Doc>, joins: string | undefined): void {
    notDone.value = outcome.ok ? null : { label, error: outcome.error }
    if (!outcome.ok || outcome.patches.length === 0) return
    const { doc: next, patches, inverse } = outcome
    doc.value = next
    const last = done.value.at(-1)
    undone.value = []
    if (joins === undefined || last?.joins !== joins) {
      const step: HistoryStep = { label, at: clock(), joins, patches, inverse }
      done.value = [...done.value, step]
      const n = position.value
      return changed(next, patches, [{ position: n, put: { n, step }, dropsLater: true }])
    }
    const step = joinedStep({ ...last, label, at: clock() }, patches, inverse)
    done.value = [...done.value.slice(0, -1), step]
    const n = position.value
    const { parts: part = 0 } = step
    changed(next, patches, [
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

  /**
   * Changes the document by a recipe, as one step that can be undone.
   * @param joins steps that follow each other with the same word are undone together
   */
  function edit(label: string, recipe: (draft: Draft<Doc>) => void, joins = heldAs): void {
    commit()
    if (doc.value && mayChange(label)) record(label, change(doc.value, recipe), joins)
  }

  /**
   * Shows what a gesture makes of the document: a drag that goes on. Each replaces what was shown before; nothing is kept until it is
   * committed.
   */
  function preview(label: string, recipe: (draft: Draft<Doc>) => void): void {
    const base = gesture?.base ?? doc.value
    if (!base || !mayChange(label)) return
    const outcome = change(base, recipe)
    gesture = { base, label, recipe, outcome }
    doc.value = outcome.ok ? outcome.doc : base
  }
  /** Does something, or shows what a gesture that goes on would do. */
  function act(
    label: string,
    recipe: (draft: Draft<Doc>) => void,
    { joins, isPreview }: ActOptions = {},
  ): void {
    if (isPreview) preview(label, recipe)
    else edit(label, recipe, joins)
  }
  /** Ends the gesture: what it shows is one step. */
  function commit(): void {
    const ended = gesture
    if (!ended) return
    cancel()
    if (mayChange(ended.label)) record(ended.label, ended.outcome, undefined)
  }
  /** Ends the gesture and leaves everything as it was. */
  function cancel(): void {
    if (gesture) doc.value = gesture.base
    gesture = null
  }
  // Flushed at once: what another tab writes must not be mixed with what is only shown here.
  watch(readOnly, (isReadOnly) => isReadOnly && cancel(), { flush: 'sync' })

  /** Changes the document by what was found out about it: it is kept, and is no step of the editor's that is undone. */
  function learn(recipe: (draft: Draft<Doc>) => void): void {
    const base = gesture?.base ?? doc.value
    if (!base || readOnly.value) return
    const [next, patches] = produced(base, recipe)
    if (patches.length === 0) return
    const underWay = gesture
    gesture = null
    doc.value = next
    changed(next, patches, [])
    if (underWay) preview(underWay.label, underWay.recipe)
  }

  /** Moves steps between what is done and what is undone, and applies their patches, all in one go; not while a gesture runs. */
  function shift(count: number, back: boolean): string | null {
    const [from, to] = back ? [done, undone] : [undone, done]
    if (!doc.value || gesture || readOnly.value) return null
    const moved = from.value.slice(from.value.length - Math.min(count, from.value.length)).reverse()
    const last = moved.at(-1)
    if (!last) return null
    const patches = moved.flatMap((step) => (back ? step.inverse : step.patches))
    const [next, more] = produced(applyPatches(doc.value, patches) as Doc, (draft) => follows(draft, patches))
    doc.value = next
    const n = position.value
    from.value = from.value.slice(0, from.value.length - moved.length)
    to.value = [...to.value, ...moved]
    const journal = moved.map((step, i) => ({
      position: position.value,
      put: { n: back ? n - i : n + i + 1, step },
      dropsLater: false,
    }))
    changed(next, [...patches, ...more], journal)
    return last.label
  }
  const undo = () => shift(1, true)
  const redo = () => shift(1, false)
  /** Goes back or forward to where a step is the last in force; 0 is before the first. */
  const goTo = (n: number) =>
    n < position.value ? shift(position.value - n, true) : shift(n - position.value, false)
  /** The document as it was when a step was the last in force, without what follows from later findings. */
  function docAt(n: number): Doc | null {
    const inForce = gesture?.base ?? doc.value
    if (!inForce) return null
    const steps =
      n < position.value
        ? done.value.slice(Math.max(0, n - before.value)).reverse()
        : undone.value.slice(Math.max(0, undone.value.length - (n - position.value))).reverse()
    const patches = steps.flatMap((step) => (n < position.value ? step.inverse : step.patches))
    return applyPatches(inForce, patches) as Doc
  }

  /** From now on, until `endHold`, edits that follow each other are one step: a key is down. */
  function beginHold(): void {
    heldAs = `held ${++holds}`
  }
  function endHold(): void {
    heldAs = undefined
  }

  /** Opens a document, with the steps that it was left with. */
  function open(next: Doc | null, onlyToRead: boolean, past: Past | null): void {
    gesture = null
    doc.value = next
    readOnly.value = onlyToRead
    refused.value = null
    notDone.value = null
    done.value = past?.done ?? []
    undone.value = past?.undone ?? []
    before.value = past?.before ?? 0
  }
  /** The steps of the open document. */
  const past = (): Past => ({ done: done.value, undone: undone.value, before: before.value })

  /** Takes over what another tab wrote into the document that is only read here. @returns the document after it; null where none follows */
  function receive(patches: readonly Patch[]): Doc | null {
    if (!doc.value || !readOnly.value) return null
    doc.value = applyPatches(doc.value, patches as Patch[]) as Doc
    return doc.value
  }

  return {
    doc,
    readOnly,
    refused,
    mayChange,
    notDone,
    undoLabel,
    redoLabel,
    lines,
    position,
    edit,
    act,
    preview,
    commit,
    cancel,
    learn,
    undo,
    redo,
    goTo,
    docAt,
    beginHold,
    endHold,
    open,
    past,
    receive,
  }
}

/** The steps of a document as they were kept. */
export function pastOf({ steps, first, position }: StoredPast): Past {
  const count = position - first + 1
  return { done: steps.slice(0, count), undone: steps.slice(count).reverse(), before: first - 1 }
}
