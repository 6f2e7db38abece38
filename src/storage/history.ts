import { type MoreRow, type StepRow, database } from './database'
import { type Journal, MoreOfStepSchema, type StoredStep, StoredStepSchema } from './schema'

/** So many steps of a project are kept when it is left, back and forward from where it is. */
export const keptSteps = 200

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
  let joins: MoreRow[] = []
  let droppedFrom = Infinity
  for (const { position, put, more, dropsLater } of entries) {
    if (put) {
      const { label, at, patches, inverse } = put.step
      puts.set(put.n, { projectId, n: put.n, label, at, patches, inverse })
      joins = joins.filter(({ n }) => n !== put.n)
    }
    if (more) joins.push({ projectId, ...more })
    if (!dropsLater) continue
    droppedFrom = Math.min(droppedFrom, position)
    for (const n of puts.keys()) if (n > position) puts.delete(n)
    joins = joins.filter(({ n }) => n <= position)
  }
  // What is too far from where it is now is let go, on either side.
  const [first, end] = [last.position - keptSteps + 1, last.position + keptSteps]
  const { steps, moreOfSteps } = database
  const isKept = ({ n }: { n: number }) => n >= first && n <= end
  const dropMore = (from: number, upTo: number) =>
    moreOfSteps
      .where('[projectId+n+part]')
      .between([projectId, from, -Infinity], [projectId, upTo, Infinity])
      .delete()
  const drop = (above: number, upTo: number) => [
    steps.where('[projectId+n]').between([projectId, above], [projectId, upTo], false, true).delete(),
    dropMore(above + 1, upTo),
  ]
  await Promise.all([
    ...drop(Math.min(droppedFrom, end), Infinity),
    ...drop(-Infinity, first - 1),
    ...[...puts.keys()].map((n) => dropMore(n, n)),
    steps.bulkPut([...puts.values()].filter(isKept)),
    moreOfSteps.bulkPut(joins.filter(isKept)),
  ])
}

/** The history of a project as it was kept; null where none was. Steps that do not join on are no history. */
export async function loadPast(projectId: string): Promise<StoredPast | null> {
  const [row, stored, storedJoins] = await Promise.all([
    database.histories.get(projectId),
    database.steps.where({ projectId }).sortBy('n'),
    database.moreOfSteps.where({ projectId }).sortBy('part'),
  ])
  // A row of another shape than ours is no step: the history ends there.
  const rows = stored.filter((step) => StoredStepSchema.safeParse(step).success)
  const joins = storedJoins.filter((more) => MoreOfStepSchema.safeParse(more).success)
  const torn = new Set(storedJoins.filter((more) => !joins.includes(more)).map(({ n }) => n))
  if (!row || rows.length === 0) return null
  const { position } = row
  // From where it is, both ways as far as each step follows the one before.
  const byNumber = new Map(rows.filter(({ n }) => !torn.has(n)).map((step) => [step.n, step]))
  const steps: StepRow[] = []
  for (let n = position; byNumber.has(n); n--) steps.unshift(byNumber.get(n) as StepRow)
  const first = position - steps.length + 1
  const moreOf = new Map<number, MoreRow[]>()
  for (const more of joins) moreOf.set(more.n, [...(moreOf.get(more.n) ?? []), more])
  for (let n = position + 1; byNumber.has(n); n++) steps.push(byNumber.get(n) as StepRow)
  return {
    first,
    position,
    steps: steps.map(({ n, label, at, patches, inverse }) => {
      const more = moreOf.get(n) ?? []
      return {
        label: more.at(-1)?.label ?? label,
        at: more.at(-1)?.at ?? at,
        patches: [patches, ...more.map((part) => part.patches)].flat(),
        inverse: [inverse, ...more.map((part) => part.inverse)].reverse().flat(),
        joins: undefined,
      }
    }),
  }
}
