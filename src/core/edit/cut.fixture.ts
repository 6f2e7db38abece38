import fc from 'fast-check'
import { parseFormat } from '../format/parse'
import { exactly, rational } from '../rational/rational'
import type { Override } from '../treatment/treatment'
import { aDoc, aStill, aVideo } from '../model/doc.fixture'
import type { Draft } from './draft'
import { addTimeline } from './operations'
import { newTimeline } from './placing'
import type { Doc } from '../model/project'
import type { Placement, Timeline } from '../model/timeline'

/** Clips of every kind, long enough for any drawn cut. */
export const clipFormats = [
  '1920x1080@25p',
  '3840x2160@25p',
  '1920x1080@50p',
  '1440x1080/4:3@50i',
  '1080x1920@30p',
  '1920x1080@23.976p',
  '4096x2160@24p',
]
const clipIds = [...clipFormats.map((_, i) => `c${i}`), 'title']

const half = rational(1, 2)
export const framings = fc.record(
  {
    mode: fc.constantFrom(
      { kind: 'fit' as const },
      { kind: 'fill' as const },
      { kind: 'stretch' as const },
      { kind: 'one-to-one' as const },
    ),
    zoom: fc.constantFrom(rational(1), rational(3, 2), half, rational(2)),
    position: fc.record({
      x: fc.integer({ min: -400, max: 400 }).map(exactly),
      y: fc.integer({ min: -400, max: 400 }).map(exactly),
    }),
    crop: fc.record({ left: fc.nat(200), right: fc.nat(200), top: fc.nat(200), bottom: fc.nat(200) }),
    filter: fc.constantFrom('lanczos' as const, 'bilinear' as const),
  },
  { requiredKeys: [] },
)
const motions = fc.constantFrom<NonNullable<Override['motion']>>(
  { kind: 'auto' },
  { kind: 'hold' },
  { kind: 'blend' },
  { kind: 'speed', pace: { kind: 'every-frame' }, wanted: false, keepPitch: true },
  { kind: 'speed', pace: { kind: 'factor', factor: half }, wanted: true, keepPitch: true },
)
const fields = fc.constantFrom<NonNullable<Override['fields']>>(
  { kind: 'auto' },
  { kind: 'weave' },
  { kind: 'deinterlace', method: 'adaptive', rate: { kind: 'double' } },
  { kind: 'deinterlace', method: 'single', rate: { kind: 'same', keep: 'second' } },
)
export const treatments = fc.record({ framing: framings, motion: motions, fields }, { requiredKeys: [] })

const placements = fc.array(
  fc.record({
    clip: fc.constantFrom(...clipIds),
    gap: fc.constantFrom(0, 0, 0, 1, 7),
    length: fc.constantFrom(1, 1, 2, 3, 10, 25, 60, 111),
    sourceIn: fc.constantFrom(rational(0), rational(1, 25), half, rational(7, 5)),
    treatment: treatments,
  }),
  { minLength: 1, maxLength: 8 },
)
/** Two tracks of pictures and one of sound, with any clips, lengths, gaps and treatments, at a rate. */
export const cuts = fc.record({
  format: fc.constantFrom(
    '1920x1080@25p',
    '1920x1080@50p',
    '1920x1080@24p',
    '1920x1080@50i',
    '3840x2160@25p',
  ),
  pictures: placements,
  above: placements,
  sound: placements,
  defaults: fc.record({ framing: framings }, { requiredKeys: [] }),
})

/** The document of a drawn cut; its timeline is `t`. */
export function docOf({
  format,
  pictures,
  above,
  sound,
  defaults,
}: typeof cuts extends fc.Arbitrary<infer T> ? T : never): Draft<Doc> {
  const doc = aDoc([...clipFormats.map((text, i) => aVideo(`c${i}`, text, 60)), aStill('title')])
  const timeline = newTimeline('t', 'Main cut', '', parseFormat(format)!.format)
  const track = (
    name: string,
    kind: 'video' | 'audio',
    drawn: typeof pictures,
  ): Timeline['tracks'][number] => {
    let end = 0
    const placements = drawn.map(({ clip, gap, length, sourceIn, treatment }, i): Placement => {
      const start = end + gap
      end = start + length
      return {
        id: `${name}-${i}`,
        source: { kind: 'clip', clipId: clip },
        start,
        length,
        sourceIn,
        treatment,
        framingByShape: {},
        gain: 0,
        channels: null,
        pairId: null,
      }
    })
    return { id: name, kind, name, hidden: false, muted: false, locked: false, placements: placements }
  }
  addTimeline(doc, {
    ...timeline,
    treatment: defaults,
    tracks: [track('V1', 'video', pictures), track('V2', 'video', above), track('A1', 'audio', sound)],
  })
  return doc
}

/** Ids that count. */
export function counting(): () => string {
  let n = 0
  return () => `new-${++n}`
}
