import { describe, expect, it } from 'vitest'
import { deliverableOf } from '../model/deliverable'
import { aVideo } from '../model/doc.fixture'
import { newTimeline } from '../edit/placing'
import { parseFormat } from '../format/parse'
import type { Reading } from '../reading/reading'
import type { Verdict } from './likeness'
import { type Compared, saidLines, seenLines } from './proof'
import type { SoundVerdict } from './sound-likeness'
import { wrapped } from './usual'

const { format } = parseFormat('1920x1080@29.97p')!
const deliverable = wrapped(deliverableOf('d', 'For the hall', format))
const timeline = {
  ...newTimeline('t', 'Main cut', '', format),
  startTimecode: '01:00:00;00',
  dropFrame: true,
}
/** What a file of a hundred frames says that is as asked, but for what is told otherwise. */
function said(video: object, more: object = {}) {
  const reading = aVideo('out', '1920x1080@29.97p', 100 / 29.97).reading!
  const found = {
    ...reading,
    timecode: { start: '01:00:00;00', dropFrame: true },
    ...more,
    video: {
      ...reading.video!,
      frameCount: 100,
      colour: { primaries: 'bt709', transfer: 'bt709', matrix: 'bt709', range: 'limited' },
      ...video,
    },
  } as unknown as Reading
  const lines = saidLines(deliverable, timeline, { from: 0, to: 100 }, found)
  return Object.fromEntries(lines.map(({ what, holds }) => [what, holds]))
}
const colour = (more: object) => ({
  colour: { primaries: 'bt709', transfer: 'bt709', matrix: 'bt709', range: 'limited', ...more },
})

describe('what a file says of itself', () => {
  it('matches where all is as asked', () => {
    const { sound: _, codec: _codec, wrapper: _wrapper, ...lines } = said({})
    expect(Object.values(lines).every((holds) => holds === true)).toBe(true)
  })

  it.each([
    ['picture', { width: 1280 }, {}],
    ['picture', { rateMode: 'variable' }, {}],
    ['length', { frameCount: 99 }, {}],
    ['colour primaries', colour({ primaries: 'bt2020' }), {}],
    ['transfer', colour({ transfer: 'smpte2084' }), {}],
    ['matrix', colour({ matrix: 'bt601' }), {}],
    ['range', colour({ range: 'full' }), {}],
    ['starts at', {}, { timecode: { start: '01:00:00:00', dropFrame: false } }],
    ['starts at', {}, { timecode: { start: '01:00:00;01', dropFrame: true } }],
    ['starts at', {}, { timecode: null }],
  ])('differs in %s: %j %j', (what, video, more) => {
    expect(said(video, more)[what]).toBe(false)
  })

  it('is not told apart where it states nothing', () => {
    expect(said({ colour: null })).toMatchObject({
      matrix: null,
      'colour primaries': null,
      transfer: null,
      range: true,
    })
  })
})

const loud = (integratedLufs: number | null) => ({
  integratedLufs,
  rangeLu: null,
  truePeakDbtp: -3,
  samplePeakDbfs: -3,
})
const compared = (
  verdicts: readonly SoundVerdict[],
  more: Partial<Compared['sound'] & object> = {},
): Compared => ({
  verdicts: [{ n: 0, verdict: 'planned', like: null, decibels: 40 }],
  frames: 100,
  levels: { slope: 1, offset: 0 },
  colours: null,
  sound: {
    verdicts,
    planned: loud(-23),
    found: loud(-23),
    samples: { planned: 48_000, found: 48_000 },
    ...more,
  },
})
const asked = { codec: 'PCM', sampleRate: 48_000, channels: 2, loudnessLufs: null } as never
const holds = (found: Compared, what: string) =>
  seenLines(found, asked).find((line) => line.what === what)!.holds

describe('what is seen and heard in a file', () => {
  it.each<[string, SoundVerdict[], boolean | null]>([
    [
      'in time',
      [
        { kind: 'same', lateMs: 3 },
        { kind: 'same', lateMs: -9 },
      ],
      true,
    ],
    [
      '11 ms late in one stretch',
      [
        { kind: 'same', lateMs: 0 },
        { kind: 'same', lateMs: 11 },
      ],
      false,
    ],
    ['half a second early', [{ kind: 'same', lateMs: -500 }], false],
    ['another', [{ kind: 'same', lateMs: 0 }, { kind: 'another' }], false],
    ['silent', [{ kind: 'silent' }], false],
    ['swapped', [{ kind: 'swapped', lateMs: 0 }], false],
    ['there where silence is planned', [{ kind: 'not-silent' }], false],
    ['silent as planned', [{ kind: 'quiet' }], true],
    ['too short', [{ kind: 'cannot-tell' }], null],
  ])('sound that is %s', (_, verdicts, right) => {
    expect(holds(compared(verdicts), 'sound with picture')).toBe(right)
  })

  it('sound that is louder, or shorter than it may be', () => {
    const same: SoundVerdict[] = [{ kind: 'same', lateMs: 0 }]
    expect(holds(compared(same, { found: loud(-22.4) }), 'loudness')).toBe(false)
    expect(holds(compared(same, { samples: { planned: 48_000, found: 47_999 } }), 'sound length')).toBe(false)
    expect(holds(compared(same), 'sound length')).toBe(true)
  })

  it('the least and the mean of full-size pictures', () => {
    const verdict = (n: number, decibels: number): Verdict & { n: number } => ({
      n,
      verdict: 'planned',
      like: null,
      decibels,
    })
    const found = { ...compared([]), verdicts: [verdict(0, 30), verdict(1, 40)] }
    const [line] = seenLines(found, null)
    // The mean of mean squares: ten times as much in the one as in the other.
    expect(line!.found).toMatch(/full size: 30\.0 dB at least, 32\.6 dB in the mean/)
    const another = {
      ...found,
      verdicts: [{ ...verdict(7, 20), verdict: 'another' as const, like: 'frame 8' }],
    }
    expect(seenLines(another, null)[0]).toMatchObject({
      holds: false,
      found: '1 frame is another: frame 7 is like frame 8',
    })
  })
})
