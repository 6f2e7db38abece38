import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { change } from '../edit/change'
import type { Clip } from '../model/clip'
import { counting } from '../edit/cut.fixture'
import { heardOf } from '../plan/heard'
import { layersAt } from '../plan/layers'
import { removePlacements } from '../edit/operations'
import { cutAt, placedClip } from '../edit/placing'
import { changeTrack, putAt } from '../edit/arranging'
import { parseFormat } from '../format/parse'
import { withLinked } from '../edit/linking'
import { slip, trimEnd, trimStart } from '../edit/trimming'
import { treat } from '../edit/treating'

import { formatOf } from '../model/project'
import { settlePlacement } from '../plan/running'
import { type Placement, type Timeline, placementsIn } from '../model/timeline'
import { readProjectFile, writeProjectFile } from '../stored/project-file'
import { type Shown, framesShown } from '../motion/shown'
import { toNumber } from '../rational/rational'
import { acts, diceOf, operationsDrawn, textOf } from './history.fixture'
import { begun, docThrough, through } from './through.fixture'

/**
 * What holds after any operation on any document. Documents hold every kind of clip, linked with its sound; histories are drawn from
 * every operation. `LAWS=20000 npx vitest run src/core/laws` goes through so many.
 */
const runs = Number(process.env.LAWS ?? 300)

/** When each frame of a clip's file is on, counted out: seconds from its first frame, as many as are asked for and one more. */
function fileTimes(clip: Clip): (frame: number) => number {
  const claimed = clip.claimed ?? clip.reading!
  const { rate } = claimed.video!
  const listed = clip.frameTimes
  return (frame) => {
    if (!listed) return (frame * rate!.den) / rate!.num
    const { presentationTimes: times, end, clock } = listed
    const last = times.length - 1
    const [tick, next] = [times[Math.min(frame, last)]!, times[Math.min(frame, last) + 1] ?? end]
    return ((tick + Math.max(0, frame - last) * (next - tick)) * clock.den) / clock.num
  }
}

/** The frame of the file that a frame of the clip is, where repeats are taken out: found by walking along the pattern. */
function storedFrame(clip: Clip, frame: number): number {
  const { repeatsOut } = clip.corrections
  if (!repeatsOut) return frame
  let hold = 0
  let within = repeatsOut.phase
  while (within >= repeatsOut.holds[hold]!) within -= repeatsOut.holds[hold++]!
  let stored = 0
  for (let k = 0; k < frame; k++) {
    stored += repeatsOut.holds[hold]! - within
    within = 0
    hold = (hold + 1) % repeatsOut.holds.length
  }
  return stored
}

/** The first moment of the file that is seen of a clip, and how long what is seen there is on. */
function seenAt(clip: Clip, shown: Shown): { at: number; lasts: number } | null {
  const times = fileTimes(clip)
  const span = (frame: number) =>
    [times(storedFrame(clip, frame)), times(storedFrame(clip, frame + 1))] as const
  switch (shown.kind) {
    case 'frame': {
      const [from, to] = span(shown.index)
      return { at: from, lasts: to - from }
    }
    case 'field': {
      const [from, to] = span(shown.frame)
      return { at: from, lasts: to - from }
    }
    case 'fields': {
      const [a, b] = [span(shown.top.frame), span(shown.bottom.frame)]
      return { at: Math.min(a[0], b[0]), lasts: Math.max(a[1], b[1]) - Math.min(a[0], b[0]) }
    }
    case 'mix': {
      // It stands between the middles of both, as far on as the second is seen.
      const [a, b] = [seenAt(clip, shown.a)!, seenAt(clip, shown.b)!]
      const [from, to] = [a.at + a.lasts / 2, b.at + b.lasts / 2]
      return { at: from + (to - from) * shown.weightOfB, lasts: Math.max(a.lasts, b.lasts) }
    }
    case 'nothing':
      return null
  }
}

/** The longest that a frame beside what is seen of a clip is on. */
function longestBeside(clip: Clip, shown: Shown): number {
  const [first = 0] = framesShown(shown)
  const times = fileTimes(clip)
  const lasts = (frame: number) => times(storedFrame(clip, frame + 1)) - times(storedFrame(clip, frame))
  return Math.max(...[-2, -1, 0, 1, 2].map((by) => lasts(Math.max(0, first + by))))
}

