import { defineStore } from 'pinia'
import { reactive } from 'vue'
import type { Clip } from '../core/edit/clip'
import { type Heard, heardIn } from '../core/edit/heard'
import type { Doc } from '../core/edit/project'
import { exactDuration } from '../core/edit/timing'
import type { Timeline } from '../core/edit/timeline'
import { toNumber } from '../core/rational/rational'
import type { MixOrder, MixPart, SoundFile } from '../media/sound/mixing'
import { askFor } from '../workers/job'
import { soundService } from '../workers/services'
import { contentKey } from '../media/lying'
import { useMedia } from './media'

/** What sounds: the shape of clips' sound, and what of a timeline is heard when. */
export const useSounds = defineStore('sounds', () => {
  const media = useMedia()
  const shapes = reactive(new Map<string, Float32Array>())
  /** Clips whose shape is made, or could not be. */
  const asked = new Set<string>()
  let line: Promise<unknown> = Promise.resolve()

  /** The streams of a clip's sound, each with its place among all of them; none where its file is not at hand. */
  async function filesOf(clip: Clip): Promise<SoundFile[]> {
    const locator = clip.parts.length ? null : await media.locate(clip)
    const { reading } = clip
    if (!locator || !reading) return []
    return reading.audio.map(({ sampleRate, channels, startSec }, stream) => ({
      key: contentKey(clip),
      locator,
      kind: {
        stream,
        sampleRate: sampleRate ?? 48_000,
        channels: channels ?? 2,
        hasPicture: reading.video !== null,
        startSec: startSec ?? 0,
      },
    }))
  }

  /** The shape of a clip's sound; undefined while it is not made yet, one clip after the other. */
  function shapeOf(clip: Clip): Float32Array | undefined {
    const key = contentKey(clip)
    const known = shapes.get(key)
    if (known || asked.has(key)) return known
    asked.add(key)
    line = line.then(async () => {
      const files = await filesOf(clip)
      if (files.length === 0) return
      const service = soundService()
      const seconds = toNumber(exactDuration(clip))
      const shape = await askFor(service, (id) => service.peaks(id, files, seconds)).catch(() => null)
      if (shape) shapes.set(key, shape)
    })
    return undefined
  }

  /** What sounds of a placement of a clip: its streams, each with the channels of it that are heard. */
  async function partsOf({ clip, from, to, ...rest }: Heard, sampleRate: number): Promise<MixPart[]> {
    const at = (seconds: number) => Math.round(seconds * sampleRate)
    let counted = 0
    return (await filesOf(clip)).flatMap((file): MixPart[] => {
      const { channels } = file.kind
      const first = counted
      counted += channels
      const heard =
        rest.channels?.filter((i) => i >= first && i < first + channels).map((i) => i - first) ?? null
      return heard?.length === 0 ? [] : [{ ...rest, file, from: at(from), to: at(to), channels: heard }]
    })
  }

  /** All that sounds on a timeline, of placed timelines too, by its samples. */
  async function heardOn(doc: Doc, timeline: Timeline): Promise<MixPart[]> {
    const parts: MixPart[] = []
    for (const heard of heardIn(doc, timeline)) parts.push(...(await partsOf(heard, timeline.sampleRate)))
    return parts
  }

  /** A stretch of a timeline, mixed. @throws the signal's reason once it aborts */
  const mix = (order: MixOrder, signal: AbortSignal) => {
    const service = soundService()
    return askFor(service, (id) => service.mix(id, order), signal)
  }

  return { shapeOf, partsOf, heardOn, mix }
})
