import { describe, expect, it } from 'vitest'
import { parseFormat } from '../format/parse'
import { aDoc } from '../model/doc.fixture'
import type { Deliverable } from '../model/deliverable'
import type { Doc } from '../model/project'
import { addDeliverable, changeDeliverable, copyDeliverable, goesWith, removeDeliverable } from './delivering'
import type { Draft } from './draft'

const { format } = parseFormat('1920x1080@25p')!
const delivered = (count: number) => {
  const doc = aDoc([])
  for (let i = 0; i < count; i++) addDeliverable(doc, `d${i}`, format, 'cut')
  return doc
}
const names = (doc: Draft<Doc>) => doc.project.deliverables.map(({ id, name }) => `${id} ${name}`)
const proof = {
  at: '2026-06-02T08:00:00Z',
  file: 'bell.mov',
  lines: [],
} as unknown as Deliverable['proof']

describe('deliverables', () => {
  it('get a name of their own, and the timeline that they are made of', () => {
    const doc = delivered(3)
    expect(new Set(doc.project.deliverables.map(({ name }) => name)).size).toBe(3)
    expect(doc.project.deliverables.map(({ timelineId }) => timelineId)).toEqual(['cut', 'cut', 'cut'])
  })

  it('are taken out one by one: others of the same format stay', () => {
    const doc = delivered(3)
    const before = names(doc)
    removeDeliverable(doc, 'd1')
    expect(names(doc)).toEqual([before[0], before[2]])
  })

  it('lose their proof when they are changed or copied, and nothing else', () => {
    const doc = delivered(2)
    doc.project.deliverables[0]!.proof = proof as never
    copyDeliverable(doc, 'd0', 'd2')
    changeDeliverable(doc, { ...(doc.project.deliverables[0] as Deliverable), burnIn: true })
    expect(doc.project.deliverables.map(({ id, burnIn, proof }) => [id, burnIn, proof])).toEqual([
      ['d0', true, null],
      ['d1', false, null],
      ['d2', false, null],
    ])
    expect(new Set(names(doc)).size).toBe(3)
  })

  it('say what goes with them', () => {
    const [plain] = delivered(1).project.deliverables as Deliverable[]
    expect(goesWith(plain!)).toBeNull()
    expect(goesWith({ ...plain!, burnIn: true })).toBe('its settings')
    expect(goesWith({ ...plain!, proof })).toBe('the proof of bell.mov')
    expect(goesWith({ ...plain!, wrapper: 'MP4', proof })).toBe('its settings and the proof of bell.mov')
  })
})
