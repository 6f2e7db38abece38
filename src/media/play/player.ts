import { framesShown } from '../../core/motion/shown'
import { type ReadyPicture, type PlayedClip, playedClip } from './clips'
import { frameToMake, frameToShow, makingTime, pictureSize } from './catching-up'
import { type Pace, paceOf } from './pace'
import { paint } from './paint'
import type { Achieved, Feed, PlayOrder, PlayedLayer, PlayedView } from './plan'

/** A frame whose pictures are ready to be put on each view. */
interface Ready {
  readonly layers: readonly (readonly PlayedLayer[])[]
  readonly pictures: ReadonlyMap<string, ReadyPicture>
}

/** Frames are made ready as far ahead as this; and as many bytes of pictures. */
const mostAhead = 24
const mostBytes = 160 * 2 ** 20
/** What was achieved is told at least so often, in milliseconds. */
const tellEvery = 200
/** Layers are asked for in stretches of so many frames. */
const fed = 48

/** The time that all threads of the page have in common, in milliseconds. */
export const commonNow = (): number => performance.timeOrigin + performance.now()

const bytesOf = ({ width, height }: ReadyPicture) => 4 * width * height

/** A timeline that plays: pictures are made ready ahead of the moment, and put on their views when they fall due. */
export interface Player {
  /** Makes the first frames ready. */
  prepare(signal: AbortSignal): Promise<void>
  /** Plays from a moment of the common time on, to the end or until it is stopped. @returns what was achieved */
  run(startAt: number, tell: (achieved: Achieved) => void, signal: AbortSignal): Promise<Achieved>
  close(): void
}

