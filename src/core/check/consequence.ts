import { carryFrame, driftMs } from '../edit/carry'
import { endOf } from '../edit/operations'
import { type Doc, type Timeline, formatOf, timelinesOf } from '../edit/project'
import { type Format, formatName, sameFormat } from '../format/format'
import { frameToTimecode } from '../rate/timecode'
import { equal } from '../rational/rational'
import { type Grade, grades } from '../toll/charge'
import { figure } from '../toll/sentence'
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
    /** How far the cut that moves most moves, in milliseconds; never more than half a frame of the new rate. */
    readonly driftMs: number
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

function consequence(
  docBefore: Doc,
  docAfter: Doc,
  from: Timeline,
  to: Timeline,
  checkNow = checkTimeline,
): Consequence {
  const before = formatOf(docBefore, from)
  const after = formatOf(docAfter, to)
  const placements = from.tracks.flatMap((track) => track.placements)
  return {
    timeline: from,
    before,
    after,
    changes: !(before && after ? sameFormat(before, after) : before === after),
    placed: placements.length,
    gradesBefore: checkNow(docBefore, from)?.countByGrade ?? null,
    gradesAfter: checkTimeline(docAfter, to)?.countByGrade ?? null,
    carried: before && after && placements.length && !equal(before.rate, after.rate) ? carried() : null,
  }

  function carried() {
    const [A, B] = [before!.rate, after!.rate]
    const cuts = placements.flatMap((p) => [p.start, p.start + p.length])
    const frames = Math.max(...from.tracks.map((track) => endOf(track.placements)))
    return {
      driftMs: Math.max(...cuts.map((cut) => Math.abs(driftMs(cut, A, B)))),
      framesBefore: frames,
      framesAfter: carryFrame(frames, A, B),
    }
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
  if (c.carried && after && before) {
    const { driftMs, framesBefore, framesAfter } = c.carried
    said.push(
      driftMs < 0.05 ? 'every cut stays in time' : `cuts move by at most ${figure(driftMs)} ms`,
      `length ${frameToTimecode(framesBefore, before.rate)} → ${frameToTimecode(framesAfter, after.rate)}`,
    )
  }
  if (placed > 0 && c.gradesAfter)
    said.push(
      grades
        .filter((grade) => (c.gradesBefore?.[grade] ?? 0) !== c.gradesAfter![grade])
        .map(
          (grade) =>
            `${grade} ${c.gradesBefore ? `${c.gradesBefore[grade]} → ` : ''}${c.gradesAfter![grade]}`,
        )
        .join(', ') || 'no clip pays another grade',
    )
  return `${said.join('; ')}.`
}

/** What cannot be cheaply undone later: the rate, once clips are placed. */
export const costlyLater = (doc: Doc): string => {
  const placed = timelinesOf(doc).reduce(
    (n, t) => n + t.tracks.reduce((m, track) => m + track.placements.length, 0),
    0,
  )
  return placed === 0
    ? 'Nothing is placed yet, so all of it is still free. Later the rate is the costly one: every cut has to move. The size stays cheap.'
    : `${placed} ${placed === 1 ? 'clip is' : 'clips are'} placed: another rate moves their cuts, another size only scales them.`
}
