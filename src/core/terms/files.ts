import { videoCodecs, deliveryWrappers } from '../dispatch/codecs'
import { proxySize, playingWeightOf } from '../toll/heavy'
import { counted } from '../words/figures'
import { type DrawnShape, boxWidth, cells, rect, still, drawnText } from './drawing'
import { type Term, ofPicture } from './term'

const packed = still(
  `What is made here: ${videoCodecs.map(({ name, wrappers: into }) => `${name} in ${into.join(', ')}`).join('; ')}.`,
  () => [
    ...deliveryWrappers.map((name, i) =>
      drawnText(86 + i * 37, 10, name === 'QuickTime' ? 'MOV' : name === 'Matroska' ? 'MKV' : name, {
        anchor: 'middle',
      }),
    ),
    ...videoCodecs.flatMap((codec, row): DrawnShape[] => [
      drawnText(0, 26 + row * 15, codec.name),
      ...deliveryWrappers.map((wrapper, i): DrawnShape =>
        codec.wrappers.includes(wrapper)
          ? { kind: 'ellipse', x: 86 + i * 37, y: 22 + row * 15, rx: 4.5, ry: 4.5, fill: 'ink' }
          : {
              kind: 'path',
              points: [
                [83 + i * 37, 22 + row * 15],
                [89 + i * 37, 22 + row * 15],
              ],
              stroke: 'line',
            },
      ),
    ]),
  ],
)
const longGroup = ['I', 'b', 'b', 'P', 'b', 'b', 'P', 'b', 'b', 'I'] as const
const kinds = still(
  'A long group: whole frames (I) are rare, the others tell what changed; all-intra: each frame is whole and found at once.',
  () => [
    drawnText(0, 14, 'a long group: frames lean on each other'),
    ...cells([...longGroup], { x: 0, y: 20, width: boxWidth }),
    drawnText(0, 68, 'all-intra: every frame whole'),
    ...cells(
      Array.from(longGroup, () => 'I'),
      { x: 0, y: 74, width: boxWidth },
    ),
    drawnText(0, 110, 'the first is smaller, the second cuts and seeks at once', { tone: 'quiet' }),
  ],
)
const small = proxySize(3840, 2160, false)
const proxy = still(
  `A proxy of 3840×2160 is ${small.width}×${small.height}: a quarter of its pixels.`,
  () => {
    const scale = 166 / 3840
    return [
      rect(0, 6, 3840 * scale, 2160 * scale, { stroke: 'ink' }),
      drawnText(6, 22, '3840×2160, for what is made'),
      rect(178, 6, small.width * scale, small.height * scale, {
        stroke: 'accent',
        fill: 'accent',
        share: 0.25,
      }),
      drawnText(178, 66, `${small.width}×${small.height}`),
      drawnText(178, 80, 'for playing', { tone: 'quiet' }),
    ]
  },
)

/** Files and what is in them. */
export const fileTerms: readonly Term[] = [
  {
    id: 'wrapper',
    name: 'Wrapper',
    also: ['wrapper', 'container', 'file'],
    says: 'The file around picture and sound: it holds their streams and their times (MP4, MOV, MXF).',
    costs: 'A wrong one is refused at delivery; a new one leaves the picture untouched.',
    drawing: packed,
    ofClip: ({ clip }) => (clip.reading ? `It comes in ${clip.reading.container}.` : null),
  },
  {
    id: 'codec',
    name: 'Codec',
    also: ['codec', 'codecs', 'profile'],
    says: 'How picture or sound is coded inside its wrapper; the same codec comes in many wrappers.',
    costs: 'Every new encoding loses a little, and some codecs are slow to play and to cut.',
    drawing: kinds,
    ofClip: ({ clip }) => {
      const { reading } = clip
      const name = [reading?.video?.codec, reading?.video?.profile].filter(Boolean).join(' ')
      const sounds = (reading?.audio ?? []).map(({ codec }) => codec)
      return name || sounds.length
        ? `It holds ${[name, ...new Set(sounds)].filter(Boolean).join(' and ')}.`
        : null
    },
  },
  {
    id: 'proxy',
    name: 'Proxy',
    also: ['proxy', 'proxies'],
    says: 'A small stand-in for a heavy clip, for playing only; what is made takes the original.',
    costs: 'Delivered by mistake it has a quarter of the pixels: here nothing that is made knows it.',
    drawing: proxy,
    ofClip: ofPicture((_, { clip }) => {
      const weight = playingWeightOf(clip.reading, null)
      return weight ? `${weight.heavy ? 'It is heavy to play' : 'It plays easily'}: ${weight.says}.` : null
    }),
  },
  {
    id: 'siding',
    name: 'Siding',
    also: ['siding'],
    says: 'Our word for the folder or card that is watched; clips are taken in from it and nothing in it is changed.',
    costs: 'A clip taken in too early would be half copied: it is read when its file rests.',
    drawing: still(
      'Files stand on the siding until they rest; then they are taken in and stay where they are.',
      () => [
        drawnText(0, 16, 'siding'),
        drawnText(boxWidth, 16, 'the project', { anchor: 'end' }),
        {
          kind: 'path',
          points: [
            [0, 78],
            [boxWidth, 78],
          ],
          stroke: 'ink',
        },
        {
          kind: 'path',
          points: [
            [0, 44],
            [92, 44],
            [132, 78],
          ],
          stroke: 'ink',
        },
        ...[0, 1, 2].map((i): DrawnShape =>
          rect(4 + i * 28, 28, 22, 14, i < 2 ? { fill: 'ink' } : { stroke: 'quiet' }),
        ),
        ...[0, 1].map((i): DrawnShape => rect(180 + i * 28, 62, 22, 14, { fill: 'ink' })),
        drawnText(0, 104, `${counted(2, 'file')} at rest, 1 still being copied`, { tone: 'quiet' }),
      ],
    ),
    ofClip: ({ clip }) =>
      clip.source.kind === 'siding'
        ? `It came from the ${clip.source.card === 'demo' ? 'demo’s card' : 'siding'}.`
        : 'It came from a file, not from the siding.',
  },
]