export function player(order: PlayOrder, views: readonly PlayedView[], feed: Feed): Player {
  const { from, to, start, loops, sources } = order
  const length = to - from
  const clips = new Map<string, PlayedClip>()
  /** When each was last wanted, so that those that are done with are let go: decoders are few. */
  const wantedAt = new Map<string, number>()
  const plan = new Map<number, readonly (readonly PlayedLayer[])[]>()
  const ready = new Map<number, Ready>()
  /** Pictures that are ready, and by how many frames each is used. */
  const pool = new Map<string, { readonly picture: ReadyPicture; uses: number }>()
  let trouble: string | null = null
  let bytes = 0

  const following = (n: number): number | null => (n + 1 < to ? n + 1 : loops ? from : null)
  const keyOf = (view: number, { layer, sourceKey }: PlayedLayer) =>
    `${view} ${layer.placementId} ${sourceKey}`

  async function layersAt(n: number) {
    if (!plan.has(n)) {
      const frames = await feed(n, Math.min(fed, to - n))
      frames.forEach((layers, i) => plan.set(n + i, layers))
      for (const known of plan.keys())
        if (plan.size > 4 * fed && (known < n || known > n + fed)) plan.delete(known)
    }
    return plan.get(n) ?? views.map(() => [])
  }

  /** A picture of a source's frame; one that is ready already is used again: what is held is drawn once. */
  async function pictureOf(
    view: number,
    played: PlayedLayer,
    index: number,
    n: number,
    anyNear: boolean,
  ): Promise<ReadyPicture | null> {
    const key = keyOf(view, played)
    const source = sources.get(played.sourceKey)
    const target = views[view]
    if (!source || !target) return null
    wantedAt.set(key, n)
    const known = pool.get(`${key} ${index}`)
    if (known) return known.picture
    const clip = clips.get(key) ?? playedClip(source)
    clips.set(key, clip)
    const wide = Math.max(16, Math.round(target.width * size.share()))
    const picture = await clip.picture(index, wide, anyNear)
    pool.set(`${key} ${index}`, { picture, uses: 0 })
    return picture
  }

  async function make(n: number, signal: AbortSignal, anyNear: boolean): Promise<Ready> {
    const layers = await layersAt(n)
    const pictures = new Map<string, ReadyPicture>()
    for (const [view, ofView] of layers.entries())
      for (const played of ofView)
        for (const index of framesShown(played.layer.shown)) {
          try {
            const picture = await pictureOf(view, played, index, n, anyNear)
            if (picture) pictures.set(`${keyOf(view, played)} ${index}`, picture)
          } catch (error) {
            signal.throwIfAborted()
            // What cannot be had leaves what is under it; all else goes on.
            trouble = error instanceof Error ? error.message : String(error)
          }
        }
    return { layers, pictures }
  }

  function keep(n: number, frame: Ready) {
    ready.set(n, frame)
    for (const key of frame.pictures.keys()) {
      const pooled = pool.get(key)
      if (pooled && pooled.uses++ === 0) bytes += bytesOf(pooled.picture)
    }
  }
  function drop(n: number) {
    const frame = ready.get(n)
    ready.delete(n)
    for (const key of frame?.pictures.keys() ?? []) {
      const pooled = pool.get(key)
      if (!pooled || --pooled.uses > 0) continue
      pool.delete(key)
      bytes -= bytesOf(pooled.picture)
      if (pooled.picture instanceof ImageBitmap) pooled.picture.close()
    }
  }
  const isFull = () => ready.size >= Math.min(mostAhead, length) || (bytes > mostBytes && ready.size > 2)

  /** Lets go of sources that nothing ahead wants. */
  function letGo(n: number) {
    for (const [key, at] of wantedAt)
      if (Math.abs(n - at) > 2 && !loops) {
        clips.get(key)?.close()
        clips.delete(key)
        wantedAt.delete(key)
      }
  }

  let next: number | null = start
  const making = makingTime()
  const size = pictureSize()
  /** Makes frames ready for as long as there is room and something to come. @param due tells which frame falls due now */
  async function makeReady(due: () => number | null, signal: AbortSignal): Promise<void> {
    while (next !== null && !isFull()) {
      signal.throwIfAborted()
      const dueFrame = due()
      next = frameToMake(next, dueFrame, making.took(), order.perSecond, order)
      if (next === null) return
      const n: number = next
      next = following(n)
      const begun = commonNow()
      const frame = await make(n, signal, dueFrame !== null && making.isHopeless())
      making.add(commonNow() - begun)
      keep(n, frame)
      letGo(n)
    }
  }

  function put(n: number): boolean {
    const frame = ready.get(n)
    if (!frame) return false
    views.forEach((view, i) => {
      const layers = frame.layers[i] ?? []
      paint(
        view.canvas,
        {
          layers: layers.map(({ layer }) => layer),
          region: view.region,
          width: view.width,
          height: view.height,
          scaling: 'quick',
          background: view.background,
        },
        (layer, index) => {
          const played = layers.find((playedLayer) => playedLayer.layer === layer)
          return played && frame.pictures.get(`${keyOf(i, played)} ${index}`)
        },
      )
    })
    return true
  }

  function achieved(pace: Pace, frame: number): Achieved {
    return { frame, trouble, ...pace.counted(commonNow()) }
  }

  return {
    async prepare(signal) {
      await makeReady(() => null, signal)
      put(start)
    },
    async run(startAt, tell, signal) {
      const pace = paceOf(startAt, order.perSecond, order)
      let last = start
      let isMaking = true
      const work = (async () => {
        while (isMaking && !signal.aborted) {
          await makeReady(() => pace.dueAt(commonNow()), signal)
          await new Promise((later) => setTimeout(later, 2))
        }
      })().catch(() => {})
      await new Promise<void>((done) => {
        let shown = -1
        let lastTold = 0
        const tick = () => {
          if (signal.aborted) return done()
          const time = commonNow()
          const due = pace.dueAt(time)
          if (due === null && time >= startAt) return done()
          if (due !== null && due !== shown) {
            const newest = frameToShow(ready.keys(), due, shown, loops)
            if (newest !== null && put(newest)) {
              // What comes too late is seen, and does not count.
              if (newest === due) pace.show(time)
              shown = newest
              last = newest
              lastTold = 0
            }
            // What was not shown in time makes room for what still can be.
            for (const n of ready.keys()) if (loops ? passed(n, due) : n < due) drop(n)
          }
          size.count(time, pace.counted(time))
          // What falls due and is not shown is counted all the same.
          if (time - lastTold > tellEvery) {
            lastTold = time
            tell(achieved(pace, last))
          }
          requestAnimationFrame(tick)
        }
        requestAnimationFrame(tick)
      })
      isMaking = false
      await work
      return achieved(pace, last)
    },
    close() {
      for (const clip of clips.values()) clip.close()
      clips.clear()
      for (const n of [...ready.keys()]) drop(n)
    },
  }

  /** Of a stretch that goes round: whether a frame was shown before the one that is on, and comes only in the next round. */
  function passed(n: number, due: number): boolean {
    const ahead = (n - due + length) % length
    return ahead > Math.min(mostAhead, length - 1)
  }
}
