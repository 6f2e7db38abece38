import { describe, expect, it } from 'vitest'
import { aDoc, aVideo } from '../model/doc.fixture'
import { addTimeline, setProjectFormat } from '../edit/operations'
import { append, newTimeline, placementOf } from '../edit/placing'
import { parseFormat } from '../format/parse'
import { consequenceFor, consequenceSentence, consequencesOf, costlyLater } from './consequence'

const format = (text: string) => parseFormat(text)!.format
const [hd25, hd24] = [format('1920x1080@25p'), format('1920x1080@24p')]

function project() {
  const doc = aDoc([aVideo('hall', '3840x2160@25p', 4), aVideo('bell', '1920x1080@50p', 3)])
  addTimeline(doc, newTimeline('main', 'Main cut', ''))
  addTimeline(doc, newTimeline('tall', 'Portrait cut', '', format('1080x1920@25p')))
  return doc
}
const decided = () => {
  const doc = project()
  setProjectFormat(doc, { at: '', setBy: 'typed', format: hd25, reason: '' })
  append(
    doc,
    'main',
    ['hall', 'bell'].map((id) => placementOf(doc.clips[id]!, hd25, id)),
  )
  return doc
}
const said = (doc: ReturnType<typeof project>, text: string) =>
  consequencesOf(doc, format(text)).map(consequenceSentence)

describe('the consequences of a format', () => {
  it('are told for the timelines that follow, and those with their own stay', () => {
    expect(said(project(), '3840x2160@25p')).toEqual([
      '“Main cut” goes to 3840×2160 · 25p; nothing is placed in it.',
      '“Portrait cut” has its own format, 1080×1920 · 25p, and stays.',
    ])
    expect(said(decided(), '1920x1080@25p')[0]).toBe('“Main cut” stays.')
  })

  it('say what other tolls the placed clips pay', () => {
    expect(said(decided(), '3840x2160@25p')[0]).toBe(
      '“Main cut” goes from 1920×1080 · 25p to 3840×2160 · 25p; free 0 → 1, light 2 → 0, severe 0 → 1.',
    )
  })

  it('say how far cuts move where the rate changes', () => {
    const [main] = consequencesOf(decided(), hd24)
    // Cuts at 4 s and 7 s lie on whole frames of 24 a second.
    expect(main!.carried).toEqual({
      driftMs: 0,
      pushed: 0,
      runOut: 0,
      framesBefore: 175,
      framesAfter: 168,
    })
    const [odd] = consequencesOf(decided(), format('1920x1080@29.97p'))
    expect(odd!.carried!.driftMs).toBeGreaterThan(0)
    expect(odd!.carried!.driftMs).toBeLessThanOrEqual(1001 / 60)
    expect(said(decided(), '1920x1080@24p')[0]).toContain(
      'every cut stays in time; length 00:00:07:00 → 00:00:07:00',
    )
  })

  it('count what is pushed and what runs out, as the cut comes out', () => {
    const doc = decided()
    doc.timelines.main!.tracks[0]!.placements = []
    // Two frames of 25 a second are one of 12.5: the second placement has to wait for its own.
    const flash = (id: string, start: number) => ({
      ...placementOf(doc.clips.hall!, hd25, id),
      start,
      length: 1,
    })
    doc.timelines.main!.tracks[0]!.placements.push(flash('a', 0) as never, flash('b', 1) as never)
    const [main] = consequencesOf(doc, format('1920x1080@12.5p'))
    expect(main!.carried).toMatchObject({ pushed: 1, runOut: 0, framesBefore: 2, framesAfter: 2 })
    expect(consequenceSentence(main!)).toMatch(
      /^“Main cut” goes from 1920×1080 · 25p to 1920×1080 · 12.5p; cuts move by at most 80\.0 ms; length 00:00:00:02 → 00:00:00:02; 1 boundary pushed by placements of one frame; /,
    )
    const [first] = doc.timelines.main!.tracks[0]!.placements
    Object.assign(first!, { length: 120 })
    doc.timelines.main!.tracks[0]!.placements.length = 1
    expect(said(doc, '1920x1080@24p')[0]).toContain('; 1 placement longer than what is left of the source; ')
    expect(said(doc, '1920x1080@24p')[0]).not.toContain('pushed')
    expect(said(decided(), '1920x1080@24p')[0]).not.toContain('longer')
  })

  it('say where no grade changes, and where a format goes', () => {
    const same = format('1920x1080@25p')
    const deeper = { ...same, colour: { ...same.colour, bitDepth: 10 } }
    const [main] = consequencesOf(decided(), deeper)
    expect(main!.changes).toBe(true)
    expect(consequenceSentence(main!)).toMatch(/; no clip pays another grade\.$/)
    const undecided = project()
    const loses = consequenceFor(undecided, undecided.timelines.tall!, null)
    expect(loses).toMatchObject({ after: null, changes: true, gradesAfter: null, carried: null })
    expect(consequenceSentence(loses)).toBe(
      '“Portrait cut” goes from 1080×1920 · 25p to no format yet; nothing is placed in it.',
    )
    expect(consequenceFor(undecided, undecided.timelines.main!, null).changes).toBe(false)
  })

  it('are the same when one timeline is switched', () => {
    const doc = decided()
    const own = consequenceFor(doc, doc.timelines.main!, format('3840x2160@25p'))
    expect(own).toMatchObject({ changes: true, placed: 2, carried: null })
    expect(consequenceFor(doc, doc.timelines.main!, hd25).changes).toBe(false)
    const follow = consequenceFor(doc, doc.timelines.tall!, null)
    expect(consequenceSentence(follow)).toBe(
      '“Portrait cut” goes from 1080×1920 · 25p to 1920×1080 · 25p; nothing is placed in it.',
    )
    // Nothing was changed by asking.
    expect(doc.timelines.tall!.ownFormat).not.toBeNull()
  })

  it('make plain what is costly to change later', () => {
    expect(costlyLater(project())).toMatch(/Nothing is placed yet/)
    expect(costlyLater(decided())).toBe(
      '2 clips are placed: another rate moves their cuts, another size only scales them.',
    )
  })
})
