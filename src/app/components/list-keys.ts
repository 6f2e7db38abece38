import { type Ref, computed, ref } from 'vue'

/** What a list needs for keyboard and mouse: which rows are selected, and where the keyboard stands. */
export interface ListKeys {
  readonly at: Ref<number>
  readonly selected: Ref<ReadonlySet<string>>
  onKey(event: KeyboardEvent): void
  onClick(index: number, event: MouseEvent): void
  select(ids: readonly string[]): void
}

/**
 * The behaviour of every list: arrows, Home, End and Page keys move; Shift extends, Ctrl or Cmd adds; letters find;
 * Enter opens, Escape leaves.
 * @param rows ids and names in the order shown
 */
export function useListKeys(
  rows: () => readonly { readonly id: string; readonly name: string }[],
  on: { move?: (index: number) => void; open?: () => void; leave?: () => void } = {},
): ListKeys {
  /** The row that stood at an index: where rows come in another order, it is followed; without one, the index counts. */
  interface Place {
    readonly index: number
    readonly id: string | undefined
  }
  const placeAt = (index: number): Place => ({ index, id: rows()[index]?.id })
  function indexOf({ index, id }: Place): number {
    const list = rows()
    if (id === undefined || list[index]?.id === id) return index
    const found = list.findIndex((row) => row.id === id)
    return found < 0 ? Math.max(0, Math.min(list.length - 1, index)) : found
  }
  const place = ref<Place>({ index: 0, id: undefined })
  const at = computed({ get: () => indexOf(place.value), set: (index) => (place.value = placeAt(index)) })
  const selected = ref<ReadonlySet<string>>(new Set())
  let anchor: Place = place.value
  let typed = ''
  let typedAt = 0

  const idsBetween = (a: number, b: number) =>
    rows()
      .slice(Math.min(a, b), Math.max(a, b) + 1)
      .map((row) => row.id)

  function goTo(index: number, extend: boolean) {
    const last = rows().length - 1
    if (last < 0) return
    at.value = Math.max(0, Math.min(last, index))
    if (!extend) anchor = place.value
    selected.value = new Set(idsBetween(indexOf(anchor), at.value))
    on.move?.(at.value)
  }

  function find(letter: string) {
    const timestamp = Date.now()
    typed = timestamp - typedAt > 800 ? letter : typed + letter
    typedAt = timestamp
    const list = rows()
    const from = typed.length === 1 ? at.value + 1 : at.value
    for (let i = 0; i < list.length; i++) {
      const index = (from + i) % list.length
      if (list[index]?.name.toLowerCase().startsWith(typed.toLowerCase())) return goTo(index, false)
    }
  }

  function onKey(event: KeyboardEvent) {
    const last = rows().length - 1
    const steps: Record<string, number> = {
      ArrowDown: at.value + 1,
      ArrowUp: at.value - 1,
      Home: 0,
      End: last,
      PageDown: at.value + 15,
      PageUp: at.value - 15,
    }
    const step = steps[event.key]
    if (step !== undefined) goTo(step, event.shiftKey)
    else if ((event.ctrlKey || event.metaKey) && event.key === 'a') {
      anchor = placeAt(0)
      selected.value = new Set(rows().map((row) => row.id))
    } else if (event.key === 'Enter') on.open?.()
    else if (event.key === 'Escape') {
      selected.value = new Set()
      on.leave?.()
    } else if (/^[\p{L}\p{N}_]$/u.test(event.key) && !event.ctrlKey && !event.metaKey && !event.altKey) {
      find(event.key)
    } else return
    event.preventDefault()
  }

  function onClick(index: number, event: MouseEvent) {
    const id = rows()[index]?.id
    if (id === undefined) return
    if (event.shiftKey) return goTo(index, true)
    at.value = index
    anchor = place.value
    if (event.ctrlKey || event.metaKey) {
      const next = new Set(selected.value)
      if (!next.delete(id)) next.add(id)
      selected.value = next
    } else selected.value = new Set([id])
  }

  const select = (ids: readonly string[]) => (selected.value = new Set(ids))
  return { at, selected, onKey, onClick, select }
}
