import { type Colour } from '../picture/colour'

/** Names of the code points of ITU-T H.273, as far as files use them. Codes 2 and reserved ones say nothing: null. */
const primaries: Record<number, string> = {
  1: 'bt709',
  4: 'bt470m',
  5: 'bt601-625',
  6: 'bt601-525',
  7: 'smpte240m',
  8: 'film',
  9: 'bt2020',
  10: 'xyz',
  11: 'dci-p3',
  12: 'display-p3',
  22: 'ebu3213',
}
const transfers: Record<number, string> = {
  1: 'bt709',
  4: 'gamma22',
  5: 'gamma28',
  6: 'bt601',
  7: 'smpte240m',
  8: 'linear',
  11: 'xvycc',
  13: 'srgb',
  14: 'bt2020-10',
  15: 'bt2020-12',
  16: 'pq',
  17: 'smpte428',
  18: 'hlg',
}
const matrices: Record<number, string> = {
  0: 'rgb',
  1: 'bt709',
  4: 'fcc',
  5: 'bt601-625',
  6: 'bt601-525',
  7: 'smpte240m',
  8: 'ycgco',
  9: 'bt2020',
  10: 'bt2020-cl',
  14: 'ictcp',
}

/** The parts of a colour that a set of H.273 codes states. */
export function colourFromCodes(
  primariesCode: number,
  transferCode: number,
  matrixCode: number,
  fullRange?: boolean,
): Colour {
  return {
    primaries: primaries[primariesCode] ?? null,
    transfer: transfers[transferCode] ?? null,
    matrix: matrices[matrixCode] ?? null,
    range: fullRange === undefined ? null : fullRange ? 'full' : 'limited',
  }
}
