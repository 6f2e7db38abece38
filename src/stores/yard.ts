import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { type Candidate, priceOf } from '../core/choice/rank'
import { type Priority, gatherVotes } from '../core/choice/vote'
import { setProjectFormat } from '../core/edit/operations'
import type { SetBy } from '../core/edit/project'
import { type Format, formatName, formatText } from '../core/format/format'
import type { Lean } from '../core/toll/policy'
import { choiceService } from '../workers/services'
import { now, useProject } from './project'

/** The footage weighed, the candidates ranked, and the one that is looked at. */
export const useYard = defineStore('yard', () => {
  const project = useProject()
  const ranking = shallowRef<readonly Candidate[]>([])
  const ranked = ref(false)
  /** A format that the editor looks at; without one, the project's or the best. */
  const looked = shallowRef<Format | null>(null)
  let asked = 0

  const ballot = computed(() => gatherVotes(project.clips))
  const lean = computed<Lean>(() => project.doc?.project.lean ?? 'balanced')
  const options = computed(() => ({
    lean: lean.value,
    policy: project.doc!.project.policy,
    deliverables: project.doc!.project.deliverables,
  }))

  watch(
    () => (project.doc ? ([ballot.value, options.value] as const) : null),
    async (input) => {
      const mine = ++asked
      if (!input || input[0].blocs.length === 0) {
        ranking.value = []
        ranked.value = input !== null
        return
      }
      const answer = await choiceService().rank(input[0].blocs, { ...input[1], explained: 24 })
      if (mine !== asked) return
      ranking.value = answer
      ranked.value = true
    },
    { immediate: true },
  )
  watch(
    () => project.doc?.project.id,
    () => (looked.value = null),
  )

  const best = computed(() => ranking.value[0] ?? null)
  const candidate = computed<Format | null>(
    () => looked.value ?? project.format ?? best.value?.format ?? null,
  )
  /** The price of the format that is looked at, at once. */
  const price = computed<Candidate | null>(() =>
    candidate.value && project.doc ? priceOf(candidate.value, ballot.value.blocs, options.value) : null,
  )

  /** How much a clip counts: key three times, left out not at all. */
  const setPriority = (clipId: string, priority: Priority) =>
    project.edit(
      `count ${project.doc?.clips[clipId]?.name} as ${priority}`,
      (doc) => void (doc.clips[clipId].priority = priority),
    )

  const setLean = (value: Lean) => project.edit(`lean to ${value}`, (doc) => void (doc.project.lean = value))

  /** Makes a format the project's, and writes into the log who chose it and why. */
  function choose(format: Format, setBy: SetBy): void {
    if (!project.doc) return
    const { score, reason } = priceOf(format, ballot.value.blocs, options.value)
    const words = `Score ${score.toFixed(2)}, ${lean.value}. ${reason}`
    project.edit(`set the format to ${formatName(format)}`, (doc) =>
      setProjectFormat(doc, { at: now(), setBy, format, reason: words }),
    )
    looked.value = null
  }

  /** How a format came to be looked at: the best of the ranking, or tried. */
  const originOf = (format: Format): SetBy =>
    best.value && formatText(best.value.format) === formatText(format) ? 'recommended' : 'tried'

  /** Formats that will be handed over: candidates are priced for them too. */
  const deliver = (format: Format) =>
    project.edit(`deliver ${formatName(format)}`, (doc) => {
      if (!doc.project.deliverables.some((d) => formatText(d) === formatText(format)))
        doc.project.deliverables.push(format)
    })
  const deliverNot = (format: Format) =>
    project.edit(`do not deliver ${formatName(format)}`, (doc) => {
      doc.project.deliverables = doc.project.deliverables.filter((d) => formatText(d) !== formatText(format))
    })

  return {
    deliver,
    deliverNot,
    setPriority,
    ballot,
    ranking,
    ranked,
    best,
    lean,
    looked,
    candidate,
    price,
    setLean,
    choose,
    originOf,
  }
})
