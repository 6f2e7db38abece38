/** What a shape is drawn with: a colour of the edition, never one of its own. */
export type Tone = 'ink' | 'quiet' | 'line' | 'accent' | 'sheet' | 'free' | 'light' | 'heavy' | 'severe'

interface Painted {
  /** What it is filled with; empty where nothing is said. */
  readonly fill?: Tone
  /** What its outline is drawn with. */
  readonly stroke?: Tone
  /** How much of it is seen, 0 … 1. */
  readonly share?: number
}

/** One shape of a drawing, in units of its box. */
export type DrawnShape =
  | (Painted & {
      readonly kind: 'rect'
      readonly x: number
      readonly y: number
      readonly width: number
      readonly height: number
    })
  | (Painted & {
      readonly kind: 'ellipse'
      readonly x: number
      readonly y: number
      readonly rx: number
      readonly ry: number
    })
  | (Painted & { readonly kind: 'path'; readonly points: readonly (readonly [number, number])[] })
  | {
      readonly kind: 'words'
      readonly x: number
      readonly y: number
      readonly text: string
      readonly anchor?: 'start' | 'middle' | 'end'
      readonly tone?: Tone
    }
  | {
      /** Samples enlarged: greys 0 … 255 row by row, or three values each where it has colour. */
      readonly kind: 'samples'
      readonly x: number
      readonly y: number
      readonly width: number
      readonly height: number
      readonly columns: number
      readonly rows: number
      readonly values: ArrayLike<number>
      readonly inColour?: boolean
    }

/** A small drawing that the core computes: still, or another at each moment. */
export interface Drawing {
  /** The same in words, with its figures, for whoever does not see it. */
  readonly says: string
  /** Seconds after which it begins again; 0 where it stands still. */
  readonly lasts: number
  at(seconds: number): readonly DrawnShape[]
}

/** The box that every drawing stands in. */
export const [boxWidth, boxHeight] = [264, 120] as const

/** A drawing that does not move. @param says worked out when it is asked for where that takes some computing */
export const still = (says: string | (() => string), shapes: () => readonly DrawnShape[]): Drawing => ({
  get says() {
    return typeof says === 'string' ? says : says()
  },
  lasts: 0,
  at: shapes,
})

/** A drawing that goes on in so many steps of the same length; each is made once. */
export function stepped(
  says: string,
  { lasts, count }: { readonly lasts: number; readonly count: number },
  shapesOf: (step: number) => readonly DrawnShape[],
): Drawing {
  const shapesByStep = new Map<number, readonly DrawnShape[]>()
  return {
    says,
    lasts,
    at(seconds) {
      const step = Math.max(0, Math.min(count - 1, Math.floor((seconds / lasts) * count + 1e-9)))
      const shapes = shapesByStep.get(step) ?? shapesOf(step)
      shapesByStep.set(step, shapes)
      return shapes
    },
  }
}

export const drawnText = (
  x: number,
  y: number,
  text: string,
  more: { anchor?: 'start' | 'middle' | 'end'; tone?: Tone } = {},
): DrawnShape => ({ kind: 'words', x, y, text, ...more })

export const rect = (x: number, y: number, width: number, height: number, painted: Painted): DrawnShape => ({
  kind: 'rect',
  x,
  y,
  width,
  height,
  ...painted,
})

/** A row of cells with a number in each; one of them may be the one on screen. */
export function cells(
  numbers: readonly (number | string)[],
  at: { readonly x: number; readonly y: number; readonly width: number },
  lit = -1,
): DrawnShape[] {
  const width = at.width / numbers.length
  return numbers.flatMap((number, i) => [
    rect(at.x + i * width, at.y, width, 15, {
      stroke: 'line',
      ...(i === lit ? { fill: 'accent' as const, share: 0.25 } : {}),
    }),
    drawnText(at.x + (i + 0.5) * width, at.y + 11, String(number), { anchor: 'middle' }),
  ])
}

/** Greys of a picture that is worked out point by point, `of` from 0 to 1 across and down. */
export function greys(
  columns: number,
  rows: number,
  valueAt: (x: number, y: number) => number,
): Uint8Array<ArrayBuffer> {
  const values = new Uint8Array(columns * rows)
  for (let y = 0; y < rows; y++)
    for (let x = 0; x < columns; x++)
      values[y * columns + x] = Math.max(0, Math.min(255, Math.round(valueAt(x, y))))
  return values
}
