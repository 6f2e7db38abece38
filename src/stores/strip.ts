import { defineStore } from 'pinia'
import { ref, shallowRef } from 'vue'
import {
  type PlacementsToPut,
  addTrack,
  changeSound,
  changeTimeline,
  changeTrack,
  closeGaps,
  copied,
  movePlacements,
  putAt,
  removeTrack,
} from '../core/edit/arranging'
import { Refused } from '../core/edit/change'
import type { Clip } from '../core/model/clip'
import { link, unlink } from '../core/edit/linking'
import type { Draft } from '../core/edit/draft'
import { type Marks, placementOf } from '../core/edit/placing'
import type { Doc } from '../core/model/project'
import {
  type Placement,
  type PlacementSource,
  type Timeline,
  type Track,
  type TrackKind,
} from '../core/model/timeline'
import { type Following, slip, trimEnd, trimStart } from '../core/edit/trimming'
import { treatLike } from '../core/edit/treating'
import type { Override } from '../core/treatment/treatment'
import { counted } from '../core/words/figures'
import { useHand } from './hand'
import { newId, useProject } from './document/project'
import { useTimelines } from './timelines'
import type { ActOptions } from './document/history'

/** A clip that is looked at before it is placed, and what of it is wanted. */
export interface Viewed {
  readonly clip: Clip
  readonly frame: number
  readonly marks: Partial<Marks>
}

