import { z } from 'zod'
import { Clip, type Doc, Project, Timeline } from '../edit/project'

/** The version that is written. Older ones are migrated, newer ones refused. */
export const projectFileVersion = 1

const ProjectFile = z.object({
  kind: z.literal('yard-tally-project'),
  version: z.literal(projectFileVersion),
  project: Project,
  clips: z.array(Clip),
  timelines: z.array(Timeline),
})

/** Steps from each older version to the next; there is none yet. */
const migrations: Record<number, (file: Record<string, unknown>) => Record<string, unknown>> = {}

/** A project as one JSON text, readable and in a fixed order. */
export function writeProjectFile(doc: Doc): string {
  const file: z.input<typeof ProjectFile> = {
    kind: 'yard-tally-project',
    version: projectFileVersion,
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
  let raw: unknown
  try {
    raw = JSON.parse(text)
  } catch (error) {
    return refuse(`The file is not JSON: ${(error as Error).message}. Nothing was changed.`)
  }
  if (typeof raw !== 'object' || raw === null || (raw as { kind?: unknown }).kind !== 'yard-tally-project') {
    return refuse('The file is JSON, but not a project of Yard Tally. Nothing was changed.')
  }
  let file = raw as Record<string, unknown>
  const version = Number(file.version)
  if (version > projectFileVersion) {
    return refuse(
      `The file is of version ${version}; this Yard Tally reads up to version ${projectFileVersion}. Open it with a newer one. Nothing was changed.`,
    )
  }
  for (let v = version; v < projectFileVersion; v++) {
    const migrate = migrations[v]
    if (!migrate) return refuse(`The file is of version ${version}, which is not known. Nothing was changed.`)
    file = migrate(file)
  }
  const parsed = ProjectFile.safeParse(file)
  if (!parsed.success) {
    const [issue] = parsed.error.issues
    return refuse(
      `The file is damaged at ${issue.path.join('.') || 'its head'}: ${issue.message}. Nothing was changed.`,
    )
  }
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
      return refuse(`The file lists a clip “${id}” that it does not hold. Nothing was changed.`)
  for (const id of doc.project.timelineOrder) {
    const timeline = doc.timelines[id]
    if (!timeline)
      return refuse(`The file lists a timeline “${id}” that it does not hold. Nothing was changed.`)
    const lost = timeline.tracks.flatMap((t) => t.placements).find((p) => !doc.clips[p.clipId])
    if (lost)
      return refuse(
        `“${timeline.name}” places a clip “${lost.clipId}” that the file does not hold. Nothing was changed.`,
      )
  }
  return null
}

const refuse = (error: string): ProjectFileResult => ({ ok: false, error })
