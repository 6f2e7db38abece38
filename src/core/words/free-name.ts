/** A name that nothing bears yet: the wanted one, or that with a number behind it. */
export function freeName(wanted: string, taken: Iterable<string>): string {
  const names = new Set(taken)
  let free = wanted
  for (let n = 2; names.has(free); n++) free = `${wanted} (${n})`
  return free
}
