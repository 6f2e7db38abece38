import type { Reading } from '../reading/reading'
import { describe, expect, it } from 'vitest'
import { aStill, aVideo } from '../model/doc.fixture'
import { type Clip } from '../model/clip'
import { parseFormat } from '../format/parse'
import { rational } from '../rational/rational'
import { applyCorrections } from '../reading/correct'
import type { VideoFacts } from '../reading/reading'
import { compareClips, comparisonText } from './compare'
import { factsOf } from './facts'
import { inspectionRows } from './inspection'
import { majorities } from './majority'

const withVideo = (clip: Clip, more: Partial<VideoFacts>): Clip => ({
  ...clip,
  reading: { ...clip.reading!, video: { ...clip.reading!.video!, ...more } },
})
const corrected = (clip: Clip, corrections: Clip['corrections']): Clip => ({
  ...clip,
  corrections,
  claimed: clip.reading,
  reading: applyCorrections(clip.reading!, corrections),
})
const valueOf = (clip: Clip, name: string) => factsOf(clip).find((line) => line.name === name)?.value

describe('the facts of a clip', () => {
  const hall = aVideo('hall', '3840x2160@25p', 12)
  it('tell picture, codec, motion, scan, length and file in words', () => {
    expect(factsOf(hall).map(({ name, value }) => [name, value])).toEqual([
      ['picture', '3840×2160, UHD, 16:9'],
      ['codec', 'H.264, 8 bit, 4:2:0'],
      ['motion', '25 frames a second, 300 frames'],
      ['scan', 'progressive'],
      ['lasts', '0:12 (12.00 s)'],
      ['file', 'MP4 wrapper, 1.0 kB'],
    ])
  })
  it('show what non-square pixels come to, the exact rate, fields and their order', () => {
    const reel = aVideo('reel', '720x480/8:9@59.94i', 10)
    expect(valueOf(reel, 'picture')).toBe('720×480 (8:9) → shows as 640×480, SD 525, 4:3')
    expect(valueOf(reel, 'motion')).toMatch(
      /^29\.97 \(30000\/1001\) frames a second, 59\.94 fields, 300 frames$/,
    )
    expect(valueOf(withVideo(reel, { fieldOrder: 'unknown' }), 'scan')).toBe(
      'interlaced, field order not stated',
    )
    expect(valueOf(withVideo(reel, { fieldOrder: 'bottom-first' }), 'scan')).toBe(
      'interlaced, bottom field first',
    )
    expect(valueOf(withVideo(reel, { scan: 'unknown' }), 'scan')).toBe('not stated')
  })
  it('tell a variable rate by its spread, and say where nothing is stated', () => {
    const phone = withVideo(hall, { rateMode: 'variable', minRate: 24.1, maxRate: 31, meanRate: 29.874 })
    expect(valueOf(phone, 'motion')).toBe('variable 24.1 to 31.0 a second, mean 29.87, 300 frames')
    expect(valueOf(withVideo(hall, { rate: null }), 'motion')).toBe('rate not stated')
  })
  it('leave motion and scan out for stills', () => {
    expect(factsOf(aStill('title')).map((line) => line.name)).toEqual(['picture', 'codec', 'file'])
    expect(valueOf(aStill('title'), 'codec')).toContain('alpha')
  })
  it('name colour once where its parts agree', () => {
    const colour = { primaries: 'bt709', transfer: 'bt709', matrix: 'bt709', range: 'limited' as const }
    expect(valueOf(withVideo(hall, { colour }), 'colour')).toBe('bt709, limited range')
    const hdr = { ...colour, primaries: 'bt2020', transfer: 'pq', matrix: 'bt2020' }
    expect(valueOf(withVideo(hall, { colour: hdr }), 'colour')).toBe('bt2020 / pq, limited range')
  })
  it('tell sound by what is known of it, folder, timecode, date and reel', () => {
    const full: Clip = {
      ...(hall as Clip),
      folder: 'card A',
      origins: { timecode: 'timecode track' },
      reading: {
        ...(hall.reading as Reading),
        audio: [
          { codec: 'PCM', channels: 2, sampleRate: 48000, bitDepth: 24 },
          { codec: 'AC-3', channels: null, sampleRate: null, bitDepth: null, startSec: -0.4 },
        ],
        timecode: { start: '10:00:00;00', dropFrame: true },
        recordedAt: '2026-05-01',
        reel: 'A003',
      },
    }
    const lines = factsOf(full)
    expect(lines.find((l) => l.name === 'starts at')).toMatchObject({
      value: '10:00:00;00, drop-frame',
      origin: 'timecode track',
    })
    const sound = lines.findIndex((l) => l.name === 'sound')
    expect(lines.slice(sound, sound + 2).map((l) => l.value)).toEqual([
      'PCM, 2 channels, 48 kHz, 24 bit',
      'AC-3, begins 0.400 s before the picture',
    ])
    expect(lines.at(-2)!.value).toBe('MP4 wrapper, 1.0 kB, in card A')
    expect(lines.at(-1)!.value).toBe('recorded 2026-05-01, reel A003')
  })
  it('keep the file where nothing could be read', () => {
    expect(factsOf({ ...hall, reading: null })).toEqual([{ name: 'file', value: '1.0 kB', origin: '' }])
  })
  it('put what was corrected before what was claimed', () => {
    const lines = factsOf(corrected(hall, { rate: rational(24) }))
    const at = lines.findIndex((l) => l.name === 'motion')
    expect(lines[at]).toMatchObject({ value: '24 frames a second, 300 frames', origin: 'corrected' })
    expect(lines[at + 1]).toMatchObject({
      name: '',
      value: '25 frames a second, 300 frames',
      overruled: true,
    })
    expect(lines.find((l) => l.name === 'lasts')!.value).toBe('0:13 (12.50 s)')
    expect(lines.filter((l) => l.overruled).map((l) => l.value)).toEqual([
      '25 frames a second, 300 frames',
      '0:12 (12.00 s)',
    ])
  })
  it('tell a correction of what was not claimed at all, and mix nothing up behind it', () => {
    const colour = { primaries: 'bt2020', transfer: 'hlg', matrix: 'bt2020', range: null }
    const lines = factsOf(corrected(hall, { colour }))
    expect(lines.find((l) => l.name === 'colour')).toMatchObject({
      value: 'bt2020 / hlg',
      origin: 'corrected',
    })
    expect(lines.filter((l) => l.overruled)).toEqual([])
    expect(lines.map((l) => l.name)).toEqual([
      'picture',
      'codec',
      'motion',
      'scan',
      'colour',
      'lasts',
      'file',
    ])
  })
})

