import { combsIn } from '../evidence/view'
import { blended, interpolated } from '../fields/plane'
import { counted, percent, spaced } from '../words/figures'
import { type DrawnShape, boxWidth, greys, rect, stepped, still, drawnText } from './drawing'
import { type Term, ofPicture } from './term'

const [columns, rows] = [44, 24] as const
/** An upright bar on the move, at a moment counted in fields. */
const moment = (field: number) =>
  greys(columns, rows, (x) => {
    const left = 8 + 3 * field
    return x >= left && x < left + 12 ? 225 : 48
  })

/** Two moments woven: even lines from the first, odd ones from the second. */
function woven(first: number, second: number): Uint8Array<ArrayBuffer> {
  const [top, bottom] = [moment(first), moment(second)]
  return top.map((value, i) => (Math.floor(i / columns) % 2 ? (bottom[i] as number) : value))
}
const samples = (x: number, width: number, height: number, values: ArrayLike<number>): DrawnShape => ({
  kind: 'samples',
  x,
  y: 4,
  width,
  height,
  columns,
  rows,
  values,
})
/** One picture as large as the box, and what it is. */
const large = (values: ArrayLike<number>, text: string): DrawnShape[] => [
  samples(46, 170, 96, values),
  drawnText(132, 115, text, { anchor: 'middle' }),
]
/** One of several beside each other, and what it is. */
const small = (x: number, values: ArrayLike<number>, text: string): DrawnShape[] => [
  samples(x, 82, 70, values),
  drawnText(x, 90, text),
]

const wholeFrames = stepped(
  'A bar moves 6 pixels from frame to frame; each frame shows it whole, at one moment.',
  { lasts: 2.4, count: 3 },
  (n) => large(moment(2 * n), `frame ${n}: one moment, all ${rows} lines`),
)
const twoFields = stepped(
  'Even lines show a bar at one moment, odd lines 3 pixels further on, half a frame later; woven, its edges comb.',
  { lasts: 3.6, count: 3 },
  (part) => {
    const whole = woven(0, 1)
    const shown =
      part === 2 ? whole : whole.map((value, i) => (Math.floor(i / columns) % 2 === part ? value : 128))
    const texts = ['top field: the even lines', 'bottom field: the odd lines, later', 'both woven']
    return large(shown, texts[part] ?? '')
  },
)

/** Where a bar stands from field to field, in the right order and with each pair swapped. */
const inOrder = [0, 1, 2, 3, 4, 5, 6, 7] as const
const swappedOrder = [1, 0, 3, 2, 5, 4, 7, 6] as const
const order = stepped(
  'In the right order a bar goes 0 1 2 3 4 5; in the wrong one 1 0 3 2 5 4: forward and back 25 times a second at 50i.',
  { lasts: 3.2, count: 8 },
  (n) => {
    const lane = (y: number, at: readonly number[], text: string): DrawnShape[] => [
      drawnText(0, y + 10, text),
      rect(12 + (at[n] ?? 0) * 30, y + 16, 18, 26, { fill: 'ink' }),
      drawnText(boxWidth, y + 10, at.slice(0, n + 1).join(' '), { anchor: 'end', tone: 'quiet' }),
    ]
    return [...lane(2, inOrder, 'right order'), ...lane(62, swappedOrder, 'wrong order')]
  },
)

/** A larger picture of a bar that goes 4 pixels on in every field, so that blocks can be counted. */
const combed = { width: 160, height: 96 }
const combedFrame = (frame: number) => ({
  ...combed,
  data: greys(combed.width, combed.height, (x, y) => {
    const left = 36 + 4 * (2 * frame + (y % 2))
    return x >= left && x < left + 40 ? 225 : 48
  }),
})
const combing = still(
  'A bar goes 4 pixels on from field to field: every block of 16 × 16 at its edges combs.',
  () => {
    const frame = combedFrame(1)
    const patches = combsIn(combedFrame(0), frame, combedFrame(2))
    return [
      {
        kind: 'samples',
        x: 52,
        y: 2,
        ...combed,
        columns: combed.width,
        rows: combed.height,
        values: frame.data,
      },
      ...patches.map(({ x, y, width, height }): DrawnShape => ({
        kind: 'rect',
        x: 52 + x,
        y: 2 + y,
        width,
        height,
        stroke: 'accent',
      })),
      drawnText(132, 114, `${counted(patches.length, 'block')} of 16 × 16 comb`, { anchor: 'middle' }),
    ]
  },
)

