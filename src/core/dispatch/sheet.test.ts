import { describe, expect, it } from 'vitest'
import { deliverableOf } from '../model/deliverable'
import { aDoc, aVideo } from '../model/doc.fixture'
import { addTimeline } from '../edit/operations'
import { newTimeline, placementOf } from '../edit/placing'
import type { Doc } from '../model/project'
import { parseFormat } from '../format/parse'
import { deliveryCheck } from './delivery-check'
import { wrapped } from './usual'
import { settingsSheet, sheetText } from './sheet'

const formatOf = (text: string) => parseFormat(text)!.format
/** A UHD cut of an HD clip and a UHD clip. */
function aCut(format = '3840x2160@25p'): Doc {
  const doc = aDoc([aVideo('hall', '3840x2160@25p', 20), aVideo('bell', '1920x1080@25p', 20)])
  const timeline = newTimeline('t', 'Main cut', '2026-05-01T10:00:00Z', formatOf(format))
  const placements = ['hall', 'bell'].map((id, i) => ({
    ...placementOf(doc.clips[id]!, formatOf(format), `p${i}`),
    start: i * 50,
    length: 50,
  }))
  addTimeline(doc, {
    ...timeline,
    startTimecode: '10:00:00:00',
    tracks: timeline.tracks.map((track, i) => (i ? track : { ...track, placements })),
  })
  return doc
}
const deliver = (format: string) => wrapped(deliverableOf('d', 'For the hall', formatOf(format)))
const checkOf = (format: string, cut?: string) => deliveryCheck(aCut(cut), deliver(format))!

describe('a deliverable held against its timeline', () => {
  it('is the same, and costs nothing more', () => {
    const check = checkOf('3840x2160@25p')
    expect([check.same, check.grade, check.paysMore, check.conversion]).toEqual([true, 'free', [], []])
  })
  it('is smaller: what was filmed so is no longer enlarged, and what is larger is reduced', () => {
    const check = checkOf('1920x1080@25p')
    expect(check.paysLess.map(({ name }) => name)).toEqual(['bell.mp4'])
    expect(check.check.findings.map(({ toll }) => toll.charges.map(({ kind }) => kind))).toEqual([
      ['reduce'],
      [],
    ])
    expect([check.same, check.conversion]).toEqual([false, []])
  })
  it('is of another rate: every placement pays for that', () => {
    const check = checkOf('3840x2160@24p')
    expect(check.conversion.map(({ kind }) => kind)).toHaveLength(1)
    expect(check.paysMore).toHaveLength(2)
    expect(check.grade).not.toBe('free')
  })
  it('is not of what is not there', () => {
    const doc = aDoc([]) as Doc
    expect(deliveryCheck(doc, deliver('1920x1080@25p'))).toBeNull()
  })
})

describe('the settings sheet', () => {
  it('says what is set in words and figures, and where its range comes from', () => {
    const sheet = settingsSheet(deliver('1920x1080@25p'), checkOf('1920x1080@25p').out)
    const lineNamed = (name: string) => sheet.find((line) => line.name === name)
    expect(lineNamed('codec')).toMatchObject({ value: 'H.264 High', note: 'level 4' })
    expect(lineNamed('bit rate')!.note).toContain('for 52 million pixels a second')
    expect(lineNamed('length')!.value).toBe('100 frames, 4 s')
    expect(lineNamed('starts at')!.value).toBe('10:00:00:00')
    expect(lineNamed('sound')!.value).toBe('AAC, 48 kHz, 2 channels')
    expect(sheetText('For the hall', sheet).split('\n')).toHaveLength(sheet.length + 1)
  })
  it('names fields, and what a profile comes to', () => {
    const fields = settingsSheet(deliver('1920x1080@50i'), null)
    expect(fields.find(({ name }) => name === 'fields')!.value).toBe('top first')
    expect(fields.some(({ name }) => name === 'length')).toBe(false)
  })
})
