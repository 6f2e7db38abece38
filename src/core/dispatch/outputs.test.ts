import { describe, expect, it } from 'vitest'
import { checkTimeline } from '../check/check'
import { aDoc, aVideo } from '../model/doc.fixture'
import { addTimeline, setProjectFormat } from '../edit/operations'
import { append, newTimeline, placementOf } from '../edit/placing'
import { deliveredFormats } from '../model/project'
import { formatText } from '../format/format'
import { parseFormat } from '../format/parse'
import { deliveryCheck } from './delivery-check'
import { outputsThatDiffer, standsWords } from './outputs'

const hd25 = parseFormat('1920x1080@25p')!.format

function delivering(
  ...wanted: readonly (readonly [id: string, format: string, timelineId: string | null])[]
) {
  const doc = aDoc([aVideo('hall', '1920x1080@25p', 4), aVideo('bell', '1280x720@25p', 4)])
  setProjectFormat(doc, { at: '', setBy: 'typed', format: hd25, reason: '' })
  for (const id of ['main', 'short']) {
    addTimeline(doc, newTimeline(id, id, ''))
    append(doc, id, [
      placementOf(doc.clips.hall as never, hd25, `${id}-hall`),
      placementOf(doc.clips.bell as never, hd25, `${id}-bell`),
    ])
  }
  doc.project.deliverables = wanted.map(([id, format, timelineId]) => ({
    id,
    name: id,
    timelineId,
    format: parseFormat(format)!.format,
    wrapper: null,
    video: null,
    sound: null,
    treatment: {},
  })) as never
  return doc
}
const differing = (doc: ReturnType<typeof delivering>, id: string) =>
  outputsThatDiffer(doc, doc.timelines[id]!, checkTimeline(doc, doc.timelines[id]!)!)

describe('deliverables whose picture is another', () => {
  it('are held against their own timeline alone', () => {
    const doc = delivering(
      ['same', '1920x1080@25p', 'main'],
      ['tape', '1920x1080@50i', 'main'],
      ['web', '1280x720@25p', 'short'],
    )
    expect(differing(doc, 'main').map(({ name }) => name)).toEqual(['tape'])
    expect(differing(doc, 'short').map(({ name }) => name)).toEqual(['web'])
    // One that names no timeline, where there are two, is held against none.
    expect(differing(delivering(['open', '1280x720@25p', null]), 'main')).toEqual([])
  })

  it('are told in the words of their card', () => {
    const doc = delivering(['tape', '1920x1080@50i', 'main'], ['large', '3840x2160@25p', 'main'])
    expect(differing(doc, 'main').map(({ says }) => says)).toEqual(
      doc.project.deliverables.map(
        (deliverable) =>
          `goes out as ${deliverable.id === 'tape' ? '1920×1080 · 50i' : '3840×2160 · 25p'}: ${standsWords(deliveryCheck(doc, deliverable)!)}`,
      ),
    )
    expect(differing(doc, 'main')[1]!.says).toContain('2 placements pay more')
  })

  it('are weighed for the project where its main cut goes out so, once each', () => {
    const doc = delivering(
      ['tv', '1920x1080@50i', 'main'],
      ['archive', '1920x1080@50i', null],
      ['phone', '1080x1920@25p', 'short'],
    )
    expect(deliveredFormats(doc.project).map(formatText)).toEqual(['1920x1080@50i'])
  })
})