const three = still(
  'The same two fields: woven they comb, blended the bar stands twice, interpolated from one field it is whole.',
  () => {
    const plane = { width: columns, height: rows, samples: woven(2, 3) }
    return [
      ...small(0, plane.samples, 'woven'),
      ...small(91, blended(plane), 'blended'),
      ...small(182, interpolated(plane, 'top', 8), 'interpolated'),
    ]
  },
)

const scanOf = ofPicture(({ scan, fieldOrder }, { clip }) => {
  if (clip.reading?.kind === 'still') return null
  const found = clip.evidence?.combing
  const seen =
    found && found.verdict !== 'cannot-tell'
      ? ` Its picture ${found.verdict === 'combed' ? `combs in ${percent(found.share)} of its frames` : 'shows no combs'}.`
      : ''
  if (scan === 'unknown') return `It does not say whether it is progressive or interlaced.${seen}`
  const fields = fieldOrder && fieldOrder !== 'unknown' ? `, ${spaced(fieldOrder)}` : ''
  return `It is held ${scan}${scan === 'interlaced' ? fields : ''}.${seen}`
})

/** Frames and fields. */
export const fieldTerms: readonly Term[] = [
  {
    id: 'progressive',
    name: 'Progressive',
    also: ['progressive'],
    says: 'Every line of a frame is of the same moment.',
    costs: 'Taken for interlaced, every frame is softened or halved by a deinterlacer that it did not need.',
    drawing: wholeFrames,
    ofClip: scanOf,
  },
  {
    id: 'interlaced',
    name: 'Interlaced',
    also: ['interlaced', 'scan'],
    says: 'A frame holds two fields: even lines of one moment, odd lines of another, half a frame later.',
    costs: 'Taken for progressive, whatever moves gets combs at its edges, and scaling makes them permanent.',
    drawing: twoFields,
    ofClip: scanOf,
  },
  {
    id: 'field-order',
    name: 'Field order',
    also: ['field order', 'top first', 'bottom first', 'order'],
    says: 'Which field of a frame is the earlier one: top first or bottom first.',
    costs: 'In the wrong order all motion trembles, forward and back in every frame.',
    drawing: order,
    ofClip: ofPicture(({ scan, fieldOrder }, { clip }) => {
      if (scan !== 'interlaced') return null
      const seen = clip.evidence?.fieldOrder
      const measured =
        seen && (seen.verdict === 'top-first' || seen.verdict === 'bottom-first')
          ? ` Measured: ${spaced(seen.verdict)}.`
          : ''
      return fieldOrder && fieldOrder !== 'unknown'
        ? `It is held ${spaced(fieldOrder)}.${measured}`
        : `It does not state its field order.${measured}`
    }),
  },
  {
    id: 'combing',
    name: 'Combing',
    also: ['combing', 'combs', 'combed'],
    says: 'Edges that moved between two fields stand frayed, line by line, where both fields are shown at once.',
    costs: 'Seen on every moving edge; once scaled or encoded anew it cannot be taken out.',
    drawing: combing,
    ofClip: ({ clip }) => {
      const found = clip.evidence?.combing
      if (!found) return clip.reading?.video ? 'Its picture is not measured yet.' : null
      if (found.verdict === 'cannot-tell') return 'Its picture does not tell: too little moves.'
      return found.verdict === 'combed'
        ? `It combs in ${percent(found.share)} of the frames that were looked at.`
        : 'No combs were found in it.'
    },
  },
  {
    id: 'deinterlacing',
    name: 'Deinterlacing',
    also: ['deinterlacing', 'deinterlace', 'deinterlaced', 'weave', 'woven', 'interpolate', 'fields'],
    says: 'Whole frames are made of fields: woven, blended, or the missing lines interpolated.',
    costs:
      'Weaving combs, blending doubles edges, one field alone halves the lines: the way is chosen by what moves.',
    drawing: three,
    ofClip: ofPicture(({ scan }, { format }) =>
      scan === 'interlaced' && format
        ? format.scan === 'interlaced'
          ? 'The format is interlaced too: its fields can stay.'
          : 'The format is progressive: its fields have to become whole frames.'
        : null,
    ),
  },
]
