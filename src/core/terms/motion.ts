import { cadence, holdLengths } from '../rate/cadence'
import { type Rate, rateName } from '../rate/rate'
import { canDropFrame, frameToTimecode } from '../rate/timecode'
import { lanesFor } from '../motion/lanes'
import { pulldownFrame } from '../motion/pulldown'
import { rational, toNumber } from '../rational/rational'
import { exactSeconds, milliseconds, oneIn, upTo } from '../words/figures'
import { type Drawing, type DrawnShape, boxWidth, cells, rect, stepped, still, drawnText } from './drawing'
import { type ClipInHand, type Term, ofPicture } from './term'

const film = rational(24)
const [r25, r30, r50, r60] = [rational(25), rational(30), rational(50), rational(60)]
const r23976 = rational(24000, 1001)
const r2997 = rational(30000, 1001)

const laneWords = {
  filmed: 'as filmed',
  hold: 'held',
  blend: 'blended',
  'every-frame': 'every frame, speed changed',
} as const
type LaneName = keyof typeof laneWords

/** A bar crosses the box in two seconds of the source, at true speed, in each of the lanes. */
function bars(says: string, source: Rate, timeline: Rate, kinds: readonly LaneName[]): Drawing {
  const lanes = lanesFor(source, timeline).filter(({ kind }) => kinds.includes(kind))
  const height = 116 / lanes.length
  const across = 2 * toNumber(source)
  return {
    says,
    lasts: 2,
    at: (t) =>
      lanes.flatMap(({ kind, rate, at }, i): DrawnShape[] => {
        const y = i * height
        return [
          drawnText(0, y + 11, laneWords[kind]),
          drawnText(boxWidth, y + 11, `${rateName(rate)} a second`, { anchor: 'end', tone: 'quiet' }),
          ...at(t).map(({ frame, share }): DrawnShape => ({
            kind: 'rect',
            x: ((frame % across) / across) * (boxWidth - 14),
            y: y + 16,
            width: 14,
            height: height - 20,
            fill: 'ink',
            share,
          })),
        ]
      }),
  }
}

/** Timeline frames in a row, each with the source frame that it shows, and the bar that they move. */
function landing(says: string, source: Rate, timeline: Rate, count: number): Drawing {
  const held = holdLengths(source, timeline, count * 2).flatMap((times, frame) =>
    Array.from({ length: times }, () => frame),
  )
  const shown = held.slice(0, count)
  const last = shown.at(-1) ?? 1
  return stepped(says, { lasts: count * 0.4, count }, (n) => [
    drawnText(0, 11, `${rateName(source)} on ${rateName(timeline)}, ten times slower`),
    rect(((shown[n] ?? 0) / last) * (boxWidth - 16), 22, 16, 46, { fill: 'ink' }),
    drawnText(0, 88, 'the source frame that each timeline frame shows', { tone: 'quiet' }),
    ...cells(shown, { x: 0, y: 96, width: boxWidth }, n),
  ])
}

/** How a clip's rate lands on the format's. */
const onFormat = (say: (source: Rate, timeline: Rate) => string | null) =>
  ofPicture(({ rate, rateMode }, { format }) =>
    rate && rateMode === 'constant' && format ? say(rate, format.rate) : null,
  )
const cadenceOf = onFormat((source, timeline) => {
  const { kind, repeated, dropped, periodTimeline, periodSource, slipSeconds } = cadence(source, timeline)
  const pair = `${rateName(source)} on ${rateName(timeline)}`
  if (kind === 'exact') return `${pair}: every frame once.`
  if (kind === 'slip')
    return `${pair}: one frame ${repeated ? 'twice' : 'left out'} every ${exactSeconds(slipSeconds ?? 0, 1)}.`
  return repeated
    ? `${pair}: ${repeated} of every ${periodTimeline} timeline frames show a frame again.`
    : `${pair}: ${dropped} of every ${periodSource} source frames are never shown.`
})
const judderOf = onFormat((source, timeline) => {
  const { judderMs } = cadence(source, timeline)
  const pair = `${rateName(source)} on ${rateName(timeline)}`
  return judderMs < 0.05 ? `${pair}: even.` : `${pair}: frames come ${milliseconds(judderMs)} off their time.`
})
const speedOf = onFormat((source, timeline) => {
  const speed = toNumber(timeline) / toNumber(source)
  return speed === 1
    ? null
    : `Every frame once, at ${rateName(timeline)}: ${upTo(speed * 100, 2)} % of its speed.`
})
const rateOf = ({ clip }: ClipInHand): string | null => {
  const video = clip.reading?.video
  if (!video || clip.reading?.kind === 'still') return null
  if (!video.rate) return 'Its rate is not stated.'
  const { rate, rateMode, meanRate } = video
  return rateMode === 'variable'
    ? `Its rate varies, ${upTo(meanRate ?? toNumber(rate), 2)} frames a second on average.`
    : `It has ${rateName(rate)} frames a second.`
}

