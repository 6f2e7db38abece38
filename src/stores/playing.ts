import { proxy, transfer } from 'comlink'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { type Layer, layersAt } from '../core/plan/layers'
import type { Doc } from '../core/model/project'
import { storedIndexOf } from '../core/model/timing'
import { type PlacementSource, type Timeline, deepestNesting } from '../core/model/timeline'
import { toNumber } from '../core/rational/rational'
import { channelsOf } from '../core/sound/mix'
import type { Achieved, Feed, PlayOrder, PlayedLayer, PlayedSource, PlayedView } from '../media/play/plan'
import { commonNow } from '../media/play/player'
import { coded } from '../media/play/shown-code'
import type { MixPart } from '../media/sound/mixing'
import { playingService } from '../workers/services'
import { useSelection } from './selection'
import { useMeasuring } from './measuring'
import { useMedia } from './media'
import { useProject } from './document/project'
import { useProxies } from './proxies'
import { useSounds } from './sounds'

/** What is watched: ways of the timeline, and where each is drawn. */
export interface Watched {
  readonly timeline: Timeline
  readonly view: PlayedView
}

/** The stretch that is played. */
export interface PlayedRange {
  readonly from: number
  readonly to: number
}

/** Sound is mixed in stretches of so many seconds, and so far ahead. */
const [soundSeconds, soundAhead] = [1, 3]
/** Between what is asked and the first frame, in milliseconds: so long a screen and a sound card need to get under way. */
const leadIn = 120

