import type { Clip } from '../model/clip'
import { corrected } from './correction'
import { isNumbered, numberedAnew } from './numbered'
import { joinRecording, singlesOf } from './parts'
import { type Draft, asIs } from './draft'
import type { Doc } from '../model/project'
import { replaceClip } from './replacing'

/**
 * A clip whose file, or some of whose files, were read again after they changed on disk: what they say now, with the editor's
 * corrections over it, under the name it has in the project.
 * @param fresh what was read anew, by the id of the clip or the part
 * @returns null where one of several files cannot be read any more, so that they are no recording
 */
export function readAgain(clip: Clip, fresh: ReadonlyMap<string, Clip>): Clip | null {
  const whole = clip.parts.length ? joinedAnew(clip, fresh) : fresh.get(clip.id)
  if (!whole) return null
  const { id, priority, arrivedAt } = clip
  return corrected({ ...whole, id, priority, arrivedAt }, clip.corrections)
}

function joinedAnew(clip: Clip, fresh: ReadonlyMap<string, Clip>): Clip | null {
  if (isNumbered(clip)) return numberedAnew(clip, fresh)
  const files = singlesOf(clip).map((part) => ({ ...(fresh.get(part.id) ?? part), id: part.id }))
  return files.every(({ reading, fault }) => reading && !fault) ? joinRecording(files, clip.id) : null
}

/** Puts clips whose files were read again in the place of what they were. @param fresh as `readAgain` takes them */
export function readClipsAgain(
  doc: Draft<Doc>,
  ids: readonly string[],
  fresh: ReadonlyMap<string, Clip>,
): void {
  for (const id of ids) {
    const known = asIs(doc.clips[id])
    const by = known && readAgain(known, fresh)
    if (by) replaceClip(doc, id, by)
  }
}
