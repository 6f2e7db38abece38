import type { Patch } from 'immer'

/**
 * The patches of a step that others were joined to, as few as do the same: where everything is replaced in place, only the last of each
 * place counts. A key that is held down moves a clip a thousand times, and comes to one step of one move.
 * @param patches in the order in which they are applied
 */
export function joined(patches: Patch[]): Patch[] {
  const placeOf = (path: Patch['path']) => path.join('\n')
  const last = new Map<string, Patch>()
  for (const patch of patches) {
    // What is put in or taken out moves the places of others.
    if (patch.op !== 'replace') return patches
    const place = placeOf(patch.path)
    last.delete(place)
    last.set(place, patch)
  }
  if (last.size === patches.length) return patches
  // What lies within something that is replaced as a whole depends on the order.
  const isWithin = ({ path }: Patch) => path.some((_, i) => last.has(placeOf(path.slice(0, i))))
  const kept = [...last.values()]
  return kept.some(isWithin) ? patches : kept
}
