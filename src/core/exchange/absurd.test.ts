import type { Draft } from '../edit/draft'
import { type Deliverable, deliverableOf } from '../model/deliverable'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { aDoc, aStill, aVideo } from '../model/doc.fixture'
import { addTimeline } from '../edit/operations'
import { append, newTimeline, placementOf } from '../edit/placing'
import { parseFormat } from '../format/parse'
import { readProjectFile, writeProjectFile } from '../stored/project-file'

const { format } = parseFormat('1920x1080@25p')!

/** A project file that is as it should be, as JSON to be spoilt. */
function file() {
  const doc = aDoc([aVideo('hall', '3840x2160@25p', 4), aVideo('bell', '1920x1080@50p', 4), aStill('title')])
  doc.project.format = format
  doc.project.deliverables = [deliverableOf('d', 'Festival', format) as Draft<Deliverable>]
  addTimeline(doc, newTimeline('t', 'Main cut', '2026-05-01T10:01:00Z', format))
  append(
    doc,
    't',
    ['hall', 'bell', 'title'].map((id) => placementOf(doc.clips[id]!, format, `p-${id}`)),
  )
  return writeProjectFile(doc)
}
const text = file()

type Json = Record<string, unknown>
function spoilt(path: string, value: unknown): string {
  const whole = JSON.parse(text) as Json
  const keys = path.split('.')
  let holder = whole
  for (const key of keys.slice(0, -1)) holder = holder[key] as Json
  holder[keys.at(-1)!] = value
  return JSON.stringify(whole)
}
const refusal = (path: string, value: unknown): string => {
  const read = readProjectFile(spoilt(path, value))
  return read.ok ? 'taken in' : read.error
}

const rate = fc.constantFrom(
  ...[0, -25, 1001, 2 ** 31, 1.5].map((num) => ({ num, den: 1 })),
  ...[0, -1, 2.5].map((den) => ({ num: 25, den })),
  { num: 2 ** 31, den: 2 ** 31 - 1 },
  { num: 25 },
  '25',
)
const shape = fc.constantFrom(
  { num: 17, den: 1 },
  { num: 1, den: 17 },
  { num: 0, den: 1 },
  { num: -1, den: 1 },
  null,
)
const side = fc.constantFrom(0, -1, 65_537, 1.5, 1e300, '1920', null)
const seconds = fc.constantFrom(-1, 30 * 86_400 + 1, 1e300, '4')
const frames = fc.constantFrom(-1, 2 ** 40 + 1, 0.5, 2 ** 60, null)
const name = fc.constantFrom('', '__proto__', 'constructor', 'toString', 'hasOwnProperty', 7, null)

/** Every place of §3 with what may not stand there. */
const absurd: [string, fc.Arbitrary<unknown>][] = [
  ...[
    'project.format.rate',
    'project.deliverables.0.format.rate',
    'timelines.0.ownFormat.rate',
    'clips.0.reading.video.rate',
  ].map((path): [string, fc.Arbitrary<unknown>] => [path, rate]),
  ...['project.format.pixelAspect', 'clips.1.reading.video.pixelAspect'].map(
    (path): [string, fc.Arbitrary<unknown>] => [path, shape],
  ),
  ...[
    'project.format.width',
    'timelines.0.ownFormat.height',
    'clips.2.reading.video.width',
    'clips.0.reading.video.height',
  ].map((path): [string, fc.Arbitrary<unknown>] => [path, side]),
  ['clips.0.reading.durationSec', seconds],
  ['clips.0.reading.video.frameCount', fc.constantFrom(-1, 4.6e18, 0.5)],
  ['clips.0.sizeBytes', fc.constantFrom(-1, 1e300, 0.5, null)],
  ['timelines.0.tracks.0.placements.0.start', frames],
  ['timelines.0.tracks.0.placements.1.length', fc.oneof(frames, fc.constant(0))],
  [
    'timelines.0.tracks.0.placements.1.sourceIn',
    fc.constantFrom({ num: -1, den: 1 }, { num: 1e9, den: 1 }, { num: 1, den: 0 }),
  ],
  ...[
    'project.id',
    'clips.0.id',
    'timelines.0.id',
    'timelines.0.tracks.0.id',
    'timelines.0.tracks.0.placements.0.id',
  ].map((path): [string, fc.Arbitrary<unknown>] => [path, name]),
]

describe('an import that makes no sense', () => {
  it('starts from a file that is taken in', () => {
    expect(readProjectFile(text)).toMatchObject({ ok: true, putAside: [] })
  })

  it.each(absurd)(
    'is refused at %s, with a sentence that says where, and changes nothing',
    (path, values) => {
      fc.assert(
        fc.property(values, (value) => {
          const said = refusal(path, value)
          expect(said).toMatch(/^The file is damaged at /)
          expect(said).toContain(path)
          expect(said).toMatch(/Nothing was changed\.$/)
        }),
      )
    },
  )

  it.each<[string, string, unknown, RegExp]>([
    [
      'a placement over another',
      'timelines.0.tracks.0.placements.1.start',
      10,
      /“Main cut” places “p-bell” at frame 10/,
    ],
    [
      'a placement of no clip',
      'timelines.0.tracks.0.placements.1.source.clipId',
      'pour',
      /a clip “pour” that is not there/,
    ],
    ['a placement twice', 'timelines.0.tracks.0.placements.1.id', 'p-hall', /holds “p-hall” twice/],
    ['a track twice', 'timelines.0.tracks.1.id', 't-v1', /holds “t-v1” twice/],
    ['placements beyond all frames', 'timelines.0.tracks.0.placements.2.length', 2 ** 40, /beyond frame 2⁴⁰/],
    [
      'an order of what is not there',
      'project.clipOrder',
      ['hall', 'bell', 'title', 'pour'],
      /“pour” is listed and not there/,
    ],
    [
      'an order that leaves one out',
      'project.clipOrder',
      ['hall', 'bell'],
      /“title” is there and not listed/,
    ],
    [
      'an order with one twice',
      'project.clipOrder',
      ['hall', 'bell', 'title', 'hall'],
      /“hall” is listed twice/,
    ],
    ['timelines that are not listed', 'project.timelineOrder', [], /timeline “t” is there and not listed/],
    ['two clips of one name', 'clips.1.id', 'hall', /clip “hall” is there twice/],
  ])('is refused: %s', (_what, path, value, says) => {
    expect(refusal(path, value)).toMatch(says)
  })

  it('is refused in a file of an older version too, where that version could not have written it', () => {
    const older = JSON.stringify({
      ...(JSON.parse(spoilt('project.format.rate', { num: 0, den: 1 })) as Json),
      version: 1,
    })
    expect(readProjectFile(older)).toMatchObject({ ok: false })
  })

  it('is refused without a version, or with one of tomorrow', () => {
    expect(refusal('version', undefined)).toMatch(/version/)
    expect(refusal('version', 99)).toMatch(/version 99/)
    expect(refusal('version', -1)).toMatch(/version/)
  })
})