/** What is done to the strip of the current timeline. Every act is one step; what is dragged on and on is one too. */
export const useStrip = defineStore('strip', () => {
  const project = useProject()
  const timelines = useTimelines()
  const hand = useHand()

  /** What follows a placement whose ends are trimmed. */
  const following = ref<Following>('stays')
  const snaps = ref(true)
  /** What was copied. */
  const clipboard = shallowRef<readonly PlacementsToPut[]>([])
  /** The treatment of what was copied first. */
  const copiedTreatment = shallowRef<Override | null>(null)
  const viewed = shallowRef<Viewed | null>(null)

  function edit(
    label: string,
    recipe: (doc: Draft<Doc>, timelineId: string) => void,
    how?: ActOptions,
  ): void {
    const timeline = timelines.current
    if (timeline) project.act(label, (doc) => recipe(doc, timeline.id), how)
  }
  const whom = (placements: readonly Placement[]) => {
    const [placement] = placements
    return placement && placements.length === 1
      ? timelines.nameOf(placement)
      : counted(placements.length, 'placement')
  }
  const idsOf = (placements: readonly Placement[]) => new Set(placements.map(({ id }) => id))

  /** Trims an end of a placement by frames. */
  function trim(placement: Placement, end: 'start' | 'end', by: number, how: ActOptions = {}): void {
    const does = end === 'start' ? trimStart : trimEnd
    edit(
      `trim ${timelines.nameOf(placement)}`,
      (doc, id) => void does(doc, id, placement.id, by, following.value),
      { joins: `trim ${end} ${placement.id}`, ...how },
    )
  }
  const slipBy = (placement: Placement, by: number, how: ActOptions = {}) =>
    edit(`slip ${timelines.nameOf(placement)}`, (doc, id) => void slip(doc, id, placement.id, by), {
      joins: `slip ${placement.id}`,
      ...how,
    })
  /** Moves what is in hand by frames and tracks; what it comes to lie on is covered. */
  const moveBy = (placements: readonly Placement[], frames: number, tracks = 0, how: ActOptions = {}) =>
    edit(
      `move ${whom(placements)}`,
      (doc, id) => void movePlacements(doc, id, idsOf(placements), frames, tracks, newId),
      how,
    )

  function copy(): void {
    const timeline = timelines.current
    if (!timeline || hand.placements.length === 0) return
    clipboard.value = copied(timeline, idsOf(hand.placements), newId)
    copiedTreatment.value = hand.placements[0]?.treatment ?? null
  }
  /** Puts what was copied at the playhead: over what is there, or between it. */
  function paste(putting: 'insert' | 'over'): void {
    if (clipboard.value.length === 0) return
    // Each time it is put it is something of its own.
    const pairs = new Map<string, string>()
    const fresh = clipboard.value.map((wanted) => {
      const { pairId } = wanted.placement
      if (pairId !== null && !pairs.has(pairId)) pairs.set(pairId, newId())
      return {
        ...wanted,
        placement: {
          ...wanted.placement,
          id: newId(),
          pairId: pairId === null ? null : (pairs.get(pairId) ?? null),
        },
      }
    })
    edit(`paste ${counted(fresh.length, 'placement')}`, (doc, id) =>
      putAt(doc, id, fresh, hand.playhead, putting, newId),
    )
    hand.select(fresh.map(({ placement }) => placement.id))
  }
  /** Treats what is in hand as what was copied is treated, and changes nothing else. */
  function pasteTreatment(): void {
    const treatment = copiedTreatment.value
    if (treatment && hand.placements.length)
      edit(`paste the treatment onto ${whom(hand.placements)}`, (doc, id) =>
        treatLike(doc, id, [...idsOf(hand.placements)], treatment),
      )
  }

  const pair = () =>
    edit(`pair ${whom(hand.placements)}`, (doc, id) => {
      const why = link(doc, id, idsOf(hand.placements), newId)
      if (why) throw new Refused(why)
    })
  const unpair = () =>
    edit(`let ${whom(hand.placements)} go apart`, (doc, id) => unlink(doc, id, idsOf(hand.placements)))
  const closeAllGaps = (track: Track | null) =>
    edit(track ? `close the gaps of ${track.name}` : 'close all gaps', (doc, id) =>
      closeGaps(doc, id, track?.id ?? null),
    )
  const setSound = (placements: readonly Placement[], set: Partial<Pick<Placement, 'gain' | 'channels'>>) =>
    edit(`sound of ${whom(placements)}`, (doc, id) => changeSound(doc, id, idsOf(placements), set), {
      joins: `sound ${[...idsOf(placements)].join(' ')}`,
    })

  const makeTrack = (kind: TrackKind) =>
    edit(
      `add a track of ${kind === 'video' ? 'pictures' : 'sound'}`,
      (doc, id) => void addTrack(doc, id, kind, newId),
    )
  const dropTrack = (track: Track) =>
    edit(`take track ${track.name} out`, (doc, id) => removeTrack(doc, id, track.id))
  const setTrack = (track: Track, set: Partial<Pick<Track, 'name' | 'hidden' | 'muted' | 'locked'>>) =>
    edit(`track ${track.name}: ${wordsOf(set)}`, (doc, id) => changeTrack(doc, id, track.id, set))
  const setTimeline = (
    set: Partial<Pick<Timeline, 'soundLayout' | 'sampleRate' | 'startTimecode' | 'dropFrame'>>,
    id = timelines.current?.id,
  ) => id && project.edit(`timeline: ${wordsOf(set)}`, (doc) => changeTimeline(doc, id, set))

  /** Inserts the test figure at the playhead. */
  function placeFigure(source: Extract<PlacementSource, { kind: 'figure' }>, frames: number): void {
    const id = newId()
    edit('place the test figure', (doc, timelineId) => {
      const figure: PlacementsToPut = {
        kind: 'video',
        offset: 0,
        above: 0,
        placement: { ...blank, id, source, length: frames },
      }
      putAt(doc, timelineId, [figure], hand.playhead, 'insert', newId)
    })
    hand.select([id])
  }

  return {
    following,
    snaps,
    clipboard,
    copiedTreatment,
    viewed,
    trim,
    slipBy,
    moveBy,
    copy,
    paste,
    pasteTreatment,
    pair,
    unpair,
    closeAllGaps,
    setSound,
    makeTrack,
    dropTrack,
    setTrack,
    setTimeline,
    placeFigure,
  }
})

const blank: Omit<ReturnType<typeof placementOf>, 'id' | 'source' | 'length'> = {
  sourceIn: { num: 0, den: 1 },
  treatment: {},
  framingByShape: {},
  gain: 0,
  channels: null,
  pairId: null,
}

/** What is changed, in words: `hidden`, `not muted`, `called Titles`. */
const wordsOf = (set: Readonly<Record<string, unknown>>): string =>
  Object.entries(set)
    .map(([key, value]) =>
      typeof value === 'boolean' ? `${value ? '' : 'not '}${key}` : `${key} ${String(value)}`,
    )
    .join(', ')
