import { type Doc, formatOf, timelinesOf } from '../model/project'
import { reframed } from '../edit/reformat'
import { type Timeline, lengthOf, leadsIn } from '../model/timeline'
import { type Format, formatName, sameFormat } from '../format/format'
import { frameToTimecode } from '../rate/timecode'
import { equal } from '../rational/rational'
import { type Grade, grades } from '../toll/grade'
import { counted, milliseconds } from '../words/figures'
import { checkTimeline } from './check'

/** What setting a format does to one timeline, told before it is done. */
export interface Consequence {
  readonly timeline: Timeline
  /** What it runs in now; null while undecided. */
  readonly before: Format | null
  /** What it would run in; null where it would follow a project without a format. */
  readonly after: Format | null
  readonly changes: boolean
  /** How many clips are placed. */
  readonly placed: number
  readonly gradesBefore: Readonly<Record<Grade, number>> | null
  readonly gradesAfter: Readonly<Record<Grade, number>> | null
  /** What becomes of the cut where the rate changes. */
  readonly carried: {
    /** How far the cut that moves most moves, in milliseconds. */
    readonly driftMs: number
    /** Boundaries that do not lie on the frame nearest to their time: a placement before them is kept at one frame. */
    readonly pushed: number
    /** Placements that would reach beyond the end of their source. */
    readonly runOut: number
    readonly framesBefore: number
    readonly framesAfter: number
  } | null
}

/**
 * What would become of every timeline if the project took a format: those that follow change, those with their own stay.
 * @param checkNow how a timeline as it is is checked, where that is known already
 */
export const consequencesOf = (doc: Doc, format: Format, checkNow = checkTimeline): Consequence[] => {
  const decided = { ...doc, project: { ...doc.project, format } }
  return timelinesOf(doc).map((timeline) => consequence(doc, decided, timeline, timeline, checkNow))
}

/** What would become of one timeline if it took a format of its own, or followed the project (null). */
export const consequenceFor = (doc: Doc, timeline: Timeline, ownFormat: Format | null): Consequence =>
  consequence(doc, doc, timeline, { ...timeline, ownFormat })

/** Told from the cut as it comes out, by the function that carries it. */
function consequence(
  docBefore: Doc,
  docAfter: Doc,
  from: Timeline,
  to: Timeline,
  checkNow = checkTimeline,
): Consequence {
  const before = formatOf(docBefore, from)
  const after = formatOf(docAfter, to)
  const { timeline, boundaries, runOut } = reframed(docBefore, docAfter, from, to)
  const placed = leadsIn(from).length
  const moves = placed > 0 && from.rate && timeline.rate && !equal(from.rate, timeline.rate)
  return {
    timeline: from,
    before,
    after,
    changes: !(before && after ? sameFormat(before, after) : before === after),
    placed,
    gradesBefore: checkNow(docBefore, from)?.countByGrade ?? null,
    gradesAfter: checkTimeline(docAfter, timeline)?.countByGrade ?? null,
    carried: moves
      ? {
          driftMs: Math.max(0, ...boundaries.map(({ driftMs }) => Math.abs(driftMs))),
          pushed: boundaries.filter(({ pushed }) => pushed).length,
          runOut: runOut.length,
          framesBefore: lengthOf(from),
          framesAfter: lengthOf(timeline),
        }
      : null,
  }
}

/** A consequence in one sentence with its figures. */
export function consequenceSentence({ timeline, before, after, changes, placed, ...c }: Consequence): string {
  const name = `“${timeline.name}”`
  if (!changes) {
    const why = timeline.ownFormat
      ? `has its own format, ${formatName(timeline.ownFormat)}, and stays`
      : 'stays'
    return `${name} ${why}.`
  }
  const way = [
    before ? `from ${formatName(before)}` : '',
    after ? `to ${formatName(after)}` : 'to no format yet',
  ]
  const said = [`${name} goes ${way.filter(Boolean).join(' ')}`]
  if (placed === 0) said.push('nothing is placed in it')
  if (c.carried && after && timeline.rate) {
    const { driftMs, pushed, runOut, framesBefore, framesAfter } = c.carried
    said.push(
      driftMs < 0.05 ? 'every cut stays in time' : `cuts move by at most ${milliseconds(driftMs)}`,
      `length ${frameToTimecode(framesBefore, timeline.rate)} → ${frameToTimecode(framesAfter, after.rate)}`,
    )
    if (pushed > 0)
      said.push(`${counted(pushed, 'boundary', 'boundaries')} pushed by placements of one frame`)
    if (runOut > 0) said.push(`${counted(runOut, 'placement')} longer than what is left of the source`)
  }
  const { gradesAfter, gradesBefore } = c
  if (placed > 0 && gradesAfter)
    said.push(
      grades
        .filter((grade) => (gradesBefore?.[grade] ?? 0) !== gradesAfter[grade])
        .map((grade) => `${grade} ${gradesBefore ? `${gradesBefore[grade]} → ` : ''}${gradesAfter[grade]}`)
        .join(', ') || 'no clip pays another grade',
    )
  return `${said.join('; ')}.`
}

/** What cannot be cheaply undone later: the rate, once clips are placed. */
export const costlyLater = (doc: Doc): string => {
  const placed = timelinesOf(doc).reduce((n, timeline) => n + leadsIn(timeline).length, 0)
  return placed === 0
    ? 'Nothing is placed yet, so all of it is still free. Later the rate is the costly one: every cut has to move. The size stays cheap.'
    : `${counted(placed, 'clip is', 'clips are')} placed: another rate moves their cuts, another size only scales them.`
}
