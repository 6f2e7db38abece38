import { parseQuickly } from '../quick-check'
import { type Result, failure } from '../result'
import { Clip, LeftAside } from '../model/clip'
import { Timeline } from '../model/timeline'
import * as z from 'zod'
import { type PutAside, mend } from './mend'
import { canMigrate, migrated, storedVersion } from './migrate'
import { type Doc, Project, clipsOf, timelinesOf } from '../model/project'
import { nonsenseOf } from '../model/integrity'
import { type Kind, damage, openEnvelope } from './envelope'

const kind: Kind = {
  kind: 'yard-tally-project',
  what: 'a project',
  version: storedVersion,
  migrate: (file, version) =>
    canMigrate(version) ? { ...file, version: storedVersion, ...migrated(rowsIn(file), version) } : null,
}

/** The rows that a file holds, whatever they are. */
function rowsIn(file: Record<string, unknown>) {
  const rows = (key: string) => (Array.isArray(file[key]) ? (file[key] as unknown[]) : [])
  return {
    project: file.project,
    clips: rows('clips'),
    timelines: rows('timelines'),
    leftAside: rows('leftAside'),
  }
}

const ProjectFile = z.object({
  kind: z.literal(kind.kind),
  version: z.literal(kind.version),
  project: Project,
  clips: z.array(Clip),
  timelines: z.array(Timeline),
  leftAside: z.array(LeftAside).default([]),
})

/** A project as one JSON text, readable and in a fixed order. */
export function writeProjectFile(doc: Doc): string {
  const file: z.input<typeof ProjectFile> = {
    kind: kind.kind,
    version: kind.version,
    project: doc.project,
    clips: clipsOf(doc),
    timelines: timelinesOf(doc),
    leftAside: Object.values(doc.leftAside),
  }
  return JSON.stringify(file, null, 1)
}

export type ProjectFileResult = Result<{ doc: Doc; putAside: readonly PutAside[] }>

/**
 * Reads a project file back to the state it was written from. What is wrong with it is told, and nothing is guessed; only
 * of a file of an older version, which could hold readings that are refused today, such clips are put aside.
 */
export function readProjectFile(text: string): ProjectFileResult {
  const opened = openEnvelope(text, kind)
  if (!opened.ok) return opened
  const file = opened.value as Record<string, unknown>
  const parsed = parseQuickly(ProjectFile, file)
  if (!parsed.success) {
    const older = opened.version < kind.version && outlived(parsed.error)
    return older ? readOlder(file) : failure(damage(parsed.error, namesIn(file)))
  }
  const { project, clips, timelines, leftAside } = parsed.data
  const twice = doubled('clip', clips) ?? doubled('timeline', timelines)
  if (twice) return failure(`${twice} Nothing was changed.`)
  const doc: Doc = {
    project,
    clips: Object.fromEntries(clips.map((clip) => [clip.id, clip])),
    timelines: Object.fromEntries(timelines.map((timeline) => [timeline.id, timeline])),
    leftAside: Object.fromEntries(leftAside.map((file) => [file.id, file])),
  }
  const nonsense = nonsenseOf(doc)
  return nonsense ? failure(`${nonsense} Nothing was changed.`) : { ok: true, doc, putAside: [] }
}

/** What is there more than once, in a sentence. */
function doubled(what: string, rows: readonly { id: string }[]): string | null {
  const seen = new Set<string>()
  const row = rows.find(({ id }) => seen.size === seen.add(id).size)
  return row ? `The ${what} “${row.id}” is there twice.` : null
}

/** Whether all that is wrong are facts of clips, which older versions wrote without looking. */
const outlived = (error: z.ZodError): boolean =>
  error.issues.every(({ path }) => path[0] === 'clips' && (path[2] === 'reading' || path[2] === 'claimed'))

function readOlder(file: Record<string, unknown>): ProjectFileResult {
  const mended = mend(rowsIn(file))
  return mended
    ? { ok: true, ...mended }
    : failure('The file holds no project that can be read. Nothing was changed.')
}

/** What a place in the file is called by: `hall_wide.mp4` for the third clip. */
const namesIn =
  (file: Record<string, unknown>) =>
  ([part, index]: readonly PropertyKey[]): string | null => {
    const rows = file[String(part)]
    const row = Array.isArray(rows) && typeof index === 'number' ? (rows[index] as unknown) : null
    const name = row && typeof row === 'object' ? (row as Record<string, unknown>).name : null
    return typeof name === 'string' && name ? name : null
  }
