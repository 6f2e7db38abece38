import { defineStore } from 'pinia'
import { shallowReactive } from 'vue'
import type { Clip } from '../core/model/clip'
import { type Heard, heardIn } from '../core/plan/heard'
import type { Doc } from '../core/model/project'
import { partOffsets } from '../core/edit/parts'
import { secondsInFile } from '../core/model/timing'
import type { Timeline } from '../core/model/timeline'
import {
  type Rational,
  add,
  multiply,
  rational,
  roundHalfUp,
  subtract,
  toNumber,
} from '../core/rational/rational'
import type { AudioFacts, Reading } from '../core/reading/reading'
import type { MixOrder, MixPart, SoundFile } from '../media/sound/mixing'
import { soundService } from '../workers/services'
import { contentKey } from '../media/frame-locator'
import { useJobQueue } from './job-queue'
import { useMedia } from './media'

/** What sounds: the shape of clips' sound, and what of a timeline is heard when. */
export const useSounds = defineStore('sounds', () => {
  const media = useMedia()
  const shapes = shallowReactive(new Map<string, Float32Array>())
  const jobs = useJobQueue()

  /** The streams of a clip's sound, each with its place among all of them; none where one of its files is offline. */
  async function filesOf(clip: Clip): Promise<SoundFile[]> {
    const offsets = partOffsets(clip)
    const located = await Promise.all(
      (clip.parts.length ? clip.parts : [clip]).map(async (file, i) => ({
        key: contentKey(file),
        locator: await media.locate(file),
        reading: file.reading,
        offsetSec: toNumber(offsets[i] ?? rational(0)),
      })),
    )
    const [first] = located
    return (first?.reading?.audio ?? []).flatMap(({ channels }, stream): SoundFile[] => {
      const pieces = located.flatMap(({ locator, reading, offsetSec }) => {
        const sound = reading?.audio[stream]
        return locator && sound ? [{ locator, offsetSec, kind: kindOfSound(sound, stream, reading) }] : []
      })
      if (pieces.length < located.length) return []
      return [
        { key: `${located.map(({ key }) => key).join(' ')} ${stream}`, channels: channels ?? 2, pieces },
      ]
    })
  }

  /** The shape of a clip's sound; undefined while it is not made yet, one clip after the other, and where it cannot be. */
  function shapeOf(clip: Clip): Float32Array | undefined {
    const key = contentKey(clip)
    const known = shapes.get(key)
    if (known || jobs.errors.has(key)) return known
    void jobs.add({
      key,
      async work(signal) {
        const files = await filesOf(clip)
        if (files.length > 0) shapes.set(key, await soundService().peaks(files, secondsInFile(clip), signal))
      },
    })
    return undefined
  }

  /** What sounds of a placement of a clip: its streams, each with the channels of it that are heard. */
  async function partsOf(
    { clip, from, to, sourceSeconds, speed, keepPitch, gain, channels: wanted }: Omit<Heard, 'placementId'>,
    sampleRate: number,
  ): Promise<MixPart[]> {
    const at = (seconds: Rational) => roundHalfUp(multiply(seconds, rational(sampleRate)))
    /** Where its source stands at the first whole sample of it. */
    const begins = add(sourceSeconds, multiply(subtract(rational(at(from), sampleRate), from), speed))
    const part = {
      from: at(from),
      to: at(to),
      sourceSeconds: toNumber(begins),
      speed: toNumber(speed),
      keepPitch,
      gain,
    }
    let counted = 0
    return (await filesOf(clip)).flatMap((file): MixPart[] => {
      const { channels } = file
      const first = counted
      counted += channels
      const heard = wanted?.filter((i) => i >= first && i < first + channels).map((i) => i - first) ?? null
      return heard?.length === 0 ? [] : [{ ...part, file, channels: heard }]
    })
  }

  /** All that sounds on a timeline, of placed timelines too, by its samples. */
  async function heardOn(doc: Doc, timeline: Timeline): Promise<MixPart[]> {
    const parts: MixPart[] = []
    for (const heard of heardIn(doc, timeline)) parts.push(...(await partsOf(heard, timeline.sampleRate)))
    return parts
  }

  /** A stretch of a timeline, mixed. @throws the signal's reason once it aborts */
  const mix = (order: MixOrder, signal: AbortSignal) => soundService().mix(order, signal)

  return { shapeOf, partsOf, heardOn, mix }
})

/** What a decoder has to know of a stream of a file. */
const kindOfSound = (
  { sampleRate, channels, startSec }: AudioFacts,
  stream: number,
  { video }: Pick<Reading, 'video'>,
) => ({
  stream,
  sampleRate: sampleRate ?? 48_000,
  channels: channels ?? 2,
  hasPicture: video !== null,
  startSec: startSec ?? 0,
})
