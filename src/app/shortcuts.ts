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
    { keys: 'Enter', does: 'on a clip of the list: place it at the end' },
    { keys: 'I O U', does: 'on a clip of the list: insert it, put it over, above' },
    { keys: 'V ← → [ ]', does: 'on a clip of the list: look at it, a frame back or on, mark in, out' },
    { keys: '← →', does: 'in the cut: a frame back or on; with Shift a second' },
    { keys: ', .', does: 'in the cut: a field back or on' },
    { keys: '↑ ↓', does: 'in the cut: from cut to cut' },
    { keys: 'Space', does: 'in the cut: play or stop' },
    { keys: 'P O', does: 'in the cut: play what is in hand; round and round or once' },
    { keys: 'Z B', does: 'in the cut: one to one; two ways, split, beside' },
    { keys: 'Enter < >', does: 'in the cut: take what is under the playhead, the one before, the next' },
    { keys: 'Ctrl A C X V', does: 'in the cut: take all; copy, cut out, paste over; with Shift insert' },
    { keys: 'T D', does: 'in the cut: paste the treatment only; back to the default' },
    { keys: 'X', does: 'in the cut: the next finding' },
    { keys: '/', does: 'in the cut: cut at the playhead; every frame stays as it is' },
    { keys: 'Delete', does: 'in the cut: take it out' },
    { keys: '1 2, 3 4', does: 'in the cut: the beginning, the end a frame earlier or later; with Shift ten' },
    { keys: '5 6', does: 'in the cut: slip what is inside a frame back or on' },
    { keys: '7 8', does: 'in the cut: move it a frame earlier or later' },
    { keys: 'Page ↑ ↓', does: 'in the cut: move it a track up or down' },
    { keys: 'E L', does: 'in the cut: what is in hand goes before the one before, behind the next' },
    { keys: 'F H G', does: 'in the cut: what follows stays or moves; edges draw or are free; close gaps' },
    { keys: 'Y', does: 'in the cut: pair picture and sound, or let them go apart' },
    { keys: '+ − 0', does: 'in the cut: zoom, and the whole of it' },
    { keys: 'arrows', does: 'on the picture in hand: move it by a pixel; with Shift by ten' },
  ],
  dispatch: [],
}