describe('clips side by side', () => {
  const clips = [aVideo('hall', '3840x2160@25p', 12), aVideo('pour', '1920x1080@25p', 12), aStill('title')]
  it('mark what differs, with a dash where a clip lacks a fact', () => {
    const facts = compareClips(clips.slice(0, 2))
    expect(facts.filter((f) => f.differs).map((f) => f.name)).toEqual(['picture'])
    const withStill = compareClips(clips)
    expect(withStill.find((f) => f.name === 'motion')!.values.at(-1)).toBe('–')
  })
  it('gather lines without a name under one', () => {
    const found = { ...clips[0]!, reading: { ...clips[0]!.reading!, recordedAt: '2026-05-01', reel: 'A3' } }
    expect(compareClips([found])).toContainEqual({
      name: 'also',
      values: ['recorded 2026-05-01, reel A3'],
      differs: false,
    })
  })
  it('are copied as a table with tabs', () => {
    const rows = comparisonText(clips, compareClips(clips)).split('\n')
    expect(rows[0]).toBe('\thall.mp4\tpour.mp4\ttitle.png')
    for (const row of rows) expect(row.split('\t')).toHaveLength(4)
  })
})

describe('the inspection sheet', () => {
  const broken: Clip = {
    ...aVideo('cut', '1920x1080@25p', 3),
    reading: null,
    fault: { code: 'empty', message: 'The file is empty.' },
  }
  it('has a row for each clip, what differs from the project, and why one was not read', () => {
    const [head, pour, cut] = inspectionRows(
      [aVideo('pour', '1920x1080@50p', 4), broken],
      parseFormat('3840x2160@25p')!.format,
    )
    expect(head!.slice(-3)).toEqual(['differs from the project', 'odd', 'not read'])
    expect(pour).toHaveLength(head!.length)
    expect(pour!.at(-3)).toMatch(/1920×1080|size/)
    expect(pour!.at(-1)).toBe('')
    expect(cut!.at(-1)).toBe('The file is empty.')
    expect(cut!.at(-3)).toBe('')
  })
  it('compares with nothing while no format is set', () => {
    expect(inspectionRows([aVideo('pour', '1920x1080@50p', 4)], null)[1]!.at(-3)).toBe('')
  })
})

describe('what most of the footage is', () => {
  it('goes by running time, for size and for rate apart', () => {
    const clips = [
      aVideo('a', '3840x2160@25p', 30),
      aVideo('b', '1920x1080@50p', 40),
      aVideo('c', '1280x720@25p', 30),
    ]
    expect(majorities(clips)).toBe(' · most of it 1920×1080 (40 %) and 25p (60 %)')
  })
  it('says nothing where nothing runs', () => {
    expect(majorities([aStill('title')])).toBe('')
  })
})
