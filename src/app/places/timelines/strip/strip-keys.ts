import { placementAt } from '../../../../core/plan/layers'
import type { Timeline } from '../../../../core/model/timeline'
import { nominalRate } from '../../../../core/rate/timecode'
import type { Rate } from '../../../../core/rate/rate'
import { useHand } from '../../../../stores/hand'
import { usePlaying } from '../../../../stores/playing'
import { useStrip } from '../../../../stores/strip'
import { useTimelines } from '../../../../stores/timelines'
import { useTreating } from '../../../../stores/treating'
import { useKeys } from '../../../keys/use-keys'

/** What keys do that is done elsewhere. */
export type StripAct =
  'cut' | 'remove' | 'next-finding' | 'play' | 'loop' | 'play-selection' | 'loupe' | 'ways'

/** What a key of the strip does. @returns a listener; keys that do nothing here are left alone */
export function stripKeys(at: {
  readonly timeline: () => Timeline
  readonly rate: () => Rate
  readonly zoom: (by: number) => void
  readonly whole: () => void
  readonly withPairs: (ids: Iterable<string>) => string[]
  readonly act: (act: StripAct) => void
}): (event: KeyboardEvent) => void {
  const timelines = useTimelines()
  const treating = useTreating()
  const hand = useHand()
  const strip = useStrip()
  const playing = usePlaying()
  const meantBy = useKeys('cut')

  /** All frames at which something begins or ends. */
  const cuts = () => [0, ...hand.all.flatMap((p) => [p.start, p.start + p.length])].sort((a, b) => a - b)
  /** The one whose ends are meant: the picture of a pair. */
  const lead = () => hand.placements[0] ?? null

  /** What is moved on and on by key is one step. */
  const moved = () => `move ${[...hand.selectedIds].join(' ')}`

  function chooseHere(): void {
    const under = at
      .timeline()
      .tracks.map((track) => placementAt(track, hand.playhead))
      .find(Boolean)
    if (under) hand.select(at.withPairs([under.id]))
  }
  /** Takes the one before or after the one in hand, on its track. */
  function chooseBeside(by: 1 | -1): void {
    const placement = lead()
    const track = at
      .timeline()
      .tracks.find(({ placements }) => placements.some(({ id }) => id === placement?.id))
    const index = track?.placements.findIndex(({ id }) => id === placement?.id) ?? -1
    const next = track?.placements[index + by]
    if (!next) return
    hand.select(at.withPairs([next.id]))
    hand.goTo(next.start)
  }

  return (event) => {
    const far = event.shiftKey ? 10 : 1
    const step = (by: 1 | -1) => hand.goTo(hand.playhead + by * (event.shiftKey ? nominalRate(at.rate()) : 1))
    const placement = lead()
    const trim = (end: 'start' | 'end', by: number) => placement && strip.trim(placement, end, by * far)
    const plain: Record<string, () => unknown> = {
      ArrowLeft: () => step(-1),
      ArrowRight: () => step(1),
      ArrowUp: () => hand.goTo(cuts().findLast((cut) => cut < hand.playhead) ?? 0),
      ArrowDown: () => hand.goTo(cuts().find((cut) => cut > hand.playhead) ?? hand.length),
      ',': () => hand.goByField(-1),
      '.': () => hand.goByField(1),
      Home: () => hand.goTo(0),
      End: () => hand.goTo(hand.length - 1),
      Enter: chooseHere,
      Escape: () => hand.select([]),
      Delete: () => at.act('remove'),
      n: () => at.act('cut'),
      e: () => hand.only && timelines.move(hand.only, -1),
      l: () => hand.only && timelines.move(hand.only, 1),
      '+': () => at.zoom(2),
      '-': () => at.zoom(0.5),
      '0': at.whole,
      '1': () => trim('start', -1),
      '2': () => trim('start', 1),
      '3': () => trim('end', -1),
      '4': () => trim('end', 1),
      '5': () => placement && strip.slipBy(placement, -far),
      '6': () => placement && strip.slipBy(placement, far),
      '7': () => strip.moveBy(hand.placements, -far, 0, { joins: moved() }),
      '8': () => strip.moveBy(hand.placements, far, 0, { joins: moved() }),
      PageUp: () => strip.moveBy(hand.placements, 0, 1),
      PageDown: () => strip.moveBy(hand.placements, 0, -1),
      f: () => (strip.following = strip.following === 'stays' ? 'moves' : 'stays'),
      h: () => (strip.snaps = !strip.snaps),
      g: () => strip.closeAllGaps(null),
      y: () => (hand.placements.some(({ pairId }) => pairId) ? strip.unpair() : strip.pair()),
      t: () => strip.pasteTreatment(),
      d: () => hand.placements.length && treating.asDefault(hand.placements),
      x: () => at.act('next-finding'),
      ' ': () => at.act('play'),
      o: () => at.act('loop'),
      p: () => at.act('play-selection'),
      z: () => at.act('loupe'),
      b: () => at.act('ways'),
      '<': () => chooseBeside(-1),
      '>': () => chooseBeside(1),
    }
    const shifted: Record<string, () => unknown> = {
      // The same keys with Shift, as keyboards give them.
      '!': () => trim('start', -1),
      '@': () => trim('start', 1),
      '#': () => trim('end', -1),
      $: () => trim('end', 1),
      '%': () => placement && strip.slipBy(placement, -far),
      '^': () => placement && strip.slipBy(placement, far),
      '&': () => strip.moveBy(hand.placements, -far, 0, { joins: moved() }),
      '*': () => strip.moveBy(hand.placements, far, 0, { joins: moved() }),
    }
    const controlled: Record<string, () => unknown> = {
      c: () => strip.copy(),
      x: () => {
        strip.copy()
        at.act('remove')
      },
      v: () => strip.paste('over'),
      V: () => strip.paste('insert'),
      a: () => hand.select(hand.all.map(({ id }) => id)),
    }
    if (event.altKey) return
    const does = event.ctrlKey || event.metaKey ? controlled : { ...plain, ...shifted }
    const key = event.ctrlKey || event.metaKey || shifted[event.key] ? event.key : meantBy(event)
    const act = key === null ? undefined : does[key]
    if (!act) return
    // Whoever goes on by hand stops what plays; playing and going round are keys of playing itself.
    if (playing.isOn && key !== ' ' && key !== 'o') void playing.halt()
    act()
    event.preventDefault()
  }
}
