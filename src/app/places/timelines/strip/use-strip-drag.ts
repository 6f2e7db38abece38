import { ref } from 'vue'
import type { Placement, Timeline } from '../../../../core/model/timeline'
import { useHand } from '../../../../stores/hand'
import { newId, useProject } from '../../../../stores/project'
import { useStrip } from '../../../../stores/strip'
import { snapFrames, snapped } from './snapping'

/** What is taken hold of on a block. */
export type Grip = 'body' | 'start' | 'end'

/** A drag under way: what it does is told while it goes on. */
interface Drag {
  readonly grip: Grip
  readonly placement: Placement
  readonly ids: ReadonlySet<string>
  readonly x: number
  readonly y: number
  readonly step: string
  readonly frames: readonly number[]
  readonly edges: readonly number[]
  /** How far it came. */
  by: number
  tracks: number
  slips: boolean
}

/** Pixels that a hand may shake before a click becomes a drag. */
const shaking = 4

/**
 * Dragging on the strip: a block moves, one of its ends is trimmed, and with Alt what is inside slips. Each drag is one step that is
 * undone, however often it changed on the way.
 */
export function useStripDrag(
  timeline: () => Timeline,
  framePixels: () => number,
  /** How many tracks up or down (of the same kind) a vertical distance is. */
  tracksBy: (placement: Placement, y: number) => number,
) {
  const project = useProject()
  const hand = useHand()
  const strip = useStrip()
  const drag = ref<Drag | null>(null)
  let began = false

  function begin(placement: Placement, grip: Grip, event: PointerEvent): void {
    if (event.button !== 0) return
    const ids = grip === 'body' ? hand.selectedIds : new Set([placement.id])
    const moving = hand.all.filter(({ id }) => ids.has(id))
    began = false
    drag.value = {
      grip,
      placement,
      ids,
      x: event.clientX,
      y: event.clientY,
      step: `drag ${newId()}`,
      frames: snapFrames(hand.all, ids, hand.playhead),
      edges:
        grip === 'start'
          ? [placement.start]
          : grip === 'end'
            ? [placement.start + placement.length]
            : moving.flatMap(({ start, length }) => [start, start + length]),
      by: 0,
      tracks: 0,
      slips: event.altKey && grip === 'body',
    }
  }

  /** Goes where the pointer is: what was done on the way is taken back and done anew, so that nothing adds up. @returns whether it is a drag by now */
  function move(event: PointerEvent): boolean {
    const dragged = drag.value
    if (!dragged) return false
    if (!began && Math.hypot(event.clientX - dragged.x, event.clientY - dragged.y) < shaking) return false
    const meant = Math.round((event.clientX - dragged.x) / framePixels())
    const by =
      strip.snaps && !dragged.slips && !event.ctrlKey
        ? Math.round(snapped(meant, dragged.edges, dragged.frames, framePixels()))
        : meant
    const tracks =
      dragged.grip === 'body' && !dragged.slips ? tracksBy(dragged.placement, event.clientY - dragged.y) : 0
    if (began && by === dragged.by && tracks === dragged.tracks) return true
    if (began) project.takeBack(dragged.step)
    began = true
    dragged.by = by
    dragged.tracks = tracks
    const fresh = timeline()
      .tracks.flatMap(({ placements }) => placements)
      .find(({ id }) => id === dragged.placement.id)
    if (!fresh) return true
    if (dragged.slips) strip.slipBy(fresh, -by, dragged.step)
    else if (dragged.grip === 'body')
      strip.moveBy(
        hand.all.filter(({ id }) => dragged.ids.has(id)),
        by,
        tracks,
        dragged.step,
      )
    else strip.trim(fresh, dragged.grip, by, dragged.step)
    return true
  }
  function end(): void {
    drag.value = null
    began = false
  }
  return { drag, begin, move, end }
}
