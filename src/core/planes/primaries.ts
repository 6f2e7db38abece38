/** Chromaticities of red, green and blue (ITU-T H.273 table 2), of those whose white is D65: light is converted by a matrix alone. */
const chromaticities: Readonly<Record<string, readonly [number, number, number, number, number, number]>> = {
  bt709: [0.64, 0.33, 0.3, 0.6, 0.15, 0.06],
  'bt601-625': [0.64, 0.33, 0.29, 0.6, 0.15, 0.06],
  'bt601-525': [0.63, 0.34, 0.31, 0.595, 0.155, 0.07],
  smpte240m: [0.63, 0.34, 0.31, 0.595, 0.155, 0.07],
  ebu3213: [0.63, 0.34, 0.295, 0.605, 0.155, 0.077],
  bt2020: [0.708, 0.292, 0.17, 0.797, 0.131, 0.046],
  'display-p3': [0.68, 0.32, 0.265, 0.69, 0.15, 0.06],
}
const [whiteX, whiteY] = [0.3127, 0.329]

type Matrix = readonly (readonly [number, number, number])[]

/** Light of red, green and blue as X, Y and Z, white being 1 of each. */
function toXyz(name: string): Matrix | null {
  const found = chromaticities[name]
  if (!found) return null
  const [xr, yr, xg, yg, xb, yb] = found
  const column = (x: number, y: number) => [x / y, 1, (1 - x - y) / y] as const
  const [r, g, b] = [column(xr, yr), column(xg, yg), column(xb, yb)]
  const bare: Matrix = [
    [r[0], g[0], b[0]],
    [r[1], g[1], b[1]],
    [r[2], g[2], b[2]],
  ]
  const shares = applied(inverse(bare), column(whiteX, whiteY))
  return bare.map(([x, y, z]) => [x * shares[0], y * shares[1], z * shares[2]] as const)
}

const applied = (m: Matrix, [a, b, c]: readonly [number, number, number]): [number, number, number] =>
  m.map(([x, y, z]) => x * a + y * b + z * c) as [number, number, number]

function inverse(m: Matrix): Matrix {
  const [[a, b, c], [d, e, f], [g, h, i]] = m as [
    readonly [number, number, number],
    readonly [number, number, number],
    readonly [number, number, number],
  ]
  const determinant = a * (e * i - f * h) - b * (d * i - f * g) + c * (d * h - e * g)
  const rows: Matrix = [
    [e * i - f * h, c * h - b * i, b * f - c * e],
    [f * g - d * i, a * i - c * g, c * d - a * f],
    [d * h - e * g, b * g - a * h, a * e - b * d],
  ]
  return rows.map(([x, y, z]) => [x / determinant, y / determinant, z / determinant] as const)
}

/** Whether light can be brought from one set of primaries to another. */
export const arePrimariesKnown = (from: string, to: string): boolean =>
  from in chromaticities && to in chromaticities

/** Brings light of one set of primaries to another; null where one of them is not known, or both are the same. */
export function lightBetween(from: string, to: string): ((rgb: [number, number, number]) => void) | null {
  const [a, b] = [toXyz(from), toXyz(to)]
  if (!a || !b || from === to) return null
  const back = inverse(b)
  return (rgb) => {
    const mapped = applied(back, applied(a, rgb))
    rgb[0] = mapped[0]
    rgb[1] = mapped[1]
    rgb[2] = mapped[2]
  }
}

/**
 * Whether two sets of primaries are taken to be the same: standard definition is brought to BT.709 and back by its matrix alone, as
 * everybody does it, so that those of BT.601 count as BT.709's wherever one side is standard definition.
 */
export function primariesAlike(from: string, to: string, isEitherStandardDefinition: boolean): boolean {
  if (from === to) return true
  const alike = (name: string) => name === 'bt709' || name.startsWith('bt601')
  return alike(from) && alike(to) && isEitherStandardDefinition
}
