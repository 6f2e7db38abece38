import { signalOfHlg, signalOfPq } from '../compose/colour'
import { chromas, perChroma } from '../dispatch/codecs'
import { isHdr } from '../picture/colour'
import { figure, percent } from '../words/figures'
import { type DrawnShape, boxWidth, greys, rect, still, drawnText } from './drawing'
import { type Term, ofPicture } from './term'

/** Colours of a few upright stripes with a slanted edge, so that shared samples show. */
const side = 12
const colourAt = (x: number, y: number): readonly [number, number, number] =>
  x + y * 0.4 < side * 0.7 ? [196, 66, 60] : [54, 106, 178]
/** The picture with its colour shared by so many samples across and down; brightness stays its own. */
function sharedColour(across: number, down: number): number[] {
  const values: number[] = []
  const luma = ([r, g, b]: readonly number[]) => 0.2126 * (r ?? 0) + 0.7152 * (g ?? 0) + 0.0722 * (b ?? 0)
  for (let y = 0; y < side; y++)
    for (let x = 0; x < side; x++) {
      const own = luma(colourAt(x, y))
      const [left, top] = [x - (x % across), y - (y % down)]
      const differences = [0, 0, 0]
      for (let j = 0; j < down; j++)
        for (let i = 0; i < across; i++) {
          const rgb = colourAt(left + i, top + j)
          rgb.forEach((value, k) => {
            differences[k] = (differences[k] ?? 0) + (value - luma(rgb)) / (across * down)
          })
        }
      values.push(...differences.map((difference) => Math.max(0, Math.min(255, own + difference))))
    }
  return values
}
const chroma = still(
  'One colour sample for each pixel in 4:4:4, for two in 4:2:2, for four in 4:2:0: edges of colour run into each other.',
  () =>
    [...chromas].reverse().flatMap((name, i): DrawnShape[] => {
      const [across, down] = perChroma[name]
      return [
        {
          kind: 'samples',
          x: i * 90,
          y: 4,
          width: 82,
          height: 82,
          columns: side,
          rows: side,
          values: sharedColour(across, down),
          inColour: true,
        },
        drawnText(i * 90, 104, `${name}: 1 in ${across * down}`),
      ]
    }),
)

/** A dark ramp over 3 % of the range, as codes of a depth show it, its differences made ten times larger. */
const ramp = (bits: number) => {
  const most = 2 ** bits - 1
  return greys(256, 1, (x) => ((Math.floor((x / 256) * 0.03 * most) / most) * 255 * 0.9) / 0.03)
}
const steps = (bits: number) => Math.floor(0.03 * (2 ** bits - 1)) + 1
const depth = still(
  `The same soft slope of 3 % of the range: ${steps(8)} steps in 8 bits, ${steps(10)} in 10.`,
  () =>
    [8, 10].flatMap((bits, i): DrawnShape[] => [
      drawnText(0, 12 + i * 60, `${bits} bit: ${steps(bits)} steps, shown thirty times brighter`),
      {
        kind: 'samples',
        x: 0,
        y: 18 + i * 60,
        width: boxWidth,
        height: 36,
        columns: 256,
        rows: 1,
        values: ramp(bits),
      },
    ]),
)

const [blackCode, whiteCode] = [16, 235] as const
/** What a grey becomes when its limited range is taken for full, and the other way about. */
const takenForFull = (share: number) => blackCode + share * (whiteCode - blackCode)
const takenForLimited = (share: number) =>
  Math.max(0, Math.min(255, ((share * 255 - blackCode) / (whiteCode - blackCode)) * 255))
const range = still(
  `Limited: black is code ${blackCode}, white ${whiteCode}. Taken for full, black is grey at ${percent(takenForFull(0) / 255)}; full taken for limited loses what lies below 16 and above 235.`,
  () =>
    (
      [
        ['right', (s: number) => s * 255],
        ['limited taken for full: grey', takenForFull],
        ['full taken for limited: cut off', takenForLimited],
      ] as const
    ).flatMap(([text, curve], i): DrawnShape[] => [
      drawnText(0, 11 + i * 40, text),
      {
        kind: 'samples',
        x: 0,
        y: 16 + i * 40,
        width: boxWidth,
        height: 18,
        columns: 32,
        rows: 1,
        values: greys(32, 1, (x) => curve(x / 31)),
      },
    ]),
)

/** Chromaticities of red, green and blue (ITU-R BT.709, BT.2020; SMPTE RP 431-2). */
const triangles = {
  'BT.709': [
    [0.64, 0.33],
    [0.3, 0.6],
    [0.15, 0.06],
  ],
  'DCI-P3': [
    [0.68, 0.32],
    [0.265, 0.69],
    [0.15, 0.06],
  ],
  'BT.2020': [
    [0.708, 0.292],
    [0.17, 0.797],
    [0.131, 0.046],
  ],
} as const
type Corner = readonly [number, number]
function area([a, b, c]: readonly [Corner, Corner, Corner]): number {
  return Math.abs((b[0] - a[0]) * (c[1] - a[1]) - (c[0] - a[0]) * (b[1] - a[1])) / 2
}
const wider = area(triangles['BT.2020']) / area(triangles['BT.709'])
const primaries = still(
  `The colours that red, green and blue can mix: BT.2020 spans ${figure(wider)} times the area of BT.709, DCI-P3 ${figure(area(triangles['DCI-P3']) / area(triangles['BT.709']))} times.`,
  () =>
    Object.entries(triangles).flatMap(([name, corners], i): DrawnShape[] => {
      const points = [...corners, corners[0]].map(([x, y]) => [30 + x * 190, 116 - y * 136] as const)
      return [
        { kind: 'path', points, stroke: (['ink', 'quiet', 'accent'] as const)[i] ?? 'ink' },
        drawnText(190, 26 + i * 18, name, { tone: (['ink', 'quiet', 'accent'] as const)[i] ?? 'ink' }),
      ]
    }),
)

