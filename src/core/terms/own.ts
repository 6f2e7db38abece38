import { rank } from '../choice/rank'
import { sureEnough } from '../evidence/evidence'
import { formatText, makeFormat, pictureOfFormat } from '../format/format'
import { pictureOf } from '../picture/picture'
import { rational } from '../rational/rational'
import { type Grade, grades } from '../toll/grade'
import { Ranking, defaultPolicy } from '../toll/policy'
import { plainTreatment } from '../treatment/treatment'
import { sentence, shortWords, tollSentence } from '../toll/sentence'
import type { Toll } from '../toll/charge'
import { tollOf } from '../toll/toll'
import { rankingNames } from '../toll/weights'
import { counted, figure, spaced } from '../words/figures'
import { type DrawnShape, boxWidth, rect, still, drawnText } from './drawing'
import { type ClipInHand, type Term } from './term'
import type { Bloc } from '../choice/bloc'

const [hd25, uhd24, hd50i] = [
  makeFormat({ width: 1920, height: 1080 }, rational(25)),
  makeFormat({ width: 3840, height: 2160 }, rational(24)),
  makeFormat({ width: 1920, height: 1080 }, rational(25), 'interlaced'),
]
const hd60 = makeFormat({ width: 1920, height: 1080 }, rational(60))
const small = makeFormat({ width: 1280, height: 720 }, rational(24))

/** The shapes of the grades, as they stand everywhere. */
const halfCircle = (x: number, y: number, r: number, share: number) =>
  Array.from({ length: 17 }, (_, i) => {
    const angle = -Math.PI / 2 + (i / 16) * Math.PI * 2 * share
    return [x + r * Math.cos(angle), y + r * Math.sin(angle)] as const
  })
const fills: Readonly<Record<Grade, number>> = { free: 0, light: 0.25, heavy: 0.5, severe: 1 }
function gradeShape(grade: Grade, x: number, y: number, r = 6): DrawnShape[] {
  const share = fills[grade]
  return [
    { kind: 'ellipse', x, y, rx: r, ry: r, stroke: grade, ...(share === 1 ? { fill: grade } : {}) },
    ...(share > 0 && share < 1
      ? [{ kind: 'path' as const, points: [[x, y] as const, ...halfCircle(x, y, r, share)], fill: grade }]
      : []),
  ]
}

const pays = (source: ReturnType<typeof makeFormat>, format: ReturnType<typeof makeFormat>) =>
  tollOf(pictureOfFormat(source), format)
const ofToll = (toll: Toll, title: string): DrawnShape[] => [
  drawnText(0, 14, title),
  ...gradeShape(toll.grade, 8, 34),
  drawnText(20, 38, toll.grade),
  ...toll.charges.slice(0, 3).map((charge, i) => drawnText(0, 62 + i * 18, `· ${shortWords(charge)}`)),
  drawnText(boxWidth, 38, `loss ${figure(toll.loss, 2)}`, { anchor: 'end', tone: 'quiet' }),
]
const smallIn25 = () => pays(small, hd25)
const toll = still(
  () => `What 1280×720 at 24p pays in 1920×1080 at 25p: ${tollSentence(smallIn25())}.`,
  () => ofToll(smallIn25(), '1280×720 24p in 1920×1080 25p'),
)
const interlacedIn60 = () => pays(hd50i, hd60)
const charge = still(
  () =>
    `Each charge has its own sentence: ${interlacedIn60()
      .charges.map((charge) => sentence(charge))
      .join('; ')}.`,
  () => ofToll(interlacedIn60(), '50i in 60p, charge by charge'),
)
const grade = still('Free ○, light ◔, heavy ◑, severe ●: a shape and a word, then a colour.', () =>
  grades.flatMap((grade, i): DrawnShape[] => [
    ...gradeShape(grade, 16, 18 + i * 28, 9),
    drawnText(38, 22 + i * 28, grade),
    drawnText(
      boxWidth,
      22 + i * 28,
      ['nothing to pay', 'seldom seen', 'seen by who looks', 'when there is no other way'][i] ?? '',
      { anchor: 'end', tone: 'quiet' },
    ),
  ]),
)