/** Links of a timeline: the placements that bear each. */
function linksOf(timeline: Timeline) {
  const links = new Map<string, { pictures: Placement[]; sounds: Placement[] }>()
  for (const track of timeline.tracks)
    for (const placement of track.placements) {
      if (placement.pairId === null) continue
      const known = links.get(placement.pairId) ?? { pictures: [], sounds: [] }
      links.set(placement.pairId, known)
      known[track.kind === 'video' ? 'pictures' : 'sounds'].push(placement)
    }
  return [...links.values()]
}

describe('a law', () => {
  it('1. in step: sound stands in its source where its picture does, within a frame of the slower', () => {
    let compared = 0
    fc.assert(
      fc.property(begun, acts(8), fc.array(fc.nat(), { minLength: 4, maxLength: 4 }), (cut, drawn, rolls) => {
        const doc = through(docThrough(cut), drawn, () => {})
        for (const timeline of Object.values(doc.timelines))
          for (const { pictures, sounds } of linksOf(timeline))
            for (const [i, sound] of sounds.entries()) {
              const [picture] = pictures
              const clip = picture?.source.kind === 'clip' ? doc.clips[picture.source.clipId] : undefined
              if (!picture || !clip?.reading?.video || clip.reading.kind !== 'video') continue
              const from = Math.max(picture.start, sound.start)
              const to = Math.min(picture.start + picture.length, sound.start + sound.length)
              // Only this picture is looked at, whatever lies over it.
              const track = timeline.tracks.find(({ placements }) => placements.includes(picture))!
              const alone = { ...timeline, tracks: [{ ...track, hidden: false, kind: 'video' as const }] }
              const heard = heardOf(doc, timeline, sound)
              for (const roll of rolls) {
                if (to <= from) continue
                const frame = from + ((roll + i) % (to - from))
                const [layer] = layersAt(doc, alone, frame)
                const seen = layer && seenAt(clip, layer.shown)
                const moment = frame / toNumber(timeline.rate!)
                const part = heard.findLast((heard) => toNumber(heard.from) <= moment + 1e-9)
                const { taking } = settlePlacement(doc, timeline, picture, formatOf(doc, timeline)).way
                const isPulled = taking.kind.endsWith('pulldown')
                // A pattern over frames of unequal length says nothing of time.
                if (!seen || !part || (isPulled && clip.frameTimes)) continue
                const speed = toNumber(part.speed)
                const at = toNumber(part.sourceSeconds) + (moment - toNumber(part.from)) * speed
                const ofTimeline = speed / toNumber(timeline.rate!)
                // A frame of film is one and a quarter of video, and lies in two of these, of which the earlier is told.
                const early = isPulled ? 2.25 * longestBeside(clip, layer.shown) : 0
                const slower = Math.max(ofTimeline, seen.lasts, early, 1 / toNumber(clip.reading.video.rate!))
                compared++
                expect(Math.abs(at - seen.at), `${clip.name} at ${frame}`).toBeLessThanOrEqual(slower + 1e-6)
              }
            }
      }),
      { numRuns: runs },
    )
    expect(compared).toBeGreaterThan(runs)
  })

  it('2. links: a link joins one picture and its own sounds', () => {
    fc.assert(
      fc.property(begun, acts(10), (cut, drawn) => {
        through(docThrough(cut), drawn, (doc, act) => {
          for (const timeline of Object.values(doc.timelines))
            for (const { pictures, sounds } of linksOf(timeline)) {
              expect(pictures.length, act).toBe(1)
              expect(sounds.length, act).toBeGreaterThan(0)
              for (const sound of sounds) expect(sound.source, act).toEqual(pictures[0]!.source)
            }
        })
      }),
      { numRuns: runs },
    )
  })

  it('2. links: what is done to one side of a cut never touches the other', () => {
    fc.assert(
      fc.property(
        begun,
        acts(6),
        fc.nat(),
        fc.nat(),
        fc.constantFrom('trimStart', 'trimEnd', 'slip', 'treat', 'remove'),
        (cut, drawn, at, by, what) => {
          const doc = through(docThrough(cut), drawn, () => {})
          const id = counting()
          const timeline = Object.values(doc.timelines).find((timeline) =>
            linksOf(timeline).some(({ pictures }) => pictures[0]!.length > 1),
          )
          const open = timeline && {
            ...timeline,
            tracks: timeline.tracks.map((track) => ({ ...track, locked: false })),
          }
          if (!open) return
          const long = linksOf(open).filter(({ pictures }) => pictures[0]!.length > 1)
          const { start, length, pairId } = long[at % long.length]!.pictures[0]!
          const frame = start + 1 + (at % (length - 1))
          const apart = change(
            { ...doc, timelines: { ...doc.timelines, [open.id]: open } },
            (draft) => {
              const ids = placementsIn(draft.timelines[open.id] as Timeline).map((placement) => placement.id)
              cutAt(draft, open.id, ids, frame, () => `half-${id()}`)
            },
            () => `link-${id()}`,
          )
          if (!apart.ok) throw new Error(apart.error)
          const halves = apart.doc.timelines[open.id]!
          const isLeft = (placement: Placement) =>
            placement.start < frame && placement.start + placement.length <= frame
          const left = placementsIn(halves).filter(isLeft)
          const right = placementsIn(halves).find(
            (placement) => placement.start === frame && placement.id.startsWith('half-'),
          )
          expect(
            left.every(
              (placement) =>
                placement.pairId === null ||
                !placementsIn(halves).some(
                  (other) => other.pairId === placement.pairId && other.start >= frame,
                ),
            ),
            'no link goes over the cut',
          ).toBe(true)
          if (!right || pairId === null) return
          const done = change(
            apart.doc,
            (draft) => {
              const meant = [...withLinked(halves, [right.id])]
              if (what === 'trimStart') trimStart(draft, open.id, right.id, (by % 9) - 2, 'stays')
              if (what === 'trimEnd') trimEnd(draft, open.id, right.id, (by % 9) - 4, 'stays')
              if (what === 'slip') slip(draft, open.id, right.id, (by % 9) - 4)
              if (what === 'treat') treat(draft, open.id, [right.id], { motion: { kind: 'hold' } })
              if (what === 'remove') removePlacements(draft, open.id, meant, false)
            },
            () => `later-${id()}`,
          )
          if (!done.ok) return
          const after = new Map(
            placementsIn(done.doc.timelines[open.id]!).map((placement) => [placement.id, placement]),
          )
          for (const placement of left) expect(after.get(placement.id), what).toEqual(placement)
        },
      ),
      { numRuns: runs },
    )
  })

  it('2. links: a sound that is pushed off its locked picture says what it said, and is linked no more', () => {
    const doc = docThrough({ format: '1920x1080@25p', placed: [{ clip: 0, from: 0, count: 10 }] })
    const id = counting()
    const placed = change(
      doc,
      (draft) => {
        changeTrack(draft, 't', draft.timelines.t!.tracks.find(({ kind }) => kind === 'video')!.id, {
          locked: true,
        })
        const [clip] = Object.values(draft.clips) as Clip[]
        const ids = ['picture', 'sound', 'link'] as [string, string, string]
        const { format } = parseFormat('1920x1080@25p')!
        putAt(
          draft,
          't',
          placedClip(clip!, format, { from: 100, to: 200 }, ids),
          { frame: 0, putting: 'insert' },
          id,
        )
      },
      id,
    )
    if (!placed.ok) throw new Error(placed.error)
    const pushed = placementsIn(placed.doc.timelines.t!).find((placement) => placement.id === 'first-new-2')!
    expect(pushed).toMatchObject({ start: 101, sourceIn: { num: 0, den: 1 }, pairId: null })
  })

  it('3. can be kept: the project passes its own schema and comes back from its own file identical', () => {
    fc.assert(
      fc.property(begun, acts(12), (cut, drawn) => {
        const doc = through(docThrough(cut), drawn, () => {})
        const back = readProjectFile(writeProjectFile(doc))
        if (!back.ok) throw new Error(back.error)
        expect(textOf(back.doc) === textOf(doc)).toBe(true)
      }),
      { numRuns: runs },
    )
  })

  it('3. can be kept: no operation of the strip is refused for what it would leave', () => {
    const strip = [
      'cutAt',
      'putAt',
      'putAtEnd',
      'putAbove',
      'movePlacements',
      'movePlacement',
      'removePlacements',
      'closeGaps',
      'trimStart',
      'trimEnd',
      'slip',
      'lengthen',
      'treat',
      'untreat',
      'link',
      'unlink',
      'cure',
      'nest',
      'unnest',
      'takeBack',
      'takeCarried',
      'correct',
      'replaceClip',
      'restore',
    ]
    fc.assert(
      fc.property(begun, acts(10), (cut, drawn) => {
        let n = 0
        const id = () => `n${++n}`
        const start = docThrough(cut)
        let doc = start
        for (const act of drawn) {
          const changed = change(
            doc,
            (draft) => void operationsDrawn[act.act]!(draft, diceOf(act, id, start)),
            id,
          )
          if (changed.ok) doc = changed.doc
          else if (strip.includes(act.act)) throw new Error(`${act.act}: ${changed.error}`)
        }
      }),
      { numRuns: runs },
    )
  })
})
