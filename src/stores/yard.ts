import { figure } from '../core/words/figures'
import { type Clip } from '../core/model/clip'
import { type SetBy } from '../core/model/timeline'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { commonColour } from '../core/choice/candidates'
import { gatherPayers, payIn } from '../core/choice/pay'
import { type Candidate, priceOf } from '../core/choice/rank'
import { type Priority, gatherVotes } from '../core/choice/vote'
import { setProjectFormat } from '../core/edit/operations'
import { formatOfClip } from '../core/edit/placing'
import { deliveredFormats, weightsOf } from '../core/model/project'
import { type Format, formatName, sameFormat } from '../core/format/format'
import type { Ranking, Mains } from '../core/toll/policy'
import { tollTable } from '../core/toll/table'
import { rankingNames } from '../core/toll/weights'
import { choiceService } from '../workers/services'
import { timeNow, useProject } from './document/project'
import { changeProject, setPriority } from '../core/edit/settings'

/** A clip as if all of its pixels were its own. */
function atFace(clip: Clip): Clip {
  const { reading } = clip
  const measured = reading?.video?.measured
  if (!reading?.video || !measured?.detail) return clip
  return {
    ...clip,
    reading: { ...reading, video: { ...reading.video, measured: { ...measured, detail: null } } },
  }
}

/** The footage weighed, the candidates ranked, and the one that is looked at. */
export const useYard = defineStore('yard', () => {
  const project = useProject()
  const ranking = shallowRef<readonly Candidate[]>([])
  const ranked = ref(false)
  /** A format that the editor looks at, and how it came up; without one, the project's or the best. */
  const looked = shallowRef<{
    readonly format: Format
    readonly setBy: SetBy
    readonly clip?: string
  } | null>(null)
  /** A second format, priced beside the first. */
  const beside = shallowRef<Format | null>(null)
  let asking = new AbortController()

  /** A clip that could not be read whole neither votes nor pays. */
  const whole = computed(() =>
    project.clips.map((clip) =>
      clip.fault
        ? { ...clip, reading: null }
        : project.doc?.project.trueDetail === false
          ? atFace(clip)
          : clip,
    ),
  )
  /** Clips in which less is than their raster says. */
  const enlarged = computed(() => project.clips.filter((clip) => clip.reading?.video?.measured?.detail))
  const setTrueDetail = (on: boolean) =>
    project.edit(on ? 'count true detail' : 'count pixels as they are', (doc) =>
      changeProject(doc, { trueDetail: on }),
    )
  const ballot = computed(() => gatherVotes(whole.value))
  const lean = computed<Ranking>(() => project.doc?.project.lean ?? 'balanced')
  const options = computed(() => ({
    lean: lean.value,
    policy: project.opened.project.policy,
    deliverables: deliveredFormats(project.opened.project),
    mains: project.opened.project.mains,
  }))
  const weights = computed(() => weightsOf(project.opened.project))
  /** Every distinct picture at every format that was asked about, priced once. */
  const table = computed(() => tollTable(weights.value))
  const pricing = computed(() => ({ ...options.value, table: table.value }))

  watch(
    () => (project.doc ? ([ballot.value, options.value] as const) : null),
    async (input) => {
      asking.abort()
      asking = new AbortController()
      const { signal } = asking
      if (!input || project.clips.length === 0) {
        ranking.value = []
        ranked.value = input !== null
        return
      }
      const [{ blocs }, options] = input
      const answer = await choiceService()
        .rank(blocs, { ...options, explained: 24 }, signal)
        .catch((error: unknown) => {
          if (!signal.aborted) throw error
        })
      if (!answer || signal.aborted) return
      ranking.value = answer
      ranked.value = true
    },
    { immediate: true },
  )
  watch(
    () => project.doc?.project.id,
    () => {
      looked.value = null
      beside.value = null
    },
  )

  const best = computed(() => ranking.value[0] ?? null)
  const candidate = computed<Format | null>(
    () => looked.value?.format ?? project.format ?? best.value?.format ?? null,
  )
  /** What was last asked to be looked at and waits for the next frame of animation; null where nothing waits. */
  const aimed = shallowRef<Format | null>(null)
  /** Makes a format the one that is looked at, or goes back to the project's or the best (null). */
  function look(format: Format | null, setBy: SetBy = 'tried', clip?: string): void {
    aimed.value = null
    looked.value = format && { format, setBy, ...(clip ? { clip } : {}) }
  }
  /** Looks at a format with the next frame of animation: however fast a candidate is moved, it is priced once a frame. */
  function aim(format: Format): void {
    const waits = aimed.value !== null
    aimed.value = format
    if (waits) return
    requestAnimationFrame(() => {
      if (aimed.value) look(aimed.value)
    })
  }
  /** The price of the format that is looked at, at once. */
  const price = computed<Candidate | null>(() =>
    candidate.value && project.doc ? priceOf(candidate.value, ballot.value.blocs, pricing.value) : null,
  )

  const payers = computed(() => gatherPayers(whole.value))
  /** What every clip pays at the candidate, and beside it at the second format. */
  const payments = computed(() =>
    candidate.value && project.doc ? payIn(payers.value, candidate.value, table.value) : [],
  )
  const paymentsBeside = computed(() =>
    beside.value && project.doc ? payIn(payers.value, beside.value, table.value) : [],
  )

  /** How much a clip counts: key three times, left out not at all. */
  const count = (clipId: string, priority: Priority) =>
    project.edit(`count ${project.doc?.clips[clipId]?.name} as ${priority}`, (doc) =>
      setPriority(doc, clipId, priority),
    )

  const setLean = (value: Ranking) =>
    project.edit(`rank for ${rankingNames[value]}`, (doc) => changeProject(doc, { lean: value }))

  const setMains = (value: Mains | null) =>
    project.edit(value ? `make it for ${value} Hz` : 'leave the region open', (doc) =>
      changeProject(doc, { mains: value }),
    )

  /** Makes a format the project's, and writes into the log who chose it, from what, and why. */
  function choose(format: Format, setBy: SetBy, clip?: string): void {
    if (!project.doc) return
    const { loss, reason } = priceOf(format, ballot.value.blocs, pricing.value)
    const words = `${clip ? `The format of ${clip}. ` : ''}Loss ${figure(loss, 2)}, ranked for ${rankingNames[lean.value]}. ${reason}`
    project.edit(`set the format to ${formatName(format)}`, (doc) =>
      setProjectFormat(doc, { at: timeNow(), setBy, format, reason: words, ...(clip ? { clip } : {}) }),
    )
    looked.value = null
  }

  /** Sets the format that is looked at: recommended where it is the best, else as it came up. */
  function chooseCandidate(): void {
    const format = candidate.value
    if (!format) return
    const isBest = best.value !== null && sameFormat(best.value.format, format)
    if (isBest) choose(format, 'recommended')
    else choose(format, looked.value?.setBy ?? 'tried', looked.value?.clip)
  }
  /** Sets the format of a clip as the project's. Stills and sound have none to give. */
  function chooseFromClip(clip: Clip): void {
    const format = formatOfClip(clip, commonColour(ballot.value.blocs, options.value.deliverables))
    if (format) choose(format, 'clip', clip.name)
  }

  return {
    enlarged,
    setTrueDetail,
    setPriority: count,
    ballot,
    ranking,
    ranked,
    best,
    lean,
    looked,
    look,
    aimed,
    aim,
    beside,
    candidate,
    price,
    weights,
    table,
    pricing,
    payments,
    paymentsBeside,
    setLean,
    setMains,
    chooseCandidate,
    chooseFromClip,
    options,
  }
})
