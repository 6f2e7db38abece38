import { placementAt } from '../../../../core/plan/layers'
import type { Timeline } from '../../../../core/model/timeline'
import { nominalRate } from '../../../../core/rate/timecode'
import type { Rate } from '../../../../core/rate/rate'
import { useSelection } from '../../../../stores/selection'
import { usePlaying } from '../../../../stores/playing'
import { useCut } from '../../../../stores/cut'
import { useTimelines } from '../../../../stores/timelines'
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
  const cut = useCut()
  const selection = useSelection()
  const playing = usePlaying()
  const meantBy = useKeys('cut')

  /** All frames at which something begins or ends. */
  const cuts = () => [0, ...selection.all.flatMap((p) => [p.start, p.start + p.length])].sort((a, b) => a - b)
  /** The one whose ends are meant: the picture of a pair. */
  const lead = () => selection.placements[0] ?? null

  /** What is moved on and on by key is one step. */
  const moved = () => `move ${[...selection.selectedIds].join(' ')}`

  function chooseHere(): void {
    const under = at
      .timeline()
      .tracks.map((track) => placementAt(track, selection.playhead))
      .find(Boolean)
    if (under) selection.select(at.withPairs([under.id]))
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
    selection.select(at.withPairs([next.id]))
    selection.goTo(next.start)
  }

  return (event) => {
    const far = event.shiftKey ? 10 : 1
    const step = (by: 1 | -1) =>
      selection.goTo(selection.playhead + by * (event.shiftKey ? nominalRate(at.rate()) : 1))
    const placement = lead()
    const trim = (end: 'start' | 'end', by: number) => placement && cut.trim(placement, end, by * far)
    const plain: Record<string, () => unknown> = {
      ArrowLeft: () => step(-1),
      ArrowRight: () => step(1),
      ArrowUp: () => selection.goTo(cuts().findLast((cut) => cut < selection.playhead) ?? 0),
      ArrowDown: () => selection.goTo(cuts().find((cut) => cut > selection.playhead) ?? selection.length),
      ',': () => selection.goByField(-1),
      '.': () => selection.goByField(1),
      Home: () => selection.goTo(0),
      End: () => selection.goTo(selection.length - 1),
      Enter: chooseHere,
      Escape: () => selection.select([]),
      Delete: () => at.act('remove'),
      n: () => at.act('cut'),
      e: () => selection.only && timelines.move(selection.only, -1),
      l: () => selection.only && timelines.move(selection.only, 1),
      '+': () => at.zoom(2),
      '-': () => at.zoom(0.5),
      '0': at.whole,
      '1': () => trim('start', -1),
      '2': () => trim('start', 1),
      '3': () => trim('end', -1),
      '4': () => trim('end', 1),
      '5': () => placement && cut.slipBy(placement, -far),
      '6': () => placement && cut.slipBy(placement, far),
      '7': () => cut.moveBy(selection.placements, -far, 0, { joins: moved() }),
      '8': () => cut.moveBy(selection.placements, far, 0, { joins: moved() }),
      PageUp: () => cut.moveBy(selection.placements, 0, 1),
      PageDown: () => cut.moveBy(selection.placements, 0, -1),
      f: () => (cut.following = cut.following === 'stays' ? 'moves' : 'stays'),
      h: () => (cut.snaps = !cut.snaps),
      g: () => cut.closeAllGaps(null),
      y: () => (selection.placements.some(({ pairId }) => pairId) ? cut.unpair() : cut.pair()),
      t: () => cut.pasteTreatment(),
      d: () => selection.placements.length && cut.asDefault(selection.placements),
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
      '%': () => placement && cut.slipBy(placement, -far),
      '^': () => placement && cut.slipBy(placement, far),
      '&': () => cut.moveBy(selection.placements, -far, 0, { joins: moved() }),
      '*': () => cut.moveBy(selection.placements, far, 0, { joins: moved() }),
    }
    const controlled: Record<string, () => unknown> = {
      c: () => cut.copy(),
      x: () => {
        cut.copy()
        at.act('remove')
      },
      v: () => cut.paste('over'),
      V: () => cut.paste('insert'),
      a: () => selection.select(selection.all.map(({ id }) => id)),
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
