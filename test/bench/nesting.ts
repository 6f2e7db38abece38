/** What the plan of a frame costs where a cut lies in another, in another, eight deep. */
import { aDoc, aVideo } from '../../src/core/model/doc.fixture'
import { nestedIn } from '../../src/core/edit/nesting'
import { layersAt } from '../../src/core/plan/layers'
import { addTimeline } from '../../src/core/edit/operations'
import { append, newTimeline, placementOf } from '../../src/core/edit/placing'
import type { Timeline } from '../../src/core/model/timeline'
import { parseFormat } from '../../src/core/format/parse'
import { sized } from './size'

const depth = 8
const frames = sized(500, 20)

/** Milliseconds a frame: of a cut by itself, and of the same cut nested. */
export function measureNesting(): { flat: number[]; deep: number[]; depth: number } {
  const { format } = parseFormat('1920x1080@25p')!
  const doc = aDoc(
    ['3840x2160@25p', '1920x1080@50p', '1440x1080/4:3@50i'].map((text, i) => aVideo(`c${i}`, text, 60)),
  )
  addTimeline(doc, newTimeline('t0', 'Cut', '', format))
  append(
    doc,
    't0',
    Array.from({ length: 30 }, (_, i) => ({
      ...placementOf(doc.clips[`c${i % 3}`]!, format, `p${i}`),
      length: 20,
    })),
  )
  let n = 0
  for (let level = 1; level <= depth; level++) {
    const inner = doc.timelines[`t${level - 1}`] as Timeline
    const making = { name: `Level ${level}`, at: '', newId: () => `n${++n}` }
    addTimeline(doc, { ...nestedIn(inner, format, null, making), id: `t${level}` })
  }
  const measure = (id: string) =>
    Array.from({ length: 5 }, () => {
      const begun = performance.now()
      for (let frame = 0; frame < frames; frame++) layersAt(doc, doc.timelines[id] as Timeline, frame)
      return (performance.now() - begun) / frames
    })
  measure(`t${depth}`)
  return { flat: measure('t0'), deep: measure(`t${depth}`), depth }
}
