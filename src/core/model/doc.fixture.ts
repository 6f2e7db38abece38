import type { Proof } from './proof'
import { type Clip } from './clip'
import { parseFormat } from '../format/parse'
import type { Reading } from '../reading/reading'
import { stillReading } from '../reading/still/still'
import { rational } from '../rational/rational'
import type { Draft } from '../edit/draft'
import { type Doc, type Project, newProject } from './project'

/** A video clip for tests: its format as text, and how long it lasts. */
export function aVideo(id: string, format: string, seconds: number): Draft<Clip> {
  const { width, height, pixelAspect, rate, scan, fieldOrder } = parseFormat(format)!.format
  const still = stillReading('MP4', 1000, {
    width,
    height,
    pixelAspect,
    bitDepth: 8,
    chroma: '4:2:0',
    alpha: false,
  })
  const frameCount = Math.round((seconds * rate.num) / rate.den)
  const video = {
    ...still.video!,
    codec: 'H.264',
    rate,
    rateMode: 'constant' as const,
    scan,
    fieldOrder,
    frameCount,
  }
  return aClip(id, { ...still, kind: 'video', durationSec: seconds, video })
}

/** A title card, with alpha. */
export const aStill = (id: string): Draft<Clip> =>
  aClip(
    id,
    stillReading('PNG', 1000, {
      width: 1280,
      height: 720,
      pixelAspect: rational(1),
      bitDepth: 8,
      chroma: '4:4:4',
      alpha: true,
    }),
  )

/** A clip of a reading, called as its kind is where no name is told. */
export function aClip(
  id: string,
  reading: Reading,
  name = `${id}.${reading.kind === 'still' ? 'png' : 'mp4'}`,
): Draft<Clip> {
  return {
    id,
    name,
    folder: '',
    sizeBytes: 1000,
    hash: null,
    source: { kind: 'file' },
    reading: structuredClone(reading) as Draft<Reading>,
    frameTimes: null,
    corrections: {},
    evidence: null,
    claimed: null,
    origins: {},
    fault: null,
    priority: 'normal',
    arrivedAt: '2026-05-01T09:00:00Z',
    parts: [],
  }
}

export function aDoc(clips: readonly Clip[]): Draft<Doc> {
  const project = newProject('p1', 'The Ninth Bell', '2026-05-01T08:00:00Z')
  return {
    project: { ...(project as Draft<Project>), clipOrder: clips.map((clip) => clip.id) },
    clips: Object.fromEntries(clips.map((clip) => [clip.id, clip as Draft<Clip>])),
    timelines: {},
    leftAside: {},
  }
}

/** What was found in a file of 25 frames: so many. */
export const proofFound = (frames: number): Proof => ({
  at: '2026-05-01T10:00:00Z',
  file: 'bell.mp4',
  lines: [{ what: 'frames', asked: '25', found: `${frames}`, holds: frames === 25 }],
  holds: frames === 25,
  framesCompared: 8,
  frames,
})
