import { type Result, failure } from '../result'
import * as z from 'zod'
import { type Doc } from '../model/project'
import { type ProjectFileResult, readProjectFile, writeProjectFile } from './project-file'

const kind = 'yard-tally-backup'

/** Several projects as one JSON text, each as its own file would be. */
export const writeBackup = (docs: readonly Doc[], at: string): string =>
  `{"kind":"${kind}","version":1,"at":${JSON.stringify(at)},"projects":[\n${docs.map(writeProjectFile).join(',\n')}\n]}`

const Backup = z.object({
  kind: z.literal(kind),
  version: z.literal(1),
  at: z.string(),
  projects: z.array(z.unknown()),
})

/** A project of a backup, or why it cannot be read. */
export type BackedUp = ProjectFileResult

/**
 * Reads a backup back, or the file of one project. One project that cannot be read is told and leaves the others.
 * @returns a sentence where the text is neither
 */
export function readBackup(text: string): Result<{ projects: readonly BackedUp[] }> {
  let value: unknown
  try {
    value = JSON.parse(text)
  } catch {
    return failure('The file is no JSON: it is damaged, or something else. Nothing was changed.')
  }
  if ((value as { kind?: unknown } | null)?.kind !== kind) {
    const projectFileResult = readProjectFile(text)
    return projectFileResult.ok ? { ok: true, projects: [projectFileResult] } : projectFileResult
  }
  const parsed = Backup.safeParse(value)
  if (!parsed.success)
    return failure('The backup was written by a newer version, or is damaged. Nothing was changed.')
  return {
    ok: true,
    projects: parsed.data.projects.map((project) => readProjectFile(JSON.stringify(project))),
  }
}
