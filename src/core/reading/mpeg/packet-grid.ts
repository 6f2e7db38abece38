/** Where packets lie: their length, and how many bytes stand before each sync byte (192-byte packets lead with a time). */
export interface PacketGrid {
  readonly size: 188 | 192 | 204
  readonly lead: number
  readonly start: number
}

export const syncByte = 0x47
/** As many packets in a row make a grid. */
const inARow = [0, 1, 2, 3, 4]
export const gridLength = 1100

/** The grid on which the packets of a stretch lie; null where there is none. */
export function packetGrid(head: Uint8Array): PacketGrid | null {
  for (const [size, lead] of [
    [188, 0],
    [192, 4],
    [204, 0],
  ] as const) {
    for (let start = 0; start < size && start + lead + size * 4 < head.length; start++) {
      if (inARow.every((n) => head[start + lead + n * size] === syncByte)) return { size, lead, start }
    }
  }
  return null
}
