import type { Place } from '../place'

/** Where keys are heard: each place of the keyboard has its own, and none of them may clash within one. */
export const keyScopes = {
  everywhere: { name: 'everywhere', place: null },
  lists: { name: 'in every list', place: null },
  arrivals: { name: 'in the list of clips', place: 'arrivals' },
  closer: { name: 'looking closer', place: 'arrivals' },
  yard: { name: 'in the yard', place: 'yard' },
  tolls: { name: 'in the tolls', place: 'yard' },
  scale: { name: 'in a drawing to scale', place: 'yard' },
  toPlace: { name: 'on a clip that can be placed', place: 'timelines' },
  cut: { name: 'in the cut', place: 'timelines' },
  picture: { name: 'on the picture in hand', place: 'timelines' },
  choices: { name: 'in the choices of a docket', place: 'timelines' },
} as const satisfies Record<string, { readonly name: string; readonly place: Place | null }>
export type KeyScope = keyof typeof keyScopes

/** What a key does. Fixed ones are those of every program (arrows, Enter, Ctrl Z); the others may be changed or turned off. */
export interface Action {
  readonly id: string
  readonly where: KeyScope
  /** As the browser names keys: `KeyboardEvent.key`; for fixed ones as it is told to people. */
  readonly key: string
  readonly does: string
  readonly fixed: boolean
}

const fixed = (where: KeyScope, lines: readonly (readonly [key: string, does: string])[]): Action[] =>
  lines.map(([key, does]) => ({ id: `${where}.${does}`, where, key, does, fixed: true }))
const own = (
  where: KeyScope,
  lines: readonly (readonly [id: string, key: string, does: string])[],
): Action[] => lines.map(([id, key, does]) => ({ id: `${where}.${id}`, where, key, does, fixed: false }))

/** Everything that the keyboard does, place by place: the sheet of keys and every listener read it. */
export const actions: readonly Action[] = [
  ...fixed('everywhere', [
    ['Ctrl Z', 'undo (Cmd Z)'],
    ['Ctrl Shift Z', 'redo'],
    ['Tab', 'on to the next part; with Shift back'],
    ['Escape', 'leave a sheet, a docket or what is in hand'],
  ]),
  ...own('everywhere', [
    ['keys', '?', 'these keys'],
    ['terms', ';', 'the terms on this screen, explained'],
  ]),
  ...fixed('lists', [
    ['↑ ↓ Home End', 'move in the list; with Shift the selection grows'],
    ['letters', 'find by name'],
    ['Enter', 'open what is in hand'],
  ]),
  ...fixed('arrivals', [
    ['Ctrl A', 'select all clips'],
    ['Enter', 'look closer'],
    ['Delete', 'take the selected clips out'],
  ]),
  ...fixed('closer', [['← →', 'a frame back or on; with Shift a field']]),
  ...own('closer', [
    ['play', ' ', 'play or pause'],
    ['in', '+', 'zoom in'],
    ['out', '-', 'zoom out'],
  ]),
  ...fixed('yard', [
    ['← → ↑ ↓', 'move the candidate'],
    ['Escape', 'back to the project’s format, or the best'],
  ]),
  ...fixed('tolls', [['Enter', 'open the docket of a clip']]),
  ...own('tolls', [
    ['less', '<', 'the clip in hand counts less'],
    ['more', '>', 'the clip in hand counts more'],
  ]),
  ...fixed('scale', [['← → ↑ ↓', 'move the place that is looked at closely']]),
  ...fixed('toPlace', [
    ['Enter', 'place it at the end'],
    ['← →', 'a frame back or on in the clip that is looked at'],
    ['Escape', 'stop looking at it'],
  ]),
  ...own('toPlace', [
    ['insert', 'i', 'insert it at the playhead'],
    ['over', 'o', 'put it over what is there'],
    ['above', 'u', 'put it on the track above'],
    ['look', 'v', 'look at it'],
    ['from', '[', 'mark where it begins'],
    ['to', ']', 'mark where it ends'],
  ]),
  ...fixed('cut', [
    ['← →', 'a frame back or on; with Shift a second'],
    ['↑ ↓', 'from cut to cut'],
    ['Home End', 'to the beginning, to the end'],
    ['Enter', 'take what is under the playhead'],
    ['Delete', 'take it out'],
    ['Page ↑ ↓', 'move it a track up or down'],
    ['Ctrl A', 'take all'],
    ['Ctrl C', 'copy'],
    ['Ctrl X', 'copy and take out'],
    ['Ctrl V', 'paste over; with Shift insert'],
  ]),
  ...own('cut', [
    ['field-back', ',', 'a field back'],
    ['field-on', '.', 'a field on'],
    ['play', ' ', 'play or stop'],
    ['play-hand', 'p', 'play what is in hand'],
    ['round', 'o', 'round and round, or once'],
    ['loupe', 'z', 'one to one'],
    ['ways', 'b', 'two ways: split, beside, one'],
    ['before', '<', 'take the one before'],
    ['next', '>', 'take the next'],
    ['treatment', 't', 'paste the treatment only'],
    ['default', 'd', 'back to the default'],
    ['finding', 'x', 'the next finding'],
    ['cut', 'n', 'cut at the playhead; every frame stays as it is'],
    ['start-earlier', '1', 'the beginning a frame earlier; with Shift ten'],
    ['start-later', '2', 'the beginning a frame later'],
    ['end-earlier', '3', 'the end a frame earlier'],
    ['end-later', '4', 'the end a frame later'],
    ['slip-back', '5', 'slip what is inside a frame back'],
    ['slip-on', '6', 'slip what is inside a frame on'],
    ['earlier', '7', 'move it a frame earlier'],
    ['later', '8', 'move it a frame later'],
    ['swap-before', 'e', 'it goes before the one before'],
    ['swap-behind', 'l', 'it goes behind the next'],
    ['following', 'f', 'what follows stays or moves'],
    ['snap', 'h', 'edges draw or are free'],
    ['gaps', 'g', 'close all gaps'],
    ['pair', 'y', 'pair picture and sound, or let them go apart'],
    ['in', '+', 'zoom in'],
    ['out', '-', 'zoom out'],
    ['whole', '0', 'the whole cut'],
  ]),
  ...fixed('picture', [['← → ↑ ↓', 'move it by a pixel; with Shift by ten']]),
  ...fixed('choices', [
    ['↑ ↓', 'show the way before or the next, without taking it'],
    ['Enter', 'take it'],
  ]),
]

/** The keys that are heard in a place, its own first. */
export const actionsIn = (place: Place | null): Action[] => {
  const here = actions.filter(({ where }) => keyScopes[where].place === place && place !== null)
  return [...here, ...actions.filter(({ where }) => keyScopes[where].place === null)]
}