const footage: readonly Bloc[] = [
  [pictureOfFormat(uhd24), 40],
  [pictureOfFormat({ ...hd25, rate: rational(24) }), 60],
].map(([picture, weight], i) => ({
  picture: picture as Bloc['picture'],
  ids: [String(i)],
  seconds: weight as number,
  weight: weight as number,
}))
const bestUnder = (lean: Ranking) => rank(footage, { policy: defaultPolicy, lean, explained: 0 })[0]
const lean = still(
  () =>
    `Footage of 60 % HD and 40 % UHD: ${Ranking.options.map((ranking) => `ranked for ${rankingNames[ranking]}, ${formatText(bestUnder(ranking)?.format ?? hd25)} is first`).join('; ')}.`,
  () => [
    drawnText(0, 12, '60 % HD, 40 % UHD at 24p: which comes first'),
    ...Ranking.options.flatMap((ranking, i): DrawnShape[] => [
      drawnText(0, 36 + i * 21, rankingNames[ranking]),
      drawnText(boxWidth, 36 + i * 21, formatText(bestUnder(ranking)?.format ?? hd25), {
        anchor: 'end',
        tone: 'accent',
      }),
      {
        kind: 'path',
        points: [
          [0, 41 + i * 21],
          [boxWidth, 41 + i * 21],
        ],
        stroke: 'line',
      },
    ]),
  ],
)

const voices = (lines: readonly (readonly [string, string, boolean])[]): DrawnShape[] =>
  lines.flatMap(([voice, says, counts], i): DrawnShape[] => [
    rect(0, 8 + i * 34, boxWidth, 28, counts ? { stroke: 'ink', fill: 'sheet' } : { stroke: 'line' }),
    drawnText(8, 26 + i * 34, voice, { tone: counts ? 'ink' : 'quiet' }),
    drawnText(boxWidth - 8, 26 + i * 34, says, { anchor: 'end', tone: counts ? 'ink' : 'quiet' }),
  ])

const old = makeFormat({ width: 1440, height: 1080 }, rational(25))
const bothFramings = () =>
  (['fit', 'fill'] as const).map((kind) =>
    tollOf(pictureOfFormat(old), hd25, {
      ...plainTreatment,
      framing: { ...plainTreatment.framing, mode: { kind } },
    }),
  ) as [Toll, Toll]

const inFormat = ({ clip, format }: ClipInHand): Toll | null => {
  const video = clip.reading?.video
  return video && format && clip.reading?.kind === 'video' ? tollOf(pictureOf(video), format) : null
}

