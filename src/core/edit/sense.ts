import type { Doc, Timeline, Track } from './project'

/**
 * What a document may not say although every part of it has the right shape: names that lead nowhere, twice the same
 * name, placements that overlap or stand out of order.
 * @returns what is wrong, in a sentence; null where nothing is
 */
export function nonsenseOf(doc: Doc): string | null {
  return (
    orderNonsense('clip', doc.project.clipOrder, doc.clips) ??
    orderNonsense('timeline', doc.project.timelineOrder, doc.timelines) ??
    Object.values(doc.timelines).reduce<string | null>(
      (found, t) => found ?? timelineNonsense(t, doc.clips),
      null,
    )
  )
}

function orderNonsense(what: string, order: readonly string[], held: Record<string, unknown>): string | null {
  const listed = new Set<string>()
  for (const id of order) {
    if (listed.has(id)) return `The ${what} “${id}” is listed twice.`
    if (!Object.hasOwn(held, id)) return `A ${what} “${id}” is listed and not there.`
    listed.add(id)
  }
  const lost = Object.keys(held).find((id) => !listed.has(id))
  return lost === undefined ? null : `The ${what} “${lost}” is there and not listed.`
}

/** What is wrong with one timeline, in a sentence; null where nothing is. */
export function timelineNonsense(timeline: Timeline, clips: Record<string, unknown>): string | null {
  const ids = new Set<string>()
  for (const track of timeline.tracks) {
    for (const id of [track.id, ...track.placements.map((placement) => placement.id)]) {
      if (ids.has(id)) return `“${timeline.name}” holds “${id}” twice.`
      ids.add(id)
    }
    const wrong = trackNonsense(track, clips)
    if (wrong) return `“${timeline.name}” ${wrong}`
  }
  return null
}

function trackNonsense(track: Track, clips: Record<string, unknown>): string | null {
  let end = 0
  for (const { id, clipId, start, length } of track.placements) {
    if (!Object.hasOwn(clips, clipId)) return `places a clip “${clipId}” that is not there.`
    if (start < end)
      return `places “${id}” at frame ${start}, where another runs until ${end}: placements stand in order and do not overlap.`
    if (start + length > 2 ** 40) return `places “${id}” beyond frame 2⁴⁰.`
    end = start + length
  }
  return null
}