const rates = still('A second holds 24, 25, 30, 50 or 60 frames, at even distances.', () =>
  [film, r25, r30, r50, r60].flatMap((rate, i): DrawnShape[] => {
    const y = 4 + i * 23
    const count = toNumber(rate)
    return [
      drawnText(0, y + 14, rateName(rate)),
      ...Array.from({ length: count + 1 }, (_, n): DrawnShape => {
        const x = 30 + (n / count) * 230
        return {
          kind: 'path',
          points: [
            [x, y],
            [x, y + 17],
          ],
          stroke: n % count === 0 ? 'ink' : 'quiet',
        }
      }),
    ]
  }),
)

const slip = cadence(r23976, film)
const thousandth = still(
  `23.976 is 24000/1001: on 24 it falls one frame behind every ${exactSeconds(slip.slipSeconds ?? 0, 1)}, 3.6 s an hour.`,
  () => {
    const seconds = slip.slipSeconds ?? 1
    const x = (s: number) => 4 + (s / (2.2 * seconds)) * 250
    return [
      drawnText(0, 12, '24000/1001 beside 24, in frames behind'),
      {
        kind: 'path',
        points: [
          [x(0), 96],
          [x(2.2 * seconds), 96 - 62 * 1.1],
        ],
        stroke: 'accent',
      },
      ...[0, 1, 2].flatMap((n): DrawnShape[] => [
        {
          kind: 'path',
          points: [
            [x(n * seconds), 100],
            [x(n * seconds), 92],
          ],
          stroke: 'ink',
        },
        drawnText(x(n * seconds), 113, exactSeconds(n * seconds, 1), { anchor: n ? 'middle' : 'start' }),
        drawnText(x(n * seconds) + 4, 90 - n * 31, n ? `${n}` : '', { tone: 'quiet' }),
      ]),
      {
        kind: 'path',
        points: [
          [4, 96],
          [258, 96],
        ],
        stroke: 'line',
      },
    ]
  },
)

/** The frames around the end of a minute, counted both ways. */
const dropFrame = stepped(
  `29.97 in drop-frame goes from ${frameToTimecode(1799, r2997, true)} to ${frameToTimecode(1800, r2997, true)}: two numbers are left out each minute but every tenth, no frame is.`,
  { lasts: 6, count: 6 },
  (step) => {
    const first = 1797
    const column = (x: number, drop: boolean, title: string): DrawnShape[] => [
      drawnText(x, 12, title),
      ...Array.from({ length: 6 }, (_, i): DrawnShape =>
        drawnText(x, 30 + i * 16, frameToTimecode(first + i, r2997, drop), {
          tone: i === step ? 'accent' : 'quiet',
        }),
      ),
    ]
    return [...column(0, true, 'drop-frame'), ...column(140, false, 'counted through')]
  },
)

const letters = 'ABCD'
const pulldown = stepped(
  'Four film frames A B C D become five of video: AA BB BC CD DD, ten fields; two of the five mix.',
  { lasts: 4, count: 5 },
  (step) => {
    const pairs = Array.from({ length: 5 }, (_, m) => pulldownFrame(m, 0))
    const fields = (y: number, which: 'first' | 'second') =>
      cells(
        pairs.map((pair) => letters[pair[which]] ?? ''),
        { x: 0, y, width: boxWidth },
        step,
      )
    return [
      drawnText(0, 12, 'film, 4 frames'),
      ...cells([...letters], { x: 0, y: 18, width: boxWidth }),
      drawnText(0, 58, 'video, 5 frames of two fields'),
      ...fields(64, 'first'),
      ...fields(79, 'second'),
      drawnText(
        0,
        110,
        pairs[step]?.first === pairs[step]?.second ? 'both fields of one frame' : 'fields of two frames',
        { tone: 'quiet' },
      ),
    ]
  },
)

/** Times of frames that are no even distance apart, as a telephone records them. */
const unevenTimes = [0, 33, 67, 100, 150, 183, 250, 283, 317, 383, 417, 433, 483, 500]
const variable = still('Frames at uneven distances, 17 to 67 ms apart; no single rate fits them all.', () => [
  drawnText(0, 12, 'when each frame is on, half a second'),
  ...unevenTimes.map((ms): DrawnShape => {
    const x = 4 + (ms / 500) * 256
    return {
      kind: 'path',
      points: [
        [x, 22],
        [x, 60],
      ],
      stroke: 'ink',
    }
  }),
  drawnText(0, 82, 'an even 30', { tone: 'quiet' }),
  ...Array.from({ length: 16 }, (_, n): DrawnShape => {
    const x = 4 + (n / 15) * 256
    return {
      kind: 'path',
      points: [
        [x, 90],
        [x, 112],
      ],
      stroke: 'quiet',
    }
  }),
])

