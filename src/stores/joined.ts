import type { Patch } from 'immer'

/**
 * The patches of a step that others were joined to, as few as do the same: where everything is replaced in place, only the last of each
 * place counts. A key that is held down moves a clip a thousand times, and comes to one step of one move.
 * @param patches in the order in which they are applied
 */
export function joined(patches: Patch[]): Patch[] {
  const last = new Map<string, Patch>()
  for (const patch of patches) {
    // What is put in or taken out moves the places of others.
    if (patch.op !== 'replace') return patches
    const place = JSON.stringify(patch.path)
    last.delete(place)
    last.set(place, patch)
  }
  if (last.size === patches.length) return patches
  const places = new Set(last.keys())
  // What lies within something that is replaced as a whole depends on the order.
  const isWithin = ({ path }: Patch) =>
    path.some((_, i) => i > 0 && places.has(JSON.stringify(path.slice(0, i)))) || path.length === 0
  const some = [...last.values()]
  return some.some(isWithin) ? patches : some
}
