import { z } from 'zod'
import { Clip, type Doc, Project, Timeline } from '../edit/project'
import { type Kind, damage, openEnvelope, refused } from './envelope'

const kind: Kind = { kind: 'yard-tally-project', what: 'a project', version: 1, migrations: {} }

const ProjectFile = z.object({
  kind: z.literal(kind.kind),
  version: z.literal(kind.version),
  project: Project,
  clips: z.array(Clip),
  timelines: z.array(Timeline),
})

/** A project as one JSON text, readable and in a fixed order. */
export function writeProjectFile(doc: Doc): string {
  const file: z.input<typeof ProjectFile> = {
    kind: kind.kind,
    version: kind.version,
    project: doc.project,
    clips: doc.project.clipOrder.map((id) => doc.clips[id]),
    timelines: doc.project.timelineOrder.map((id) => doc.timelines[id]),
  }
  return JSON.stringify(file, null, 1)
}

export type ProjectFileResult =
  { readonly ok: true; readonly doc: Doc } | { readonly ok: false; readonly error: string }

/** Reads a project file back to the state it was written from. What is wrong with it is told; nothing is guessed. */
export function readProjectFile(text: string): ProjectFileResult {
  const opened = openEnvelope(text, kind)
  if (!opened.ok) return opened
  const parsed = ProjectFile.safeParse(opened.value)
  if (!parsed.success) return refused(damage(parsed.error.issues[0]))
  const { project, clips, timelines } = parsed.data
  const doc: Doc = {
    project,
    clips: Object.fromEntries(clips.map((clip) => [clip.id, clip])),
    timelines: Object.fromEntries(timelines.map((timeline) => [timeline.id, timeline])),
  }
  return inconsistency(doc) ?? { ok: true, doc }
}

/** Names that lead nowhere would surface later, far from their cause. */
function inconsistency(doc: Doc): ProjectFileResult | null {
  for (const id of doc.project.clipOrder)
    if (!doc.clips[id])
      return refused(`The file lists a clip “${id}” that it does not hold. Nothing was changed.`)
  for (const id of doc.project.timelineOrder) {
    const timeline = doc.timelines[id]
    if (!timeline)
      return refused(`The file lists a timeline “${id}” that it does not hold. Nothing was changed.`)
    const lost = timeline.tracks.flatMap((t) => t.placements).find((p) => !doc.clips[p.clipId])
    if (lost)
      return refused(
        `“${timeline.name}” places a clip “${lost.clipId}” that the file does not hold. Nothing was changed.`,
      )
  }
  return null
}
