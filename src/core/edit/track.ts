import type { Placement } from './timeline'

type Stretch = Pick<Placement, 'start' | 'length'>

/** Closes up what is left of a track where placements were taken out: each gap they leave is closed, others stay. */
export const closeUp = <P extends Stretch>(staying: readonly P[], leaving: readonly Stretch[]): P[] =>
  staying.map((placement) => {
    const before = leaving.filter(({ start }) => start < placement.start)
    return { ...placement, start: placement.start - before.reduce((sum, { length }) => sum + length, 0) }
  })

/** Opens a track at a frame: what begins there or later moves on by a length. */
export const openUp = <P extends Stretch>(placements: readonly P[], frame: number, length: number): P[] =>
  placements.map((placement) =>
    placement.start >= frame ? { ...placement, start: placement.start + length } : placement,
  )
