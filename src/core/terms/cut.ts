import { carryFrame, driftMs } from '../edit/carry'
import { rational } from '../rational/rational'
import { figure } from '../words/figures'
import { type DrawnShape, boxWidth, rect, still, drawnText } from './drawing'
import type { Term } from './term'

const [from, to] = [rational(25), rational(24)]
const boundaries = [0, 61, 118, 203, 250] as const
const carried = boundaries.map((frame) => carryFrame(frame, from, to))
const drifts = boundaries.map((frame, i) => driftMs(carried[i] ?? 0, to, frame, from))
const worst = Math.max(...drifts.map(Math.abs))
const signed = (ms: number) => `${ms < -0.05 ? '−' : ms > 0.05 ? '+' : ''}${figure(Math.abs(ms), 0)} ms`

const row = (y: number, at: readonly number[], whole: number): DrawnShape[] =>
  at.slice(0, -1).map((start, i) =>
    rect((start / whole) * boxWidth, y, (((at[i + 1] ?? 0) - start) / whole) * boxWidth - 1.5, 20, {
      stroke: 'ink',
      fill: 'sheet',
    }),
  )

const conform = still(
  `Cuts at frames ${boundaries.join(', ')} of 25 come to lie at ${carried.join(', ')} of 24, ${figure(worst, 0)} ms off at most.`,
  () => [
    drawnText(0, 12, 'the cut at 25'),
    ...row(18, boundaries, 250),
    drawnText(0, 58, 'the same at 24'),
    ...row(64, carried, 240),
    ...boundaries.flatMap((_, i): DrawnShape[] => [
      drawnText(((carried[i] ?? 0) / 240) * boxWidth, 100, signed(drifts[i] ?? 0), {
        anchor: i === 0 ? 'start' : i === boundaries.length - 1 ? 'end' : 'middle',
        tone: 'quiet',
      }),
    ]),
  ],
)
const nested = still(
  'A timeline of three clips stands in another as one: what is edited inside shows outside.',
  () => [
    drawnText(0, 12, 'the film'),
    rect(0, 18, 86, 24, { stroke: 'ink', fill: 'sheet' }),
    rect(89, 18, 100, 24, { stroke: 'accent', fill: 'accent', share: 0.25 }),
    rect(192, 18, 72, 24, { stroke: 'ink', fill: 'sheet' }),
    {
      kind: 'path',
      points: [
        [89, 42],
        [40, 76],
      ],
      stroke: 'accent',
    },
    {
      kind: 'path',
      points: [
        [189, 42],
        [224, 76],
      ],
      stroke: 'accent',
    },
    ...[0, 1, 2].map((i): DrawnShape => rect(40 + i * 62, 76, 59, 24, { stroke: 'ink', fill: 'sheet' })),
    drawnText(132, 115, 'the scene, a timeline of its own', { anchor: 'middle' }),
  ],
)

/** The cut as a whole. */
export const cutTerms: readonly Term[] = [
  {
    id: 'nested-timeline',
    name: 'Nested timeline',
    also: ['nested timeline', 'nested'],
    says: 'A timeline that is placed in another like a clip, and stays editable.',
    costs:
      'In another size or rate everything in it is scaled or timed twice, unless the inner one is made to match.',
    drawing: nested,
  },
  {
    id: 'conform',
    name: 'Conform',
    also: ['conform', 'carry over', 'carried', 'carry'],
    says: 'To bring a whole cut to another rate or size, or to the original files; here it is carried over.',
    costs: 'Each boundary moves to the nearest frame: half a frame at most, and sound has to follow.',
    drawing: conform,
    ofClip: ({ clip, format }) => {
      const rate = clip.reading?.video?.rate
      if (!rate || !format) return null
      const at = carryFrame(100, rate, format.rate)
      return `Its frame 100 comes to lie at frame ${at} of the format, ${signed(driftMs(at, format.rate, 100, rate))}.`
    },
  },
]
