import { combsIn } from '../evidence/proof'
import { blended, interpolated } from '../fields/plane'
import { counted, percent, spaced } from '../words/figures'
import { type Drawing, type Shape, greys, still, words } from './drawing'
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
const picture = (x: number, width: number, values: ArrayLike<number>, text: string): Shape[] => [
  { kind: 'samples', x, y: 4, width, height: (width / columns) * rows * 1.55, columns, rows, values },
  words(x, 16 + (width / columns) * rows * 1.55, text),
]
const wide = (values: ArrayLike<number>, text: string) => picture(46, 170, values, text).slice(0, 2)

const wholeFrames: Drawing = {
  says: 'A bar moves 6 pixels from frame to frame; each frame shows it whole, at one moment.',
  lasts: 2.4,
  at: (t) => {
    const n = Math.min(2, Math.floor(t / 0.8))
    return [
      { ...(wide(moment(2 * n), '')[0] as Shape & { kind: 'samples' }), height: 96 },
      words(132, 115, `frame ${n}: one moment, all ${rows} lines`, { anchor: 'middle' }),
    ]
  },
}
const twoFields: Drawing = {
  says: 'Even lines show a bar at one moment, odd lines 3 pixels further on, half a frame later; woven, its edges comb.',
  lasts: 3.6,
  at: (t) => {
    const part = Math.floor(t / 1.2) % 3
    const whole = woven(0, 1)
    const shown =
      part === 2 ? whole : whole.map((value, i) => (Math.floor(i / columns) % 2 === part ? value : 128))
    const text = ['top field: the even lines', 'bottom field: the odd lines, later', 'both woven'][part] ?? ''
    return [
      { ...(wide(shown, '')[0] as Shape & { kind: 'samples' }), height: 96 },
      words(132, 115, text, { anchor: 'middle' }),
    ]
  },
}

/** Where a bar stands from field to field, in the right order and with each pair swapped. */
const inOrder = [0, 1, 2, 3, 4, 5, 6, 7] as const
const swappedOrder = [1, 0, 3, 2, 5, 4, 7, 6] as const
const order: Drawing = {
  says: 'In the right order a bar goes 0 1 2 3 4 5; in the wrong one 1 0 3 2 5 4: forward and back 25 times a second at 50i.',
  lasts: 3.2,
  at: (t) => {
    const n = Math.min(7, Math.floor(t / 0.4))
    const lane = (y: number, at: readonly number[], text: string): Shape[] => [
      words(0, y + 10, text),
      { kind: 'rect', x: 12 + (at[n] ?? 0) * 30, y: y + 16, width: 18, height: 26, fill: 'ink' },
      words(264, y + 10, `${at.slice(0, n + 1).join(' ')}`, { anchor: 'end', tone: 'quiet' }),
    ]
    return [...lane(2, inOrder, 'right order'), ...lane(62, swappedOrder, 'wrong order')]
  },
}

/** A larger picture of a bar that goes 4 pixels on in every field, so that blocks can be counted. */
const large = { width: 160, height: 96 }
const largeWoven = (frame: number) => ({
  ...large,
  data: greys(large.width, large.height, (x, y) => {
    const left = 36 + 4 * (2 * frame + (y % 2))
    return x >= left && x < left + 40 ? 225 : 48
  }),
})
const combing = still(
  'A bar goes 4 pixels on from field to field: every block of 16 × 16 at its edges combs.',
  () => {
    const frame = largeWoven(1)
    const patches = combsIn(largeWoven(0), frame, largeWoven(2))
    return [
      {
        kind: 'samples',
        x: 52,
        y: 2,
        ...large,
        columns: large.width,
        rows: large.height,
        values: frame.data,
      },
      ...patches.map(({ x, y, width, height }): Shape => ({
        kind: 'rect',
        x: 52 + x,
        y: 2 + y,
        width,
        height,
        stroke: 'accent',
      })),
      words(132, 114, `${counted(patches.length, 'block')} of 16 × 16 comb`, { anchor: 'middle' }),
    ]
  },
)

const three = still(
  'The same two fields: woven they comb, blended the bar stands twice, interpolated from one field it is whole.',
  () => {
    const samples = woven(2, 3)
    const plane = { width: columns, height: rows, samples }
    return [
      ...picture(0, 82, samples, 'woven'),
      ...picture(91, 82, blended(plane), 'blended'),
      ...picture(182, 82, interpolated(plane, 'top', 8), 'interpolated'),
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