/** Frames in time. */
export const motionTerms: readonly Term[] = [
  {
    id: 'frame-rate',
    name: 'Frame rate',
    also: ['frame rate', 'rate', 'rates', 'motion'],
    says: 'How many frames a second were filmed, and how many a timeline shows.',
    costs: 'A project of the wrong rate repeats, drops or speeds every frame of what does not match.',
    drawing: rates,
    ofClip: rateOf,
  },
  {
    id: 'thousandth-rates',
    name: '/1001 rates',
    also: ['/1001', '23.976', '29.97', '59.94'],
    says: '23.976, 29.97 and 59.94 are 24, 30 and 60 times 1000/1001, a thousandth slower than their names.',
    costs: 'Taken for the whole number, sound drifts 3.6 s an hour, or one frame slips every 42 s.',
    drawing: thousandth,
    ofClip: ofPicture(({ rate }) =>
      rate ? (rate.den === 1001 ? `It is one: ${rate.num}/${rate.den}.` : 'It is none.') : null,
    ),
  },
  {
    id: 'drop-frame',
    name: 'Drop-frame',
    also: ['drop-frame', 'starts at'],
    says: 'Timecode that leaves out numbers, never frames, so that 29.97 and 59.94 keep with the clock.',
    costs: 'Counted through, an hour of timecode is 3.6 s longer than an hour.',
    drawing: dropFrame,
    ofClip: ({ clip }) => {
      const { reading } = clip
      const rate = reading?.video?.rate
      if (!reading?.timecode || !rate) return null
      return canDropFrame(rate)
        ? `It starts at ${reading.timecode.start}, ${reading.timecode.dropFrame ? 'drop-frame' : 'counted through'}.`
        : `It starts at ${reading.timecode.start}; at ${rateName(rate)} nothing is ever left out.`
    },
  },
  {
    id: 'cadence',
    name: 'Cadence',
    also: ['cadence'],
    says: 'The pattern in which source frames land on timeline frames.',
    costs: `At 24 on 60 frames stay 2 and 3 frames by turns; 24 on 25 shows ${oneIn(1, 25)} twice.`,
    drawing: landing('24 on 60: frames stay for 3 and 2 timeline frames by turns.', film, r60, 10),
    ofClip: cadenceOf,
  },
  {
    id: 'hold',
    name: 'Hold',
    also: ['hold', 'held', 'repeated', 'repeats'],
    says: 'Each timeline frame shows the one source frame nearest in time; some stay longer, some are passed over.',
    costs: `Frames stay sharp, motion loses its evenness: at 25 on 60 they come ${milliseconds(cadence(r25, r60).judderMs)} off their time.`,
    drawing: bars('A bar at 25 on 60: as filmed, and held 2 and 3 frames by turns.', r25, r60, [
      'filmed',
      'hold',
    ]),
    ofClip: cadenceOf,
  },
  {
    id: 'blend',
    name: 'Blend',
    also: ['blend', 'blended', 'mixed'],
    says: 'A timeline frame between two source frames shows a mix of both.',
    costs: 'Motion is even, but moving edges stand twice; frames that were sharp are not any more.',
    drawing: bars('A bar at 25 on 60: held, and blended, where it stands twice between frames.', r25, r60, [
      'hold',
      'blend',
    ]),
    ofClip: cadenceOf,
  },
  {
    id: 'speed',
    name: 'Speed',
    also: ['speed', 'every frame once'],
    says: 'Every source frame is shown once at the timeline’s rate: nothing repeated, the speed changes.',
    costs: '24 at 25 runs 4 % faster and, unless corrected, sounds 0.7 of a semitone higher.',
    drawing: bars('A bar at 50 on 25: every second frame, or every frame at half speed.', r50, r25, [
      'hold',
      'every-frame',
    ]),
    ofClip: speedOf,
  },
  {
    id: 'pulldown',
    name: '2:3 pulldown',
    also: ['2:3', 'pulldown', '2:3 pulldown', 'telecine'],
    says: 'Film at 23.976 on 29.97 interlaced: its frames stay for two and three fields by turns.',
    costs: 'Not taken out, two frames in five comb and every cut may fall into a mixed frame.',
    drawing: pulldown,
    ofClip: ({ clip }) => {
      const { evidence } = clip
      if (!evidence) return clip.reading?.video ? 'Its picture is not measured yet.' : null
      return evidence.pulldown ? `It has one, phase ${evidence.pulldown.phase}.` : 'None was found in it.'
    },
  },
  {
    id: 'judder',
    name: 'Judder',
    also: ['judder', 'stutter'],
    says: 'Uneven motion: frames are on for unequal times.',
    costs: 'A pan at 24 on 60 trembles, though every single frame is sharp.',
    drawing: bars('A bar at 24 on 30: as filmed, and held, one frame in four twice.', film, r30, [
      'filmed',
      'hold',
    ]),
    ofClip: judderOf,
  },
  {
    id: 'variable-rate',
    name: 'Variable rate',
    also: ['variable rate', 'variable'],
    says: 'Frames at uneven distances: the recorder made them when it could.',
    costs: 'Read as an even rate, sound and picture part; frames are repeated and dropped at odd places.',
    drawing: variable,
    ofClip: ofPicture(({ rateMode, minRate, maxRate }) =>
      rateMode === 'variable'
        ? `Its rate varies from ${upTo(minRate ?? 0, 1)} to ${upTo(maxRate ?? 0, 1)} frames a second.`
        : rateMode === 'constant'
          ? 'Its rate is constant.'
          : null,
    ),
  },
]