/** Playing of the current timeline: pictures in a worker, sound beside them, and what was achieved. */
export const usePlaying = defineStore('playing', () => {
  const project = useProject()
  const media = useMedia()
  const proxies = useProxies()
  const sounds = useSounds()
  const selection = useSelection()
  const state = ref<'still' | 'preparing' | 'playing'>('still')
  /** How much of true speed it is watched at. */
  const speed = ref<1 | 0.1>(1)
  const loops = ref(false)
  const achieved = shallowRef<Achieved | null>(null)
  const soundTrouble = ref<string | null>(null)
  /** Clips that are played from their proxies. */
  const proxied = shallowRef<readonly string[]>([])
  const isOn = computed(() => state.value !== 'still')
  useMeasuring().holdWhile(isOn)
  let stop = new AbortController()
  let ended: Promise<unknown> = Promise.resolve()

  /** Where the frames of all that is on in a stretch come from, of placed timelines too. */
  async function sourcesOf(doc: Doc, ways: readonly Timeline[], { from, to }: PlayedRange) {
    const sources = new Map<string, PlayedSource>()
    const [lost, small]: [string[], string[]] = [[], []]
    for (const source of ways.flatMap((timeline) => [...sourcesIn(doc, timeline, from, to)])) {
      const key = sourceKey({ source })
      if (key === null || sources.has(key)) continue
      if (source.kind === 'figure') sources.set(key, { kind: 'figure', figure: source })
      const clip = source.kind === 'clip' ? doc.clips[source.clipId] : undefined
      const instead = clip && (await proxies.decodable(clip))
      const files = instead ?? (clip && (await media.decodable(clip)))
      if (clip && instead) small.push(clip.name)
      if (clip && files)
        sources.set(key, { kind: 'files', files, rotation: clip.reading?.video?.rotation ?? 0 })
      else if (clip && !lost.includes(clip.name)) lost.push(clip.name)
    }
    proxied.value = small
    return { sources, lost }
  }

  function* sourcesIn(
    doc: Doc,
    { tracks }: Timeline,
    from: number,
    to: number,
    depth = 0,
  ): Generator<PlacementSource> {
    for (const { kind, hidden, placements } of tracks)
      if (kind === 'video' && !hidden)
        for (const { source, start, length } of placements) {
          if (start >= to || start + length <= from) continue
          const inner = source.kind === 'timeline' ? doc.timelines[source.timelineId] : undefined
          if (inner && depth < deepestNesting) yield* sourcesIn(doc, inner, 0, Infinity, depth + 1)
          else yield source
        }
  }

  const sourceKey = ({ source }: Pick<Layer, 'source'>): string | null =>
    source.kind === 'clip' ? source.clipId : source.kind === 'figure' ? JSON.stringify(source) : null

  /** A layer with what it shows counted as playing counts it. */
  function playedLayer(doc: Doc, layer: Layer): PlayedLayer | [] {
    const key = sourceKey(layer)
    if (key === null) return []
    const clip = layer.source.kind === 'clip' ? doc.clips[layer.source.clipId] : undefined
    const shown = coded(layer.shown, (index) => (clip ? storedIndexOf(clip, index) : index))
    return { layer: { ...layer, shown }, sourceKey: key }
  }

  /** Plays a stretch on some views, from the playhead on where it lies within, until it ends or is stopped. */
  async function play(watched: readonly Watched[], stretch: PlayedRange): Promise<void> {
    await halt()
    const { doc } = project
    const [first] = watched
    const rate = first?.timeline.rate
    if (!doc || !first || !rate || stretch.to <= stretch.from) return
    state.value = 'preparing'
    achieved.value = null
    soundTrouble.value = null
    stop = new AbortController()
    const { signal } = stop
    ended = (async () => {
      try {
        await perform(doc, watched, stretch, toNumber(rate), signal)
      } catch (error) {
        if (!signal.aborted) throw error
      } finally {
        state.value = 'still'
        void playingService().close()
      }
    })()
    await ended
  }

  async function perform(
    doc: Doc,
    watched: readonly Watched[],
    { from, to }: PlayedRange,
    rate: number,
    signal: AbortSignal,
  ): Promise<void> {
    const ways = watched.map(({ timeline }) => timeline)
    const start = selection.playhead >= from && selection.playhead < to - 1 ? selection.playhead : from
    const { sources, lost } = await sourcesOf(doc, ways, { from, to })
    const order: PlayOrder = { perSecond: rate * speed.value, from, to, start, loops: loops.value, sources }
    const feed: Feed = async (n, count) =>
      Array.from({ length: count }, (_, i) =>
        ways.map((timeline) => layersAt(doc, timeline, n + i).flatMap((layer) => playedLayer(doc, layer))),
      )
    const views = watched.map(({ view }) => view)
    const service = playingService()
    await service.prepare(
      order,
      transfer(
        views,
        views.map(({ canvas }) => canvas),
      ),
      proxy(feed),
      signal,
    )
    const [way] = ways
    const sound = way && speed.value === 1 ? await soundFrom(doc, way, order, rate, signal) : null
    const startAt = commonNow() + leadIn
    sound?.begin(startAt)
    state.value = 'playing'
    const said = lost.length ? `${lost.join(', ')}: not at hand` : null
    try {
      const withLost = (achieved: Achieved): Achieved => ({ ...achieved, trouble: achieved.trouble ?? said })
      const tell = proxy((report: Achieved) => {
        if (signal.aborted) return
        achieved.value = withLost(report)
        selection.goTo(report.frame)
      })
      achieved.value = withLost(await service.run(startAt, tell, signal))
      // What was played to its end stands there, also where its last frames came too late to be shown.
      if (!signal.aborted) selection.goTo(to - 1)
    } finally {
      sound?.end()
    }
  }

  /** The sound of a stretch: mixed ahead of the moment, each piece handed to the sound card for its own time. */
  async function soundFrom(
    doc: Doc,
    timeline: Timeline,
    order: PlayOrder,
    rate: number,
    signal: AbortSignal,
  ) {
    const parts = await sounds.heardOn(doc, timeline)
    if (parts.length === 0) return null
    const { sampleRate, soundLayout } = timeline
    const context = new AudioContext({ sampleRate })
    const sampleOf = (frame: number) => Math.round((frame * sampleRate) / rate)
    const [first, last, from] = [order.from, order.to, order.start].map(sampleOf) as [number, number, number]
    let mixedTo = from
    const piece = async (parts: readonly MixPart[]) => {
      const count = Math.min(Math.round(soundSeconds * sampleRate), last - mixedTo)
      const mixed = await sounds.mix({ sampleRate, layout: soundLayout, from: mixedTo, count, parts }, signal)
      soundTrouble.value = mixed.trouble
      mixedTo += count
      if (mixedTo >= last && order.loops) mixedTo = first
      const buffer = context.createBuffer(channelsOf[soundLayout], count, sampleRate)
      mixed.channels.forEach((samples, i) => buffer.copyToChannel(samples as Float32Array<ArrayBuffer>, i))
      return buffer
    }
    let ready: AudioBuffer | null = await piece(parts)
    let isOver = false
    return {
      begin(startAt: number) {
        // The moment of the common time as the sound card counts it.
        let at = context.currentTime + (startAt - commonNow()) / 1000
        void (async () => {
          while (!signal.aborted && !isOver) {
            const buffer = ready ?? (mixedTo < last ? await piece(parts) : null)
            ready = null
            if (!buffer) return
            const node = context.createBufferSource()
            node.buffer = buffer
            node.connect(context.destination)
            // A piece that comes late begins within itself: sound never falls behind the picture.
            const late = Math.max(0, context.currentTime - at)
            if (late < buffer.duration) node.start(at + late, late)
            at += buffer.duration
            while (!signal.aborted && !isOver && at - context.currentTime > soundAhead)
              await new Promise((later) => setTimeout(later, 200))
          }
        })().catch(() => {})
      },
      end() {
        isOver = true
        void context.close()
      },
    }
  }

  /** Stops, and waits until all is let go. */
  async function halt(): Promise<void> {
    stop.abort()
    await ended
  }

  return { state, isOn, speed, loops, achieved, soundTrouble, proxied, play, halt }
})
