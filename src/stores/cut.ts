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
import { type Marks, placementOf, framesThere } from '../core/edit/placing'
import type { Doc } from '../core/model/project'
import type { Placement, PlacementSource, Timeline, Track, TrackKind } from '../core/model/timeline'
import { type Following, slip, trimEnd, trimStart, lengthen } from '../core/edit/trimming'
import {
  treatLike,
  type TreatmentPart,
  acceptFindings,
  clearDefaults,
  commonCondition,
  moveRule,
  removeRule,
  setDefaults,
  setRule,
  treat,
  untreat,
} from '../core/edit/treating'
import { type Override, treated } from '../core/treatment/treatment'
import { counted } from '../core/words/figures'
import { useSelection } from './selection'
import { newId, timeNow, useProject } from './document/project'
import { useTimelines } from './timelines'
import type { ActOptions } from './document/history'
import { deepEqual } from '../core/equality'
import { type Taken, take as takeAll } from '../core/check/proposals'
import type { Cure, FindingGroup } from '../core/check/findings'
import { pictureOfPlacement } from '../core/plan/running'
import { setTimelineFormat } from '../core/edit/operations'
import type { Format } from '../core/format/format'
import type { Condition, Rule } from '../core/treatment/rule'
import { conditionWords, overrideWords } from '../core/treatment/words'

/** A clip that is looked at before it is placed, and what of it is wanted. */
export interface Viewed {
  readonly clip: Clip
  readonly frame: number
  readonly marks: Partial<Marks>
}

/**
 * What is done to the cut of the current timeline: where placements lie, and how they are treated, by themselves, by rules, by defaults.
 * Every act is one step; what is dragged on and on is one too.
 */
