import { useEventListener } from '@vueuse/core'
import { onBeforeUnmount, ref } from 'vue'
import type { Placement } from '../../../../core/model/timeline'
import { useSelection } from '../../../../stores/selection'
import { useProject } from '../../../../stores/document/project'
import { useCut } from '../../../../stores/cut'
import { snapFrames, snapped } from './snapping'

/** What is taken hold of on a block. */
export type Grip = 'body' | 'start' | 'end'

/** A drag under way: what it does is told while it goes on. */
interface Drag {
  readonly grip: Grip
  readonly placement: Placement
  /** What moves with it, as it was when the drag began. */
  readonly moving: readonly Placement[]
  readonly x: number
  readonly y: number
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
 * Dragging on the strip: a block moves, one of its ends is trimmed, and with Alt what is inside slips. Each drag is shown while it
 * lasts and is one step when it is let go; Escape leaves everything as it was.
 */
export function useStripDrag(
  framePixels: () => number,
  /** How many tracks up or down (of the same kind) a vertical distance is. */
  tracksBy: (placement: Placement, y: number) => number,
) {
  const project = useProject()
  const selection = useSelection()
  const cut = useCut()
  const drag = ref<Drag | null>(null)
  let began = false

  function begin(placement: Placement, grip: Grip, event: PointerEvent): void {
    if (event.button !== 0) return
    const ids = grip === 'body' ? selection.selectedIds : new Set([placement.id])
    const moving = selection.all.filter(({ id }) => ids.has(id))
    began = false
    drag.value = {
      grip,
      placement,
      moving,
      x: event.clientX,
      y: event.clientY,
      frames: snapFrames(selection.all, ids, selection.playhead),
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

  /** Goes where the pointer is: shown from where it began, so that nothing adds up. @returns whether it is a drag by now */
  function move(event: PointerEvent): boolean {
    const dragged = drag.value
    if (!dragged) return false
    if (!began && Math.hypot(event.clientX - dragged.x, event.clientY - dragged.y) < shaking) return false
    const meant = Math.round((event.clientX - dragged.x) / framePixels())
    const by =
      cut.snaps && !dragged.slips && !event.ctrlKey
        ? Math.round(snapped(meant, dragged.edges, dragged.frames, framePixels()))
        : meant
    const tracks =
      dragged.grip === 'body' && !dragged.slips ? tracksBy(dragged.placement, event.clientY - dragged.y) : 0
    if (began && by === dragged.by && tracks === dragged.tracks) return true
    began = true
    dragged.by = by
    dragged.tracks = tracks
    const { placement, grip, moving } = dragged
    if (dragged.slips) cut.slipBy(placement, -by, { isPreview: true })
    else if (grip === 'body') cut.moveBy(moving, by, tracks, { isPreview: true })
    else cut.trim(placement, grip, by, { isPreview: true })
    return true
  }
  /** Lets go: where it is now is one step. */
  function end(): void {
    if (drag.value) project.commit()
    drag.value = null
    began = false
  }
  /** Leaves everything where it was before the drag. */
  function leave(): void {
    if (drag.value) project.cancel()
    end()
  }
  useEventListener(
    'keydown',
    (event) => {
      if (event.key !== 'Escape' || !drag.value) return
      event.stopPropagation()
      leave()
    },
    { capture: true },
  )
  onBeforeUnmount(leave)
  return { drag, begin, move, end }
}
