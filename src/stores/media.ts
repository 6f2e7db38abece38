import { defineStore } from 'pinia'
import { reactive } from 'vue'
import type { Clip, ClipFile } from '../core/model/clip'
import { exactDuration, hasToBeWalked, timingOf } from '../core/model/timing'
import { countOf, framesOf, stepAt } from '../core/motion/timing'
import { nearestRational, toNumber } from '../core/rational/rational'
import type { Rotation } from '../core/picture/turn'
import type { FrameTimes } from '../core/reading/frame-times'
import { present } from '../core/assert'
import type { DecodableFile } from '../media/measure'
import { type MediaLocator, cardUrl } from '../media/source'
import { clipsWithHandle, fileFromHandle, loadPosters, saveHandle, savePoster } from '../storage/media'
import type { EvidenceView } from '../media/evidence-view'
import { type LocatedFrame, contentKey, frameOfClip, kindOf } from '../media/frame-locator'
import type { FrameAnswer, ProofAnswer } from '../workers/frames.worker'
import { frameService } from '../workers/services'

/** A file that came in, with leave to open it again where the browser gave it. */
export interface IncomingFile {
  readonly file: File
  readonly folder: string
  readonly handle?: FileSystemFileHandle
}

export const posterWidth = 640

/** The frame of a clip's poster: a third into it, since first frames are often black. */
export function posterFrame(clip: Clip): number {
  const steps = framesOf(timingOf(clip))
  const third = nearestRational(toNumber(exactDuration(clip)) / 3, 1e-6)
  return stepAt(steps, third) ?? 0
}

