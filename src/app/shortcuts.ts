import type { Place } from './router'

/** A key, and what it does. */
export interface Shortcut {
  readonly keys: string
  readonly does: string
}

const lists: readonly Shortcut[] = [
  { keys: '↑ ↓ Home End', does: 'move in the list; with Shift the selection grows' },
  { keys: 'letters', does: 'find by name' },
]

/** What the keyboard does in each place, for the sheet that `?` opens. */
export const shortcuts: Record<Place | 'everywhere', readonly Shortcut[]> = {
  everywhere: [
    { keys: 'Ctrl Z', does: 'undo (Cmd Z)' },
    { keys: 'Ctrl Shift Z', does: 'redo' },
    { keys: '?', does: 'this sheet' },
  ],
  arrivals: [
    ...lists,
    { keys: 'Ctrl A', does: 'select all clips' },
    { keys: 'Enter', does: 'look closer' },
    { keys: 'Delete', does: 'take the selected clips out' },
    { keys: '← →', does: 'closer: a frame back or on; with Shift a field' },
    { keys: 'Space', does: 'closer: play or pause' },
    { keys: '+ −', does: 'closer: zoom' },
  ],
  yard: [
    { keys: '← → ↑ ↓', does: 'in the yard: move the candidate' },
    { keys: 'Escape', does: 'in the yard: back to the project’s format, or the best' },
    ...lists,
    { keys: 'Enter', does: 'open the docket of a clip' },
    { keys: '< >', does: 'in the tolls: the clip in hand counts less or more' },
    { keys: 'Escape', does: 'leave the docket' },
    { keys: '← → ↑ ↓', does: 'in a drawing to scale: move the place that is looked at closely' },
  ],
  timelines: [
    { keys: 'Enter', does: 'on a clip of the list: place it' },
    { keys: '← →', does: 'in the cut: a frame back or on; with Shift a second' },
    { keys: '↑ ↓', does: 'in the cut: from cut to cut' },
    { keys: 'Enter', does: 'in the cut: open the docket of what is under the playhead' },
    { keys: 'Delete', does: 'in the cut: take it out' },
    { keys: '/', does: 'in the cut: cut at the playhead; every frame stays as it is' },
    { keys: 'E L', does: 'in the cut: what is in hand goes earlier or later' },
    { keys: '+ − 0', does: 'in the cut: zoom, and the whole of it' },
  ],
  dispatch: [],
}