/** A curve from black to white over the light that it codes. */
const curve = (curve: (light: number) => number, stroke: 'ink' | 'quiet' | 'accent'): DrawnShape => ({
  kind: 'path',
  points: Array.from({ length: 65 }, (_, i) => {
    const light = i / 64
    return [4 + light * 170, 114 - curve(light) * 106] as const
  }),
  stroke,
})
/** The signal of standard range for light (ITU-R BT.709, its overall curve of BT.1886). */
const signalOfStandard = (light: number) => light ** (1 / 2.4)
const curves = still(
  `Signal over light up to 1000 cd/m²: at a tenth of it, BT.709 stands at ${percent(signalOfStandard(0.1))}, HLG at ${percent(signalOfHlg(0.1))}, PQ at ${percent(signalOfPq(0.1))}.`,
  () => [
    rect(4, 8, 170, 106, { stroke: 'line' }),
    curve(signalOfStandard, 'ink'),
    curve(signalOfHlg, 'quiet'),
    curve(signalOfPq, 'accent'),
    drawnText(184, 26, 'BT.709'),
    drawnText(184, 44, 'HLG', { tone: 'quiet' }),
    drawnText(184, 62, 'PQ', { tone: 'accent' }),
    drawnText(184, 110, 'signal over light', { tone: 'quiet' }),
  ],
)
const lights = [100, 203, 1000, 4000, 10_000] as const
const hdr = still(
  `Of PQ’s signal, ${percent(signalOfPq(0.1))} reaches 100 cd/m², where a standard screen ends; the rest goes up to 10 000.`,
  () => [
    drawnText(0, 12, 'where a brightness stands in the signal of PQ'),
    rect(0, 40, boxWidth, 24, { stroke: 'ink' }),
    rect(0, 40, signalOfPq(0.1) * boxWidth, 24, { fill: 'accent', share: 0.3 }),
    ...lights.flatMap((light, i): DrawnShape[] => {
      const x = signalOfPq(light / 1000) * boxWidth
      return [
        {
          kind: 'path',
          points: [
            [x, 36],
            [x, 68],
          ],
          stroke: 'ink',
        },
        drawnText(x, i % 2 ? 32 : 82, `${light}`, { anchor: i === lights.length - 1 ? 'end' : 'middle' }),
      ]
    }),
    drawnText(0, 104, 'cd/m²; shaded: what a standard screen shows', { tone: 'quiet' }),
  ],
)

const stated = (value: string | null, what: string) =>
  value ? `It states ${what} ${value}.` : `It does not state its ${what}.`

/** Colour and its samples. */
export const colourTerms: readonly Term[] = [
  {
    id: 'chroma-subsampling',
    name: 'Chroma subsampling',
    also: ['chroma subsampling', 'chroma', '4:2:0', '4:2:2', '4:4:4'],
    says: 'Colour is stored for fewer pixels than brightness: for each one (4:4:4), for two (4:2:2), for four (4:2:0).',
    costs: 'Cut-out edges and fine red lettering step; each conversion to fewer samples is for good.',
    drawing: chroma,
    ofClip: ofPicture(({ chroma: chroma }) => (chroma ? `It has ${chroma}.` : 'It does not say.')),
  },
  {
    id: 'bit-depth',
    name: 'Bit depth',
    also: ['bit depth', 'depth', '10 bit', '8 bit'],
    says: 'How finely brightness is told apart: 8 bits are 256 codes, 10 bits 1024.',
    costs: 'In 8 bits a graded sky breaks into bands; 10 bits brought to 8 do not come back.',
    drawing: depth,
    ofClip: ofPicture(({ bitDepth }, { format }) =>
      bitDepth
        ? `It has ${bitDepth} bits${format && format.colour.bitDepth < bitDepth ? `, the format ${format.colour.bitDepth}` : ''}.`
        : null,
    ),
  },
  {
    id: 'range',
    name: 'Range',
    also: ['range', 'limited range', 'full range', 'levels'],
    says: 'Which codes are black and white: 16 and 235 in limited range, 0 and 255 in full.',
    costs: 'Mistaken, the picture goes grey, or its shadows and lights are cut off.',
    drawing: range,
    ofClip: ofPicture(({ colour }) => stated(colour.range, 'range')),
  },
  {
    id: 'primaries',
    name: 'Primaries',
    also: ['primaries', 'colour', 'BT.709', 'BT.2020', 'matrix'],
    says: 'Which red, green and blue the numbers mean.',
    costs: 'BT.2020 taken for BT.709 looks pale; the other way about, skin turns red.',
    drawing: primaries,
    ofClip: ofPicture(({ colour }) => stated(colour.primaries, 'primaries')),
  },
  {
    id: 'transfer',
    name: 'Transfer',
    also: ['transfer', 'PQ', 'HLG'],
    says: 'The curve between light and its numbers.',
    costs: 'Read by another curve, the whole picture is too dark, too flat or too bright.',
    drawing: curves,
    ofClip: ofPicture(({ colour }) => stated(colour.transfer, 'transfer')),
  },
  {
    id: 'hdr',
    name: 'HDR',
    also: ['HDR', 'high dynamic range'],
    says: 'Picture for screens far brighter than 100 cd/m², coded by PQ or HLG.',
    costs:
      'Shown as standard without conversion it is grey and flat; converted, lights are compressed for good.',
    drawing: hdr,
    ofClip: ofPicture(({ colour }) =>
      isHdr(colour.transfer) ? `It is HDR, by ${(colour.transfer ?? '').toUpperCase()}.` : 'It is no HDR.',
    ),
  },
]
