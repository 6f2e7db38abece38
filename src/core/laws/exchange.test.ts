import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Doc } from '../model/project'
import { formatOf } from '../model/project'
import type { Placement, Timeline } from '../model/timeline'
import { toEdl } from '../exchange/edl'
import { fromEdl } from '../exchange/edl-read'
import { toOtio } from '../exchange/otio'
import { fromOtio } from '../exchange/otio-read'
import { framesOfDay, timecodeToFrame } from '../rate/timecode'
import { speedOver } from '../motion/shown'
import { runningIn } from '../plan/in-step'
import { toNumber } from '../rational/rational'
import { acts, textOf } from './history.fixture'
import { begun, docThrough, through } from './through.fixture'

const runs = Number(process.env.LAWS ?? 300)
const making = () => {
  let n = 0
  return { name: 'Read', at: '2026-06-02T08:00:00Z', newId: () => `read-${++n}` }
}

/** A document with the clips of another alone, but for timelines that are named. */
const without = (doc: Doc, ids: readonly string[]): Doc => ({
  ...doc,
  timelines: Object.fromEntries(Object.entries(doc.timelines).filter(([id]) => !ids.includes(id))),
  project: {
    ...doc.project,
    timelineOrder: doc.project.timelineOrder.filter((id) => !ids.includes(id)),
    deliverables: [],
  },
})

function speedIn(doc: Doc, timeline: Timeline, placement: Placement): number {
  const running = runningIn(doc, timeline, placement)!
  return toNumber(speedOver(running, running.timing, running.rate, placement.length))
}
const sounding = ({ tracks }: Timeline): Placement[] =>
  tracks.filter(({ kind, muted }) => kind === 'audio' && !muted).flatMap(({ placements }) => placements)
const lowest = ({ tracks }: Timeline): readonly Placement[] =>
  tracks.find(({ kind, hidden }) => kind === 'video' && !hidden)?.placements ?? []

describe('law 4. comes back', () => {
  it('OTIO out and in is the same', () => {
    fc.assert(
      fc.property(begun, acts(8), (cut, drawn) => {
        const doc = through(docThrough(cut), drawn, () => {})
        for (const timeline of Object.values(doc.timelines)) {
          if (!formatOf(doc, timeline)) continue
          const read = fromOtio(
            JSON.stringify(toOtio(doc, timeline)),
            without(doc, Object.keys(doc.timelines)),
            making(),
          )
          if (!read.ok) throw new Error(read.error)
          expect(read.notes).toEqual([])
          for (const timeline of read.timelines) {
            const was = doc.timelines[timeline.id]!
            expect(textOf(timeline)).toBe(textOf(was))
          }
        }
      }),
      { numRuns: runs },
    )
  })

  it('EDL out and in is the same cut to the frame, and what it cannot hold is told', () => {
    let same = 0
    fc.assert(
      fc.property(begun, acts(8), fc.boolean(), (cut, drawn, alike) => {
        const start = docThrough(cut)
        // Reels and names that several clips bear, and such as mean black.
        const clips = Object.fromEntries(
          Object.entries(start.clips).map(([id, clip], i) => [
            id,
            alike
              ? {
                  ...clip,
                  folder: `card ${i}`,
                  name: ['BL', 'BLACK.mov', 'clip.mov'][i % 3]!,
                  reading: {
                    ...clip.reading!,
                    reel: i % 2 ? 'A001' : null,
                    timecode: i % 4 ? { start: '01:00:00:00', dropFrame: i === 8 } : null,
                  },
                }
              : clip,
          ]),
        )
        const doc = through({ ...start, clips }, drawn, () => {})
        for (const timeline of Object.values(doc.timelines)) {
          const { text, leavesOut } = toEdl(doc, timeline)
          const format = formatOf(doc, timeline)
          if (!format || !/^\d{3}/m.test(text)) continue
          const read = fromEdl(text, doc, making(), format)
          if (!read.ok) throw new Error(`${read.error}\n${text}`)
          const leftOut = leavesOut.join('; ')
          const firstOf = ({ startTimecode, dropFrame }: Timeline) =>
            timecodeToFrame(startTimecode, format.rate, dropFrame)!
          // A cut whose first event stands at midnight is read as beginning there: labels go round once a day.
          const past = firstOf(read.timeline) - firstOf(timeline)
          const offset = past < 0 ? past + framesOfDay(format.rate, timeline.dropFrame) : past
          const isClip = ({ source }: Placement) => source.kind === 'clip'
          const asSeen = (placements: readonly Placement[], by: number) =>
            placements
              .filter(isClip)
              .map((placement) =>
                [JSON.stringify(placement.source), placement.start + by, placement.length].join(' '),
              )
              .sort()
          const ambiguous = read.notes.some((note) => /are “/.test(note))
          if (ambiguous) throw new Error(`${read.notes.join('\n')}\n${text}`)
          expect(asSeen(lowest(read.timeline), offset), text).toEqual(asSeen(lowest(timeline), 0))
          if (!/all four channels/.test(leftOut))
            expect(asSeen(sounding(read.timeline), offset), text).toEqual(asSeen(sounding(timeline), 0))
          // Where nothing of them is told, in-points and speeds are the very same.
          const pairs = lowest(timeline).filter(isClip)
          const back = lowest(read.timeline)
          if (!/in-points/.test(leftOut))
            pairs.forEach((placement, i) => {
              if (doc.clips[(placement.source as { clipId: string }).clipId]?.reading?.kind === 'still')
                return
              expect(toNumber(back[i]!.sourceIn)).toBeCloseTo(toNumber(placement.sourceIn), 9)
              same++
            })
          if (!/speed/.test(leftOut))
            pairs.forEach((placement, i) => {
              const speeds = [
                speedIn(doc, read.timeline, back[i]!),
                speedIn(doc, timeline, placement),
              ] as const
              // M2 says a tenth of a frame a second.
              expect(Math.abs(speeds[0] - speeds[1]) * toNumber(format.rate), text).toBeLessThan(0.0501)
            })
        }
      }),
      { numRuns: runs },
    )
    expect(same).toBeGreaterThan(runs / 4)
  })
})
