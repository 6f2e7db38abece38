import { copyOf } from '../edit/carrying'
import { longestName, shortened } from '../model/id'
import type { NewTimelineNames } from '../edit/nesting'
import type { Doc } from '../model/project'
import type { Timeline } from '../model/timeline'

/**
 * What of timelines that were read is added to a document, the main one last. What comes back into its own project stands beside
 * what it was, and shows what that shows.
 */
export function addedTimelines(
  doc: Doc,
  read: readonly Timeline[],
  making: NewTimelineNames,
): readonly Timeline[] {
  const isThere = ({ id }: Timeline) => doc.timelines[id] !== undefined
  const main = read.at(-1)
  if (!main) return []
  const taken = isThere(main)
    ? copyOf(main, { ...making, name: shortened(`${main.name.slice(0, longestName - 10)}, taken in`) })
    : main
  return [...read.slice(0, -1).filter((timeline) => !isThere(timeline)), taken]
}