/** Where the pictures of clips come from: files of this session, kept handles, the siding; and their posters. */
export const useMedia = defineStore('media', () => {
  const files = new Map<string, File>()
  /** Small pictures, and the turn at which they were drawn upright. */
  const posters = reactive(new Map<string, { readonly url: string; readonly turn: Rotation }>())
  /** Why a clip has no picture, by clip. */
  const troubles = reactive(new Map<string, string>())
  /** Clips whose file has to be shown again. */
  const missing = reactive(new Set<string>())
  /** Files of the card, by clip or part, that hold something else than what was read of them. */
  const changed = reactive(new Set<string>())
  let owner: string | null = null

  /** Makes the posters of a project ready; those of another are let go. */
  async function openProject(projectId: string): Promise<void> {
    if (owner === projectId) return
    owner = projectId
    for (const { url } of posters.values()) URL.revokeObjectURL(url)
    posters.clear()
    troubles.clear()
    missing.clear()
    changed.clear()
    for (const { clipId, picture, turn } of await loadPosters(projectId).catch(() => [])) {
      if (owner === projectId && !posters.has(clipId))
        posters.set(clipId, { url: URL.createObjectURL(picture), turn: turn ?? 0 })
    }
  }

  /** Looks for the files of clips and marks those that are not at hand, all in one go: each mark by itself would be drawn. */
  async function findFiles(clips: readonly Clip[]): Promise<void> {
    // Where nothing can be kept, nothing was.
    const kept = owner ? await clipsWithHandle(owner).catch(() => new Set<string>()) : new Set<string>()
    const onCard = cardListing()
    const lost: string[] = []
    for (const clip of clips)
      for (const file of clip.parts.length ? clip.parts : [clip]) {
        if (shownFor(file)) continue
        if (file.source.kind === 'siding') {
          const { card, id } = file.source
          if ((await onCard(card))?.has(id) === false) lost.push(clip.id)
        } else if (!(kept.has(file.id) || kept.has(contentKey(file))) || !(await locate(file)))
          lost.push(clip.id)
      }
    for (const id of lost) missing.add(id)
  }

  /** Asks once for what each card holds; null where it cannot be reached. */
  function cardListing(): (card: string) => Promise<ReadonlySet<string> | null> {
    const known = new Map<string, Promise<ReadonlySet<string> | null>>()
    const ask = async (card: string) => {
      const answer = await fetch(`/api/${card}`).catch(() => null)
      if (!answer?.ok) return null
      const { files: there } = (await answer.json()) as { files: readonly { id: string }[] }
      return new Set(there.map(({ id }) => id))
    }
    return (card) => {
      const listing = known.get(card) ?? ask(card)
      known.set(card, listing)
      return listing
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
  async function locate(clip: Clip | ClipFile): Promise<MediaLocator | null> {
    const { source, sizeBytes } = clip
    const shown = shownFor(clip)
    if (shown) return { kind: 'file', file: shown }
    if (source.kind === 'siding') {
      // Under the facts of one copy nothing is measured, shown or rendered of another.
      if (changed.has(clip.id)) return null
      return { kind: 'url', url: cardUrl(source.card, source.id, source.modifiedAt), sizeBytes }
    }
    if (!owner) return null
    const [projectId, keys] = [owner, [contentKey(clip), clip.id]]
    let known: File | null = null
    for (const key of keys) known ??= await fileFromHandle(projectId, key).catch(() => null)
    // What has another size by now is another file.
    if (known?.size !== sizeBytes) return null
    files.set(contentKey(clip), known)
    return { kind: 'file', file: known }
  }
  /** The file that was shown for a clip in this session; one that has another size is of another. */
  function shownFor(clip: Clip | ClipFile): File | undefined {
    return [contentKey(clip), clip.id]
      .map((key) => files.get(key))
      .find((file) => file?.size === clip.sizeBytes)
  }

  /** Where a frame of a clip as corrected lies. @see frameOfClip */
  const wanted = (clip: Clip, index: number): Promise<LocatedFrame> => frameOfClip(clip, index, locate)

  /**
   * A frame of a clip, its own, by its index in the clip as corrected.
   * @param signal ends the wish; what is decoded for it afterwards is dropped where it is made
   * @param exact that very frame; else the key frame before it will do
   */
  async function frameAt(
    clip: Clip,
    index: number,
    maxWidth: number,
    signal?: AbortSignal,
    exact = true,
  ): Promise<FrameAnswer> {
    const lies = await wanted(clip, index)
    if (!lies.ok) return lies
    const { file, within } = lies
    return frameService().frameAt(file, within, maxWidth, exact, signal)
  }

  /** What of a frame of a clip, by its index in the clip as corrected, proves a measurement. */
  async function proofAt(
    clip: Clip,
    index: number,
    about: EvidenceView['about'],
    signal: AbortSignal,
  ): Promise<ProofAnswer> {
    const lies = await wanted(clip, index)
    if (!lies.ok) return lies
    const { file, within } = lies
    return frameService().proof(file, within, about, signal)
  }

  /** The files of a clip with a picture, in order, for decoding; null where one of them is not at hand. */
  async function decodable(clip: Clip): Promise<DecodableFile[] | null> {
    const files: DecodableFile[] = []
    let first = 0
    for (const part of clip.parts.length ? clip.parts : [undefined]) {
      const [locator, kind] = [await locate(part ?? clip), kindOf(clip, part)]
      if (!locator || !kind) return null
      files.push({ locator, kind, first })
      first += part?.frames ?? countOf(kind.steps)
    }
    return files
  }

  /** Makes and keeps a clip's poster. */
  async function makePoster(
    projectId: string,
    clip: Clip,
    keep: boolean,
    signal: AbortSignal,
  ): Promise<void> {
    const video = clip.reading?.video
    if (posterOf(clip) || !video) return
    const answer = await frameAt(clip, posterFrame(clip), posterWidth, signal, false)
    if (!answer.ok) {
      troubles.set(clip.id, answer.error)
      return
    }
    const { width, height } = answer.picture
    const canvas = new OffscreenCanvas(width, height)
    const context = present(canvas.getContext('bitmaprenderer'), 'a new canvas takes a picture')
    context.transferFromImageBitmap(answer.picture)
    const { alpha, rotation: turn } = video
    const picture = await canvas.convertToBlob(
      alpha ? { type: 'image/png' } : { type: 'image/jpeg', quality: 0.85 },
    )
    // A poster that cannot be kept is drawn again next time.
    if (keep) await savePoster({ projectId, clipId: clip.id, picture, turn }).catch(() => {})
    troubles.delete(clip.id)
    if (owner !== projectId) return
    const before = posters.get(clip.id)
    if (before) URL.revokeObjectURL(before.url)
    posters.set(clip.id, { url: URL.createObjectURL(picture), turn })
  }

  /** Lets go of a clip's poster: it is another file now. */
  function forgetPicture(clipId: string): void {
    const known = posters.get(clipId)
    if (known) URL.revokeObjectURL(known.url)
    posters.delete(clipId)
    troubles.delete(clipId)
  }

  /** The poster of a clip, upright as it is corrected; undefined while there is none. */
  function posterOf({ id, reading }: Clip): string | undefined {
    const poster = posters.get(id)
    return poster && poster.turn === reading?.video?.rotation ? poster.url : undefined
  }

  /** Walks a clip whose frames nobody has listed; null where there is nothing to walk, or it cannot be. */
  async function walk(clip: Clip, signal?: AbortSignal): Promise<FrameTimes | null> {
    if (!hasToBeWalked(clip)) return null
    const locator = await locate(clip)
    if (!locator) return null
    return frameService()
      .walk(locator, signal)
      .catch(() => null)
  }

  return {
    posterOf,
    troubles,
    missing,
    changed,
    openProject,
    findFiles,
    keepFile,
    wanted,
    locate,
    frameAt,
    proofAt,
    decodable,
    makePoster,
    forgetPicture,
    walk,
  }
})
