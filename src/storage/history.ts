import type { Patch } from 'immer'
import { type StepRow, database } from './database'

/** So many steps of a project are kept when it is left, back and forward from where it is. */
export const keptSteps = 200

/** What a change does to the history that is kept beside a document. Steps are numbered from 1. */
export interface Journal {
  /** The last step that is in force afterwards; 0 where none is. */
  readonly position: number
  /** A step that is to be kept under its number. */
  readonly put: { readonly n: number; readonly step: StoredStep } | null
  /** Whether steps behind the position are gone. */
  readonly dropsLater: boolean
}

/** One step as it is kept. Whoever opens a project again begins new steps: none of these joins on. */
export interface StoredStep {
  readonly label: string
  /** When it was done. */
  readonly at: string
  readonly patches: Patch[]
  readonly inverse: Patch[]
}

/** The steps of a project as they are kept: they follow each other, and so many of them are in force. */
export interface StoredPast {
  readonly steps: readonly StoredStep[]
  /** The number of the first. */
  readonly first: number
  readonly position: number
}

/**
 * Writes what changes did to the history of a project; within the transaction that writes what they changed. All of it is asked of the
 * database at once: each answer that is waited for is time in which a crash loses the edit.
 */
export async function writeJournal(projectId: string, entries: readonly Journal[]): Promise<void> {
  const last = entries.at(-1)
  if (!last) return
  const puts = new Map<number, StepRow>()
  let droppedFrom = Infinity
  for (const { position, put, dropsLater } of entries) {
    if (put) {
      const { label, at, patches, inverse } = put.step
      puts.set(put.n, { projectId, n: put.n, label, at, patches, inverse })
    }
    if (!dropsLater) continue
    droppedFrom = Math.min(droppedFrom, position)
    for (const n of puts.keys()) if (n > position) puts.delete(n)
  }
  // What is too far from where it is now is let go, on either side.
  const [first, end] = [last.position - keptSteps + 1, last.position + keptSteps]
  const { steps } = database
  const drop = (above: number, upTo: number) =>
    steps.where('[projectId+n]').between([projectId, above], [projectId, upTo], false, true).delete()
  await Promise.all([
    drop(Math.min(droppedFrom, end), Infinity),
    drop(-Infinity, first - 1),
    steps.bulkPut([...puts.values()].filter(({ n }) => n >= first && n <= end)),
  ])
}

/** The history of a project as it was kept; null where none was. Steps that do not join on are no history. */
export async function loadPast(projectId: string): Promise<StoredPast | null> {
  const [row, rows] = await Promise.all([
    database.histories.get(projectId),
    database.steps.where({ projectId }).sortBy('n'),
  ])
  if (!row || rows.length === 0) return null
  const { position } = row
  // From where it is, both ways as far as each step follows the one before.
  const byNumber = new Map(rows.map((step) => [step.n, step]))
  const steps: StepRow[] = []
  for (let n = position; byNumber.has(n); n--) steps.unshift(byNumber.get(n) as StepRow)
  const first = position - steps.length + 1
  for (let n = position + 1; byNumber.has(n); n++) steps.push(byNumber.get(n) as StepRow)
  return {
    first,
    position,
    steps: steps.map(({ label, at, patches, inverse }) => ({
      label,
      at,
      patches,
      inverse,
      joins: undefined,
    })),
  }
}
