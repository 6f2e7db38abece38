import { deepEqual } from '../core/equality'
import { defineStore } from 'pinia'
import { type Taken, take as takeAll } from '../core/check/proposals'
import type { Cure, FindingGroup } from '../core/check/findings'
import { pictureOfPlacement } from '../core/plan/running'
import { framesThere } from '../core/edit/placing'
import { setTimelineFormat } from '../core/edit/operations'
import {
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
import { lengthen } from '../core/edit/trimming'
import type { Placement } from '../core/model/timeline'
import type { Format } from '../core/format/format'
import type { Condition, Rule } from '../core/treatment/rule'
import { type Override, treated } from '../core/treatment/treatment'
import { conditionWords, overrideWords } from '../core/treatment/words'
import { counted } from '../core/words/figures'
import { newId, timeNow, useProject } from './document/project'
import { useTimelines } from './timelines'
import type { ActOptions } from './document/history'

/** How the placements of the current timeline are treated: by themselves, by rules, by defaults. Every act is one step. */
export const useTreating = defineStore('treating', () => {
  const project = useProject()
  const timelines = useTimelines()

  /** Does something with the current timeline, as one step. */
  function edit(
    label: string,
    recipe: (doc: Parameters<Parameters<typeof project.edit>[1]>[0], timelineId: string) => void,
    how?: ActOptions,
  ) {
    const timeline = timelines.current
    if (timeline) project.act(label, (doc) => recipe(doc, timeline.id), how)
  }
  const whom = (placements: readonly Placement[]): string => {
    const [placement] = placements
    return placement && placements.length === 1
      ? timelines.nameOf(placement)
      : counted(placements.length, 'placement')
  }
  const idsOf = (placements: readonly Placement[]) => placements.map(({ id }) => id)

  /** Sets something of how placements are treated. */
  const set = (placements: readonly Placement[], override: Override, how?: ActOptions) =>
    edit(
      `treat ${whom(placements)}: ${overrideWords(override)}`,
      (doc, id) => treat(doc, id, idsOf(placements), override),
      how,
    )

  /** Treats placements as is proposed. */
  function take(taken: readonly Taken[]): void {
    if (taken.length === 0) return
    edit(`treat ${whom(taken.map(({ placement }) => placement))} as is usual`, (doc, id) =>
      takeAll(doc, id, taken),
    )
  }

  /** Takes back what placements set of their own, or some of it. */
  const asDefault = (placements: readonly Placement[], parts: readonly TreatmentPart[] | null = null) =>
    edit(`treat ${whom(placements)} as the timeline says`, (doc, id) =>
      untreat(doc, id, idsOf(placements), parts),
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
      untreat(doc, id, idsOf(placements))
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
      untreat(doc, id, idsOf(placements))
    })
  }
  const changeRule = (rule: Rule, label: string) => edit(label, (doc, id) => setRule(doc, id, rule))
  /** Lets a rule set what placements set of their own; it is theirs then no more. */
  const setRuleFrom = (rule: Rule, placements: readonly Placement[]) =>
    edit(`rule: ${conditionWords(rule.when)}: ${overrideWords(ownOf(placements))}`, (doc, id) => {
      setRule(doc, id, { ...rule, set: ownOf(placements) })
      untreat(doc, id, idsOf(placements))
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
      acceptFindings(doc, id, idsOf(placements), kind, word, timeNow()),
    )
  /** Gives the current timeline the picture of what goes out. */
  const runAs = (format: Format) =>
    edit('give the timeline the format that goes out', (doc, id) =>
      setTimelineFormat(doc, id, format, { setBy: 'delivery', clip: null }),
    )

  return {
    set,
    take,
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
