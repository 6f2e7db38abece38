import { defineStore } from 'pinia'
import { reactive } from 'vue'
import { partAt } from '../core/edit/parts'
import type { Clip, Part } from '../core/edit/project'
import { toNumber } from '../core/rational/rational'
import { type MediaLocator, cardUrl } from '../media/source'
import { clipsWithHandle, fileFromHandle, loadPosters, saveHandle, savePoster } from '../storage/media'
import { frameService } from '../workers/services'
import type { FrameAnswer } from '../workers/frames.worker'

/** How much faster a clip passes than its file says: a corrected rate shows the same frames at other times. */
function speedOf(clip: Clip): number {
  const [claimed, corrected] = [clip.claimed?.video?.rate, clip.reading?.video?.rate]
  return claimed && corrected ? toNumber(corrected) / toNumber(claimed) : 1
}

/** A file that came in, with leave to open it again where the browser gave it. */
export interface IncomingFile {
  readonly file: File
  readonly folder: string
  readonly handle?: FileSystemFileHandle
}

export const posterWidth = 640
/** Where a clip's poster is taken, in seconds: a third into it, since first frames are often black. */
export const posterTime = (clip: Clip): number => (clip.reading?.durationSec ?? 0) / 3

/** Where the pictures of clips come from: files of this session, kept handles, the siding; and their posters. */
export const useMedia = defineStore('media', () => {
  const files = new Map<string, File>()
  const posters = reactive(new Map<string, string>())
  /** Why a clip has no picture, by clip. */
  const troubles = reactive(new Map<string, string>())
  /** Clips whose file has to be shown again. */
  const missing = reactive(new Set<string>())
  let owner: string | null = null

  /** Makes the posters of a project ready; those of another are let go. */
  async function openProject(projectId: string): Promise<void> {
    if (owner === projectId) return
    owner = projectId
    for (const url of posters.values()) URL.revokeObjectURL(url)
    posters.clear()
    troubles.clear()
    missing.clear()
    for (const [clipId, picture] of await loadPosters(projectId)) {
      if (owner === projectId && !posters.has(clipId)) posters.set(clipId, URL.createObjectURL(picture))
    }
  }

  /** Looks for the files of clips and marks those that are not at hand. */
  async function findFiles(clips: readonly Clip[]): Promise<void> {
    const kept = owner ? await clipsWithHandle(owner) : new Set()
    for (const clip of clips) {
      const lost = async (file: Clip | Part) =>
        file.source.kind === 'file' && !files.has(file.id) && (!kept.has(file.id) || !(await locate(file)))
      for (const file of clip.parts.length ? clip.parts : [clip]) if (await lost(file)) missing.add(clip.id)
    }
  }

  /** Keeps a file at hand. @param fileId of a clip, or of one of its parts; `clipId` is the clip that it is of then */
  function keepFile(projectId: string, fileId: string, incoming: IncomingFile, clipId = fileId): void {
    files.set(fileId, incoming.file)
    missing.delete(clipId)
    troubles.delete(clipId)
    if (incoming.handle) void saveHandle(projectId, fileId, incoming.handle).catch(() => {})
  }

  /** Where a file's bytes are now; null where it has to be shown again. */
  async function locate(clip: Clip | Part): Promise<MediaLocator | null> {
    const { source, sizeBytes } = clip
    if (source.kind === 'siding') return { kind: 'url', url: cardUrl(source.card, source.id), sizeBytes }
    const known = files.get(clip.id) ?? (owner ? await fileFromHandle(owner, clip.id) : null)
    if (!known) return null
    files.set(clip.id, known)
    return { kind: 'file', file: known }
  }

  /** The real picture of a clip at a time of its source, in seconds as corrected. */
  async function frameAt(clip: Clip, seconds: number, maxWidth: number): Promise<FrameAnswer> {
    const video = clip.reading?.video
    if (!video || clip.reading?.kind === 'audio') return { ok: false, error: 'This clip has no picture.' }
    const place = partAt(clip, seconds * speedOf(clip))
    const file = place?.part ?? clip
    const locator = await locate(file)
    if (!locator)
      return { ok: false, error: `${file.name} is not at hand: take the file in again to see it.` }
    const kind = (place?.part.reading ?? clip.reading!).kind === 'still' ? 'still' : 'video'
    const what = { kind, container: clip.reading!.container, codec: video.codec } as const
    return frameService().frameAt(file.id, locator, what, place?.seconds ?? seconds * speedOf(clip), maxWidth)
  }

  /** Makes and keeps a clip's poster. */
  async function makePoster(projectId: string, clip: Clip, keep = true): Promise<void> {
    if (posters.has(clip.id) || !clip.reading?.video) return
    const answer = await frameAt(clip, posterTime(clip), posterWidth)
    if (!answer.ok) {
      troubles.set(clip.id, answer.error)
      return
    }
    const { width, height } = answer.picture
    const canvas = new OffscreenCanvas(width, height)
    const context = canvas.getContext('bitmaprenderer')!
    context.transferFromImageBitmap(answer.picture)
    const alpha = clip.reading.video.alpha
    const picture = await canvas.convertToBlob(
      alpha ? { type: 'image/png' } : { type: 'image/jpeg', quality: 0.85 },
    )
    // A poster that cannot be kept is drawn again next time.
    if (keep) await savePoster(projectId, clip.id, picture).catch(() => {})
    troubles.delete(clip.id)
    if (owner === projectId) posters.set(clip.id, URL.createObjectURL(picture))
  }

  return { posters, troubles, missing, openProject, findFiles, keepFile, locate, frameAt, makePoster }
})
