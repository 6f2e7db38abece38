import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { aDoc, aVideo } from '../model/doc.fixture'
import type { Doc } from '../model/project'
import { type OfferedFile, type SoughtFile, refound, soughtFiles, worthHashing } from './relinking'
import { replaceClip, replacement } from './replacing'
import { addTimeline } from './operations'
import { append, newTimeline, placementOf } from './placing'
import { parseFormat } from '../format/parse'
import { rational } from '../rational/rational'

const sought = (name: string, sizeBytes = 1000, hash: string | null = `hash of ${name}`): SoughtFile => ({
  fileId: name,
  clipId: name,
  name,
  folder: 'card',
  sizeBytes,
  hash,
})
const offered = (name: string, sizeBytes = 1000, folder = 'moved'): OfferedFile => ({
  name,
  sizeBytes,
  folder,
})
const hashes = (...offeredHashes: (string | null)[]) =>
  new Map(offeredHashes.flatMap((hash, i) => (hash ? [[i, hash] as const] : [])))

describe('files that moved', () => {
  it('are found by what they hold, under any name and in any folder; of equals the one of the same name', () => {
    const result = refound(
      [sought('bell.mp4'), sought('hall.mp4')],
      [offered('copy of bell.mp4'), offered('bell.mp4'), offered('renamed.mp4')],
      hashes('hash of bell.mp4', 'hash of bell.mp4', 'hash of hall.mp4'),
    )
    expect(result.found.map(({ sought: { name }, offered: i, renamed }) => [name, i, renamed])).toEqual([
      ['bell.mp4', 1, false],
      ['hall.mp4', 2, true],
    ])
  })

  it('are told from changed ones: of the same name and with something else in them', () => {
    const result = refound(
      [sought('bell.mp4'), sought('hall.mp4'), sought('pour.mp4')],
      [offered('bell.mp4'), offered('hall.mp4', 1200)],
      hashes('graded', 'hash of hall.mp4'),
    )
    expect(result.found).toEqual([])
    expect(result.changed.map(({ sought: { name } }) => name)).toEqual(['bell.mp4', 'hall.mp4'])
    expect(result.notThere.map(({ name }) => name)).toEqual(['pour.mp4'])
  })

  it('are known by name and size where they were never read', () => {
    const files = [sought('bell.mp4', 1000, null), sought('hall.mp4', 1000, null)]
    const result = refound(files, [offered('BELL.MP4'), offered('hall.mp4', 7)], new Map())
    expect([result.found.length, result.changed.length]).toEqual([1, 1])
  })

  it('are hashed only where a name or a size agrees', () => {
    const files = [sought('bell.mp4', 1000), sought('hall.mp4', 2000)]
    const all = [offered('a.mp4', 5), offered('Bell.mp4', 5), offered('b.mp4', 2000), offered('empty', 0)]
    expect(worthHashing(files, all)).toEqual([1, 2])
  })

  it('are all found, whatever else lies beside them, and none is linked to other bytes', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(
          fc.record({
            name: fc.string({ minLength: 1, maxLength: 6 }),
            sizeBytes: fc.integer({ min: 1, max: 5 }),
            content: fc.integer({ min: 0, max: 9 }),
          }),
          { selector: ({ name }) => name.toLowerCase(), maxLength: 12 },
        ),
        fc.array(fc.tuple(fc.boolean(), fc.boolean()), { minLength: 12, maxLength: 12 }),
        (files, fates) => {
          const wanted = files.map(({ name, sizeBytes, content }) => sought(name, sizeBytes, `${content}`))
          const there = files.map(({ name, sizeBytes, content }, i) => {
            const [renamed, changed] = fates[i]!
            return {
              file: offered(renamed ? `r${i} ${name}` : name, sizeBytes),
              hash: changed ? `other ${i}` : `${content}`,
            }
          })
          const result = refound(
            wanted,
            there.map(({ file }) => file),
            new Map(there.map(({ hash }, i) => [i, hash])),
          )
          for (const { sought: file, offered: i } of result.found) {
            expect(there[i]!.hash).toBe(file.hash)
            expect(there[i]!.file.sizeBytes).toBe(file.sizeBytes)
          }
          wanted.forEach((file, i) => {
            const untouched = !fates[i]![1]
            if (untouched) expect(result.found.some((pair) => pair.sought === file)).toBe(true)
          })
          expect(result.found.length + result.changed.length + result.notThere.length).toBe(wanted.length)
        },
      ),
    )
  })

  it('are sought for each file of a clip that lies in several', () => {
    const doc = aDoc([aVideo('a', '1920x1080@25p', 4), aVideo('b', '1920x1080@25p', 4)])
    const [a, b] = [doc.clips.a!, doc.clips.b!]
    a.parts = [
      { ...b, id: 'a-1', name: 'one.mp4', reading: b.reading! },
      { ...b, id: 'a-2', name: 'two.mp4', reading: b.reading! },
    ]
    expect(soughtFiles(doc as Doc, () => true).map(({ clipId, name }) => [clipId, name])).toEqual([
      ['a', 'one.mp4'],
      ['a', 'two.mp4'],
      ['b', 'b.mp4'],
    ])
    expect(soughtFiles(doc as Doc, ({ id }) => id === 'b')).toHaveLength(1)
  })
})

describe('a clip in the place of another', () => {
  const hd = parseFormat('1920x1080@25p')!.format
  function placed() {
    const doc = aDoc([aVideo('hall', '1920x1080@25p', 8)])
    addTimeline(doc, newTimeline('t', 'Main cut', '', hd))
    append(doc, 't', [
      {
        ...placementOf(doc.clips.hall!, hd, 'p'),
        sourceIn: rational(2),
        length: 100,
        treatment: { motion: { kind: 'hold' } },
      },
    ])
    doc.clips.hall!.priority = 'key'
    return doc
  }

  it('keeps placements as they are: the one of higher resolution', () => {
    const doc = placed()
    replaceClip(doc, 'hall', { ...aVideo('graded', '3840x2160@25p', 8), name: 'hall_graded.mov' })
    expect(doc.clips.hall).toMatchObject({ id: 'hall', name: 'hall_graded.mov', priority: 'key' })
    expect(doc.timelines.t!.tracks[0]!.placements[0]).toMatchObject({
      sourceIn: rational(2),
      length: 100,
      treatment: { motion: { kind: 'hold' } },
    })
    expect(doc.project.clipOrder).toEqual(['hall'])
  })

  it('counts frames where both have as many, and is shortened to what is there', () => {
    const doc = placed()
    // The same 200 frames, conformed to 24: frame 50 is at 50/24 s.
    const conformed = { ...aVideo('x', '1920x1080@24p', 200 / 24) }
    expect(replacement(doc as Doc, 'hall', conformed)).toMatchObject([
      { sourceIn: rational(50, 24), shortenedBy: 0 },
    ])
    const short = aVideo('x', '1920x1080@25p', 4)
    expect(replacement(doc as Doc, 'hall', short)).toMatchObject([
      { sourceIn: rational(2), length: 50, shortenedBy: 50 },
    ])
  })
})
