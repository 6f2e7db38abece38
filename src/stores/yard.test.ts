import 'fake-indexeddb/auto'
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { aStill, aVideo } from '../core/model/doc.fixture'
import { takeIn } from '../core/edit/operations'
import { formatText } from '../core/format/format'
import { parseFormat } from '../core/format/parse'
import { useProject } from './document/project'
import { useYard } from './yard'
import { useDispatching } from './dispatching'

const format = (text: string) => parseFormat(text)!.format
const clips = [
  aVideo('hall', '3840x2160@25p', 60),
  aVideo('bell', '1920x1080@50p', 10),
  aVideo('reel', '720x576/64:45@50i', 5),
  aStill('title'),
]

async function begun() {
  const project = useProject()
  const yard = useYard()
  await project.create({ name: 'The Ninth Bell' })
  project.edit('take in', (doc) => takeIn(doc, clips))
  await vi.waitFor(() => expect(yard.ranking.length).toBeGreaterThan(0))
  const best = () => formatText(yard.best!.format)
  return { project, yard, best }
}

beforeEach(() => setActivePinia(createPinia()))

describe('the yard', () => {
  it('looks at the best until another is looked at, the project’s once it has one', async () => {
    const { project, yard, best } = await begun()
    expect(best()).toBe('3840x2160@25p')
    expect(formatText(yard.candidate!)).toBe('3840x2160@25p')
    yard.look(format('1920x1080@50p'))
    expect(formatText(yard.candidate!)).toBe('1920x1080@50p')
    expect(yard.price?.reason).toMatch(/^13 % stays untouched/)
    yard.chooseCandidate()
    expect(project.doc?.project.decisions.at(-1)).toMatchObject({ setBy: 'tried' })
    yard.look(null)
    expect(formatText(yard.candidate!)).toBe('1920x1080@50p')
  })

  it('writes into the log who chose, from what, and why', async () => {
    const { project, yard } = await begun()
    const last = () => project.doc!.project.decisions.at(-1)!
    yard.chooseCandidate()
    expect(last()).toMatchObject({ setBy: 'recommended' })
    expect(last().reason).toMatch(/^Loss 0\.\d\d, ranked for balance\. 80 % stays untouched/)
    yard.look(format('1280x720@25p'), 'typed')
    yard.chooseCandidate()
    expect(last()).toMatchObject({ setBy: 'typed' })
    yard.chooseFromClip(project.doc!.clips.reel!)
    expect(last()).toMatchObject({ setBy: 'clip' })
    expect(last().reason).toMatch(/^The format of reel\.mp4\. Loss/)
    expect(formatText(last().format)).toBe('720x576/64:45@50i')
    // A still has no format to give.
    yard.chooseFromClip(project.doc!.clips.title!)
    expect(project.doc!.project.decisions).toHaveLength(3)
    for (let i = 0; i < 3; i++) project.undo()
    expect([project.format, project.doc!.project.decisions]).toEqual([null, []])
  })

  it('prices stills, which do not vote, and what was read only in part does neither', async () => {
    const { project, yard } = await begun()
    expect(yard.ballot.excluded).toEqual([{ id: 'title', why: 'still' }])
    expect(yard.payments.flatMap((payment) => payment.ids).sort()).toEqual(['bell', 'hall', 'reel', 'title'])
    project.edit(
      'cut off',
      (doc) => void (doc.clips.bell!.fault = { code: 'truncated', message: 'Cut off.' }),
    )
    expect(yard.ballot.excluded.map((e) => e.id)).toEqual(['bell', 'title'])
    expect(yard.payments.flatMap((payment) => payment.ids)).not.toContain('bell')
  })

  it('follows deliveries, leans and priorities', async () => {
    const { project, yard, best } = await begun()
    const dispatching = useDispatching()
    const [first, second] = [format('1920x1080@50i'), format('1920x1080@50i')].map(dispatching.add)
    const names = () => project.doc!.project.deliverables.map(({ name }) => name)
    expect(new Set(names()).size).toBe(2)
    await vi.waitFor(() => expect(yard.best?.reason).toContain('Delivered'))
    dispatching.remove(second!)
    expect(project.doc!.project.deliverables.map(({ id }) => id)).toEqual([first])
    expect(yard.options.deliverables).toHaveLength(1)
    dispatching.remove(first!)
    await vi.waitFor(() => expect(yard.best?.reason).not.toContain('Delivered'))
    expect(best()).toBe('3840x2160@25p')
    yard.setPriority('hall', 'left-out')
    await vi.waitFor(() => expect(best()).not.toContain('3840x2160'))
    expect(yard.ballot.excluded.map((e) => e.why)).toEqual(['left-out', 'still'])
    yard.setLean('detail')
    expect(yard.weights).toMatchObject({ unused: 1, invented: 0.25, bars: 0.25 })
  })

  it('sets a second format beside the first, and forgets both with the project', async () => {
    const { project, yard } = await begun()
    yard.beside = format('1920x1080@50p')
    const lossOf = (id: string, payments = yard.payments) =>
      payments.find((payment) => payment.ids.includes(id))!.toll.loss
    expect(lossOf('bell')).toBeGreaterThan(0.7)
    expect(lossOf('bell', yard.paymentsBeside)).toBe(0)
    yard.look(format('1280x720@25p'))
    await project.create({ name: 'Second casting' })
    await vi.waitFor(() => expect(yard.beside).toBeNull())
    expect([yard.looked, yard.candidate]).toEqual([null, null])
  })
})
