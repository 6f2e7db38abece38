import { type Rational, multiply, roundHalfUp, subtract } from '../rational/rational'
import type { Draft } from './draft'
import { isInStep, momentAt, overlap, sameSource } from '../plan/in-step'
import type { Doc } from '../model/project'
import type { Placement, Timeline } from '../model/timeline'

/** Linking, letting go, and what is linked with what. */

/** The ids of placements and of all that is linked with them. */
export function withLinked(
  timeline: {
    readonly tracks: readonly { readonly placements: readonly Pick<Placement, 'id' | 'pairId'>[] }[]
  },
  ids: Iterable<string>,
): Set<string> {
  const found = new Set(ids)
  const all = timeline.tracks.flatMap(({ placements }) => placements)
  const links = new Set(all.flatMap(({ id, pairId }) => (pairId !== null && found.has(id) ? [pairId] : [])))
  for (const { id, pairId } of all) if (pairId !== null && links.has(pairId)) found.add(id)
  return found
}

/**
 * Lets what a cut left on either side of a frame go apart: of links that were cut, what begins behind it bears a new one.
 * @param cut the links of which something was cut there
 */
export function partLinks(
  timeline: Draft<Timeline>,
  cut: ReadonlySet<string>,
  frame: number,
  newId: () => string,
): void {
  const names = new Map<string, string>()
  for (const { placements } of timeline.tracks)
    for (const placement of placements) {
      const { pairId } = placement
      if (pairId === null || placement.start < frame || !cut.has(pairId)) continue
      const name = names.get(pairId) ?? newId()
      names.set(pairId, name)
      placement.pairId = name
    }
}

/**
 * Links pictures with their own sounds among some placements: each sound with the picture of its source beside which it stands.
 * @returns why nothing was linked, in a sentence; null where something was
 */
export function link(
  draft: Draft<Doc>,
  timelineId: string,
  ids: ReadonlySet<string>,
  newId: () => string,
): string | null {
  const doc = draft as Doc
  const timeline = doc.timelines[timelineId]
  if (!timeline) return 'There is no such timeline.'
  const members = timeline.tracks.flatMap((track) =>
    track.placements.filter(({ id }) => ids.has(id)).map((placement) => ({ track, placement })),
  )
  const pictures = members.filter(({ track }) => track.kind === 'video').map(({ placement }) => placement)
  const sounds = members.filter(({ track }) => track.kind === 'audio').map(({ placement }) => placement)
  if (pictures.length === 0 || sounds.length === 0)
    return 'A link joins a picture and its own sound: select both.'
  const links = new Map<string, string>()
  let apart: Rational | null = null
  for (const sound of sounds) {
    const [picture] = pictures
      .filter(({ source }) => sameSource(source, sound.source))
      .sort((a, b) => overlap(b, sound) - overlap(a, sound))
    if (!picture) continue
    if (!isInStep(doc, timeline, picture, sound)) {
      const moment = momentAt(doc, timeline, picture, sound.start)
      apart ??= moment && subtract(moment, sound.sourceIn)
      continue
    }
    const name = links.get(picture.id) ?? newId()
    links.set(picture.id, name)
    links.set(sound.id, name)
  }
  if (links.size === 0)
    return apart && timeline.rate
      ? `The sound is ${frames(apart, timeline.rate)} out of step with its picture: slip it there first.`
      : 'None of these sounds is of one of these pictures.'
  for (const track of draft.timelines[timelineId]?.tracks ?? [])
    for (const placement of track.placements) {
      const name = links.get(placement.id)
      if (name !== undefined) placement.pairId = name
    }
  return null
}

const frames = (seconds: Rational, rate: Rational): string => {
  const count = Math.abs(roundHalfUp(multiply(seconds, rate)))
  return count === 0 ? 'in its speed' : count === 1 ? '1 frame' : `${count} frames`
}

/** Lets placements go apart, and what only they kept linked. */
export function unlink(draft: Draft<Doc>, timelineId: string, ids: ReadonlySet<string>): void {
  for (const track of draft.timelines[timelineId]?.tracks ?? [])
    for (const placement of track.placements)
      if (ids.has(placement.id) && placement.pairId !== null) placement.pairId = null
}