export const useCut = defineStore('cut', () => {
  const project = useProject()
  const timelines = useTimelines()
  const selection = useSelection()

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
  const listOf = (placements: readonly Placement[]) => placements.map(({ id }) => id)

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
      (doc, id) =>
        void movePlacements(doc, id, idsOf(placements), { byFrames: frames, byTracks: tracks }, newId),
      how,
    )

  function copy(): void {
    const timeline = timelines.current
    if (!timeline || selection.placements.length === 0) return
    clipboard.value = copied(timeline, idsOf(selection.placements), newId)
    copiedTreatment.value = selection.placements[0]?.treatment ?? null
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
      putAt(doc, id, fresh, { frame: selection.playhead, putting }, newId),
    )
    selection.select(fresh.map(({ placement }) => placement.id))
  }
  /** Treats what is in hand as what was copied is treated, and changes nothing else. */
  function pasteTreatment(): void {
    const treatment = copiedTreatment.value
    if (treatment && selection.placements.length)
      edit(`paste the treatment onto ${whom(selection.placements)}`, (doc, id) =>
        treatLike(doc, id, [...idsOf(selection.placements)], treatment),
      )
  }

  const pair = () =>
    edit(`pair ${whom(selection.placements)}`, (doc, id) => {
      const why = link(doc, id, idsOf(selection.placements), newId)
      if (why) throw new Refused(why)
    })
  const unpair = () =>
    edit(`let ${whom(selection.placements)} go apart`, (doc, id) =>
      unlink(doc, id, idsOf(selection.placements)),
    )
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
      putAt(doc, timelineId, [figure], { frame: selection.playhead, putting: 'insert' }, newId)
    })
    selection.select([id])
  }

  /** Sets something of how placements are treated. */
  const setTreatment = (placements: readonly Placement[], override: Override, how?: ActOptions) =>
    edit(
      `treat ${whom(placements)}: ${overrideWords(override)}`,
      (doc, id) => treat(doc, id, listOf(placements), override),
      how,
    )

  /** Treats placements as is proposed. */
  function treatAsProposed(taken: readonly Taken[]): void {
    if (taken.length === 0) return
    edit(`treat ${whom(taken.map(({ placement }) => placement))} as is usual`, (doc, id) =>
      takeAll(doc, id, taken),
    )
  }

  /** Takes back what placements set of their own, or some of it. */
  const asDefault = (placements: readonly Placement[], parts: readonly TreatmentPart[] | null = null) =>
    edit(`treat ${whom(placements)} as the timeline says`, (doc, id) =>
      untreat(doc, id, listOf(placements), parts),
    )

  /** Makes placements as long as what they have to show. */
  const asLongAsThere = (placements: readonly Placement[]) =>
    edit(`give ${whom(placements)} all of its length`, (doc, id) => {
      for (const placement of placements) {
        const timeline = doc.timelines[id]
        const frames = timeline && framesThere(doc, timeline, placement)
        if (frames) lengthen(doc, id, placement.id, frames)
      }
    })

  /** What all of some placements set of their own, alike; nothing where they differ. */
  function ownOf(placements: readonly Placement[]): Override {
    const [first, ...rest] = placements.map(({ treatment }) => treatment)
    const alike = rest.every((other) => deepEqual(treated([other]), treated([first ?? {}])))
    return first && alike ? first : {}
  }
  /** Makes what placements set of their own the timeline's default; it is theirs then no more. */
  const asDefaults = (placements: readonly Placement[], override: Override) =>
    edit(`by default: ${overrideWords(override)}`, (doc, id) => {
      setDefaults(doc, id, override)
      untreat(doc, id, listOf(placements))
    })
  /** Takes all of a timeline's defaults back. */
  const dropDefaults = () => edit('take the defaults back', (doc, id) => clearDefaults(doc, id))

  /** What a rule out of placements would be for: all that they have in common. */
  function conditionOf(placements: readonly Placement[]): Condition {
    return commonCondition(
      placements.flatMap((placement) => pictureOfPlacement(project.opened, placement) ?? []),
    )
  }

  /** Makes a rule that sets what placements set of their own; it is theirs then no more. */
  function makeRule(placements: readonly Placement[], when: Condition, override: Override): void {
    const rule: Rule = { id: newId(), when, set: override, on: true }
    edit(`rule: ${conditionWords(when)}: ${overrideWords(override)}`, (doc, id) => {
      setRule(doc, id, rule)
      untreat(doc, id, listOf(placements))
    })
  }
  const changeRule = (rule: Rule, label: string) => edit(label, (doc, id) => setRule(doc, id, rule))
  /** Lets a rule set what placements set of their own; it is theirs then no more. */
  const setRuleFrom = (rule: Rule, placements: readonly Placement[]) =>
    edit(`rule: ${conditionWords(rule.when)}: ${overrideWords(ownOf(placements))}`, (doc, id) => {
      setRule(doc, id, { ...rule, set: ownOf(placements) })
      untreat(doc, id, listOf(placements))
    })
  const switchRule = (rule: Rule) =>
    changeRule(
      { ...rule, on: !rule.on },
      `${rule.on ? 'switch off' : 'switch on'}: ${conditionWords(rule.when)}`,
    )
  const dropRule = ({ id: ruleId, when }: Rule) =>
    edit(`take out the rule for ${conditionWords(when)}`, (doc, id) => removeRule(doc, id, ruleId))
  const shiftRule = ({ id: ruleId, when }: Rule, by: number) =>
    edit(`move the rule for ${conditionWords(when)}`, (doc, id) => moveRule(doc, id, ruleId, by))

  /** Does what helps against a kind of finding. */
  const cure = ({ title }: FindingGroup, { does, treats }: Cure) =>
    edit(`${title}: ${does}`, (doc, id) => takeAll(doc, id, treats))
  /** Accepts a kind of finding as it is; with no word it is open again. */
  const accept = ({ kind, title, placements }: FindingGroup, word: string | null) =>
    edit(word === null ? `open again: ${title}` : `accept ${title}`, (doc, id) =>
      acceptFindings(doc, id, listOf(placements), { charge: kind, word, at: timeNow() }),
    )
  /** Gives the current timeline the picture of what goes out. */
  const runAs = (format: Format) =>
    edit('give the timeline the format that goes out', (doc, id) =>
      setTimelineFormat(doc, id, format, { setBy: 'delivery', clip: null }),
    )

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
    setTreatment,
    treatAsProposed,
    asDefault,
    asLongAsThere,
    ownOf,
    asDefaults,
    dropDefaults,
    setRuleFrom,
    conditionOf,
    makeRule,
    switchRule,
    dropRule,
    shiftRule,
    cure,
    accept,
    runAs,
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