/** Our own words. */
export const ownTerms: readonly Term[] = [
  {
    id: 'toll',
    name: 'Toll',
    also: ['toll', 'tolls', 'price', 'pays'],
    says: 'All that a clip pays to run in a format: a list of charges, and a grade.',
    costs: 'Unpriced, it is found out at the delivery.',
    drawing: toll,
    ofClip: (inHand) => {
      const toll = inFormat(inHand)
      return toll ? `In the format it is ${toll.grade}: ${tollSentence(toll)}.` : null
    },
  },
  {
    id: 'charge',
    name: 'Charge',
    also: ['charge', 'charges'],
    says: 'One thing that is done to a clip to make it run: enlarged, frames repeated, fields made whole.',
    costs: 'Charges add up: each takes its share of what is left.',
    drawing: charge,
    ofClip: (inHand) => {
      const toll = inFormat(inHand)
      if (!toll) return null
      return toll.charges.length
        ? `It pays ${counted(toll.charges.length, 'charge')}: ${toll.charges.map(shortWords).join(', ')}.`
        : 'It pays none.'
    },
  },
  {
    id: 'grade',
    name: 'Grade',
    also: ['grade', 'free', 'light', 'heavy', 'severe'],
    says: 'How much a toll matters: free, light, heavy or severe.',
    costs: 'A severe one is what one does only when there is no other way.',
    drawing: grade,
    ofClip: (inHand) => {
      const toll = inFormat(inHand)
      return toll ? `In the format it is ${toll.grade}, loss ${figure(toll.loss, 2)}.` : null
    },
  },
  {
    id: 'ranking',
    name: 'Ranking',
    also: ['ranked for', 'rank for', 'ranking'],
    says: 'What is favoured: balance, sharpness (little enlarged), detail (no pixel unused), motion (no frame dropped) or what most footage is.',
    costs:
      'For detail the small is enlarged; for sharpness pixels of the large stay unused; for motion the fastest footage decides.',
    drawing: lean,
  },
  {
    id: 'reading',
    name: 'Reading',
    also: ['reading', 'readings', 'claimed'],
    says: 'All that was found out about one file; each fact knows where it was claimed.',
    costs: 'A header may be wrong: what it claims is held until the picture or you say otherwise.',
    drawing: still(
      'Three voices for one fact: claimed by the header, measured in the picture, corrected by you.',
      () =>
        voices([
          ['claimed', 'progressive, by the header', true],
          ['measured', 'nothing yet', false],
          ['corrected', 'nothing', false],
        ]),
    ),
    ofClip: ({ clip }) =>
      clip.reading
        ? `${counted(Object.keys(clip.origins).length, 'fact')} of it have a place where they are claimed.`
        : 'It could not be read.',
  },
  {
    id: 'evidence',
    name: 'Evidence',
    also: ['evidence', 'measured'],
    says: 'What decoded frames say: combs, field order, repeats, bars, true detail, each with its confidence.',
    costs: `Less sure than ${figure(sureEnough, 2)}, it is told and changes nothing.`,
    drawing: still(
      'The header claims progressive; the picture combs in 96 of 100 frames: the picture is believed to be asked about.',
      () =>
        voices([
          ['claimed', 'progressive', true],
          ['measured', 'combs, top first', false],
          ['corrected', 'nothing: you are asked', false],
        ]),
    ),
    ofClip: ({ clip }) =>
      clip.evidence
        ? `${counted(clip.evidence.frames, 'frame')} of it were looked at.`
        : clip.reading?.video
          ? 'Its picture is not measured yet.'
          : null,
  },
  {
    id: 'correction',
    name: 'Correction',
    also: ['correction', 'corrections', 'corrected'],
    says: 'Your word over a claim; the claim stays visible beside it and can be put back.',
    costs: 'Everything placed of the clip follows: what changes is told before.',
    drawing: still('Your word counts over what the header claims and what the picture says.', () =>
      voices([
        ['claimed', 'progressive', false],
        ['measured', 'combs, top first', false],
        ['corrected', 'interlaced, top first', true],
      ]),
    ),
    ofClip: ({ clip }) => {
      const facts = Object.keys(clip.corrections)
      return facts.length
        ? `Corrected of it: ${facts.map((fact) => spaced(fact.replace(/[A-Z]/g, (letter) => `-${letter.toLowerCase()}`))).join(', ')}.`
        : 'Nothing of it is corrected.'
    },
  },
  {
    id: 'treatment',
    name: 'Treatment',
    also: ['treatment', 'treatments'],
    says: 'How one placed clip is made to run: framing, motion, fields, filter, colour.',
    costs: 'Each has its price beside it; the timeline’s default holds where a clip has none of its own.',
    drawing: still(
      () => {
        const [fitted, filled] = bothFramings()
        return `1440×1080 in 1920×1080: fitted it is ${fitted.grade} (${tollSentence(fitted)}), filling ${filled.grade} (${tollSentence(filled)}).`
      },
      () =>
        bothFramings().flatMap((toll, i): DrawnShape[] => [
          drawnText(0, 14 + i * 60, i ? '1440×1080 filling 16:9' : '1440×1080 fitted into 16:9'),
          ...gradeShape(toll.grade, 8, 32 + i * 60),
          drawnText(20, 36 + i * 60, toll.grade),
          drawnText(boxWidth, 36 + i * 60, toll.charges.map(shortWords).join(', '), { anchor: 'end' }),
        ]),
    ),
    ofClip: (inHand) => {
      const toll = inFormat(inHand)
      return toll
        ? toll.untouched
          ? 'In the format it needs none.'
          : `In the format it needs one: ${tollSentence(toll)}.`
        : null
    },
  },
  {
    id: 'proof',
    name: 'Proof',
    also: ['proof', 'proven'],
    says: 'What was found in a rendered file, read back and decoded, beside what was asked.',
    costs: 'Without it a lost frame or swapped fields are found by whoever receives the file.',
    drawing: still(
      'Asked and found stand beside each other: 250 frames asked, 249 found, told as otherwise.',
      () => [
        drawnText(0, 14, 'asked'),
        drawnText(132, 14, 'found'),
        ...(
          [
            ['1920×1080, 25p', '1920×1080, 25p', true],
            ['250 frames', '249 frames', false],
            ['limited range', 'limited range', true],
          ] as const
        ).flatMap(([asked, found, same], i): DrawnShape[] => [
          rect(0, 22 + i * 32, boxWidth, 27, same ? { stroke: 'line' } : { stroke: 'ink', fill: 'sheet' }),
          drawnText(8, 40 + i * 32, asked),
          drawnText(132, 40 + i * 32, found),
          drawnText(boxWidth - 8, 40 + i * 32, same ? 'as asked' : 'otherwise', {
            anchor: 'end',
            tone: same ? 'quiet' : 'ink',
          }),
        ]),
      ],
    ),
  },
]
