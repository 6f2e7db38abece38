import type { Way } from './way'

/** How a placement runs, in a few words. */
export function wayWords({ passing, taking }: Way): string {
  const pace = passing.kind === 'step-by-step' ? 'every frame once' : null
  switch (taking.kind) {
    case 'frames':
      return pace ?? (taking.mixed ? 'neighbouring frames mixed' : 'frames held as they land')
    case 'deinterlaced': {
      const made =
        taking.method === 'blend'
          ? 'both fields averaged'
          : taking.keep === 'each'
            ? 'each field made a frame'
            : `the ${taking.keep} field of each frame`
      return [made, pace, taking.mixed && 'mixed'].filter(Boolean).join(', ')
    }
    case 'fields':
      return taking.outOf === 'frames' ? 'a field from each frame' : 'fields stay fields'
    case 'pulldown':
      return '2:3 pulldown'
    case 'remove-pulldown':
      return '2:3 pulldown removed'
  }
}
