import { defineStore } from 'pinia'
import { computed, ref, shallowReactive } from 'vue'
import type { Clip } from '../core/model/clip'
import { heardIn } from '../core/plan/heard'
import { secondsInFile } from '../core/model/timing'
import { type Placement, type Timeline, lengthOf, placementsIn } from '../core/model/timeline'
import { nearestRational, rational } from '../core/rational/rational'
import { type Loudness, gainTo, loudnessName } from '../core/sound/loudness'
import { type SoundLayout, samplesAt } from '../core/sound/mix'
import type { SoundSpan } from '../media/sound/loudness'
import { contentKey } from '../media/frame-locator'
import { soundService } from '../workers/services'
import { useProject } from './document/project'
import { useJobQueue } from './job-queue'
import { useSounds } from './sounds'
import { useCut } from './cut'
import { useTimelines } from './timelines'

/** How loud something is, or why that cannot be told. */
export type MeasuredLoudness = Loudness | { readonly error: string }

/** How loud something is, once it is measured. */
export const loudnessWords = (found: MeasuredLoudness | undefined): string =>
  !found ? 'is measured…' : 'error' in found ? found.error : loudnessName(found)

/** The loudness that EBU R 128 asks of a programme. */
const usualTarget = -23

/** How loud clips, placements and timelines are, and what evens them. */
export const useLoudness = defineStore('loudness', () => {
  const project = useProject()
  const sounds = useSounds()
  const timelines = useTimelines()
  const cut = useCut()
  /** The loudness that clips are evened to, in LUFS. */
  const target = ref(usualTarget)
  const jobs = useJobQueue()
  const known = shallowReactive(new Map<string, Loudness>())
  /** What was asked last about the same thing: once it is another, nobody waits for it any more. */
  const lastAsked = new Map<string, string>()

  /**
   * What was found under a name; it is measured, one after the other, where it was not yet.
   * @param about what it is a state of: an earlier state of it that is still to be measured is left
   */
  function measured(
    about: string,
    key: string,
    span: () => Promise<SoundSpan | null>,
  ): MeasuredLoudness | undefined {
    const found = known.get(key)
    const error = jobs.errors.get(key)
    if (found) return found
    if (error !== undefined) return { error }
    const before = lastAsked.get(about)
    if (before !== undefined && before !== key) jobs.cancel(before)
    lastAsked.set(about, key)
    void jobs.add({
      key,
      async work(signal) {
        const wanted = await span()
        // What has come by then is measured when it is asked for again.
        if (wanted) known.set(key, await soundService().loudness(wanted, signal))
      },
    })
    return undefined
  }

  /** How loud a clip is by itself: all of its streams, in as many channels as it has. */
  const ofClip = (clip: Clip): MeasuredLoudness | undefined =>
    measured(`clip ${contentKey(clip)}`, `clip ${contentKey(clip)}`, async () => {
      const seconds = secondsInFile(clip)
      const [first] = clip.reading?.audio ?? []
      const sampleRate = first?.sampleRate ?? 48_000
      const layout: SoundLayout = first?.channels === 1 ? 'mono' : first?.channels === 6 ? '5.1' : 'stereo'
      const [zero, to] = [rational(0), nearestRational(seconds, 1e-9)]
      const whole = { clip, from: zero, to, sourceSeconds: zero, speed: rational(1) }
      const parts = await sounds.partsOf({ ...whole, keepPitch: false, gain: 0, channels: null }, sampleRate)
      return parts.length
        ? { sampleRate, layout, from: 0, to: Math.round(seconds * sampleRate), parts }
        : null
    })

  /** How loud a stretch of a timeline is, of all of it or of one placement; asked anew once anything heard of it changes. */
  function ofTimeline(timeline: Timeline, placement: Placement | null): MeasuredLoudness | undefined {
    const { rate, sampleRate, soundLayout: layout } = timeline
    if (!rate) return undefined
    const seen = placement ? only(timeline, placement.id) : timeline
    const heard = heardIn(project.opened, seen)
    const at = (frame: number) => samplesAt(frame, sampleRate, rate)
    const [from, to] = placement
      ? [at(placement.start), at(placement.start + placement.length)]
      : [0, at(lengthOf(timeline))]
    const signature = heard.map(({ clip, ...rest }) => [contentKey(clip), rest])
    const about = `${timeline.id} ${placement?.id ?? ''}`
    return measured(about, JSON.stringify([from, to, sampleRate, layout, signature]), async () => ({
      sampleRate,
      layout,
      from,
      to,
      parts: await sounds.heardOn(project.opened, seen),
    }))
  }

  /** The placements of the timeline in hand on which a clip is heard. */
  const placementsOf = (clip: Clip): Placement[] =>
    (timelines.current?.tracks ?? [])
      .filter(({ kind }) => kind === 'audio')
      .flatMap(({ placements }) => placements)
      .filter(({ source }) => source.kind === 'clip' && source.clipId === clip.id)
  /** Clips that are heard on the timeline in hand, in the order of their first placement. */
  const clips = computed<Clip[]>(() => {
    const timeline = timelines.current
    if (!timeline) return []
    const found = new Map(heardIn(project.opened, timeline).map(({ clip }) => [clip.id, clip]))
    const inOrder = placementsIn(timeline).flatMap(({ source }) =>
      source.kind === 'clip' && found.has(source.clipId) ? [source.clipId] : [],
    )
    return [...new Set([...inOrder, ...found.keys()])].flatMap((id) => found.get(id) ?? [])
  })

  /** The gain that brings a clip to the loudness that is aimed at; null while it is not known. */
  function evening(clip: Clip): ReturnType<typeof gainTo> {
    const found = ofClip(clip)
    return found && !('error' in found) ? gainTo(found, target.value) : null
  }
  /** Gives all placements of a clip the gain that evens it, in one step. */
  function even(clip: Clip): void {
    const gain = evening(clip)
    if (gain) cut.setSound(placementsOf(clip), { gain: gain.gain })
  }

  return {
    target,
    isBusy: jobs.isBusy,
    clips,
    ofClip,
    ofTimeline,
    placementsOf,
    evening,
    even,
  }
})

/** A timeline on which one placement alone is heard. */
const only = (timeline: Timeline, id: string): Timeline => ({
  ...timeline,
  tracks: timeline.tracks.map((track) => ({
    ...track,
    muted: false,
    placements: track.placements.filter((placement) => placement.id === id),
  })),
})
