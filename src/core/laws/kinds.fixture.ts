import fc from 'fast-check'
import type { Clip } from '../model/clip'
import { clipFormats, framings } from '../edit/cut.fixture'
import { aClip, aDoc, aStill, aVideo } from '../model/doc.fixture'
import type { Draft } from '../edit/draft'
import { present } from '../assert'
import { joinStills } from '../edit/numbered'
import * as parts from '../edit/parts'
import type { Doc } from '../model/project'
import { rational } from '../rational/rational'
import type { Override } from '../treatment/treatment'

/** Clips of every kind, and every treatment: what laws are held over. */

/** A clip with sound, which may begin late. */
export function sounding(clip: Draft<Clip>, startSec = 0): Draft<Clip> {
  clip.reading!.audio = [{ codec: 'AAC', channels: 2, sampleRate: 48_000, bitDepth: null, startSec }] as never
  return clip
}

/** A clip whose frames are on for unequal times: a phone that drops frames in the dark. */
function aVariable(id: string, frames: number): Draft<Clip> {
  const clip = sounding(aVideo(id, '1920x1080@30p', frames / 30))
  const presentationTimes: number[] = []
  let at = 0
  for (let i = 0; i < frames; i++) {
    presentationTimes.push(at)
    at += [33, 34, 33, 50, 33, 100, 21][(i * 5) % 7]!
  }
  Object.assign(clip.reading!.video!, {
    rateMode: 'variable',
    frameCount: frames,
    minRate: 10,
    maxRate: 47.6,
    meanRate: (frames * 1000) / at,
    offNominalShare: 0.3,
  })
  clip.reading!.durationSec = at / 1000
  clip.frameTimes = { clock: rational(1000), presentationTimes, end: at }
  return clip
}

/** Numbered pictures, of which some are missing: the one before is shown for as long. */
function plates(id: string, count: number): Draft<Clip> {
  const there = Array.from({ length: count }, (_, i) => i + 1).filter((n) => n % 17 !== 5)
  const stills = there.map((n) => {
    const name = `strike.${String(n).padStart(4, '0')}.dpx`
    return { ...aStill(`${id}${n}`), name }
  })
  return present(joinStills(stills, id, rational(24)), 'numbered stills are a clip') as Draft<Clip>
}

/** Clips of every kind: constant, interlaced, variable, in several files, numbered pictures, with late sound, a still, sound alone. */
export function everyKind(): Draft<Doc> {
  const split = [1, 2].map((n) => sounding(aVideo(`split_${n}`, '1920x1080@25p', 20)))
  const alone = sounding(aVideo('alone', '1920x1080@25p', 40)).reading!
  return aDoc([
    ...clipFormats.map((text, i) => sounding(aVideo(`c${i}`, text, 60), i === 1 ? 0.3 : 0)),
    sounding(aVideo('fields', '1920x1080@50i', 60)),
    sounding(aVideo('tape', '720x480/8:9@59.94i', 60)),
    aVariable('phone', 900),
    parts.joinRecording(split, 'split'),
    plates('plates', 240),
    aStill('title'),
    aClip('song', { ...alone, kind: 'audio', video: null } as never, 'song.wav'),
  ])
}

const motions = fc.constantFrom<NonNullable<Override['motion']>>(
  { kind: 'auto' },
  { kind: 'hold' },
  { kind: 'blend' },
  { kind: 'speed', pace: { kind: 'every-frame' }, wanted: false, keepPitch: true },
  { kind: 'speed', pace: { kind: 'factor', factor: rational(1, 2) }, wanted: true, keepPitch: true },
  { kind: 'speed', pace: { kind: 'factor', factor: rational(7, 3) }, wanted: true, keepPitch: false },
  { kind: 'pulldown', phase: 2 },
  { kind: 'remove-pulldown', phase: 3 },
)
const fields = fc.constantFrom<NonNullable<Override['fields']>>(
  { kind: 'auto' },
  { kind: 'weave' },
  { kind: 'from-frames' },
  { kind: 'blend' },
  { kind: 'deinterlace', method: 'adaptive', rate: { kind: 'double' } },
  { kind: 'deinterlace', method: 'single', rate: { kind: 'same', keep: 'second' } },
)
/** Every way of motion, fields, framing and colour. */
export const everyTreatment: fc.Arbitrary<Override> = fc.record(
  {
    framing: framings,
    motion: motions,
    fields,
    shiftOrder: fc.boolean(),
    colour: fc.constantFrom('none' as const, 'matrix' as const),
  },
  { requiredKeys: [] },
)
