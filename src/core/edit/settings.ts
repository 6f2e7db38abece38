import type { Priority } from '../choice/vote'
import type { Doc, Project } from '../model/project'
import type { Policy } from '../toll/policy'
import type { Draft } from './draft'

/** What an editor sets for a whole project, beside its format. */
export type ProjectSettings = Pick<
  Project,
  'name' | 'lean' | 'mains' | 'trueDetail' | 'onMismatch' | 'policy' | 'meant'
>

/** Sets what holds for the whole project. */
export function changeProject(doc: Draft<Doc>, set: Partial<ProjectSettings>): void {
  Object.assign(doc.project, set)
}

/** Changes weights and shares of the choice. */
export function changeWeights(doc: Draft<Doc>, change: (policy: Draft<Policy>) => void): void {
  change(doc.project.policy)
}

/** How much a clip counts when the format is chosen. Nothing where the clip is gone. */
export function setPriority(doc: Draft<Doc>, clipId: string, priority: Priority): void {
  const clip = doc.clips[clipId]
  if (clip) clip.priority = priority
}
