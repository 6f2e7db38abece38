import 'fake-indexeddb/auto'
import fc from 'fast-check'
import { afterEach, describe, expect, it } from 'vitest'
import { aDoc, aVideo } from '../../core/model/doc.fixture'
import { takeIn } from '../../core/edit/operations'
import type { Doc } from '../../core/model/project'
import { useDocument } from './document'
import { database } from '../../storage/database'
import { keptSteps } from '../../storage/history'
import { dropPoint, keepPoint, listPoints, loadPoint } from '../../storage/points'
import { WrittenElsewhere, loadProject, saveDoc, saveTouched, takeForWriting } from '../../storage/projects'

afterEach(() => Promise.all(database.tables.map((table) => table.clear())))
const at = '2026-06-02T08:00:00Z'
const bell = () => aDoc([aVideo('hall', '3840x2160@25p', 12)]) as Doc

/** A project that is open, and opened anew as it lies on disk. */
async function opened() {
  await saveDoc(bell())
  const history = useDocument<Doc>({
    save: (doc, patches, journal) => saveTouched(doc, patches, journal, 'here'),
    clock: () => at,
  })
  history.show(bell())
  const again = async () => {
    await history.settled()
    const loaded = (await loadProject('p1', at))!
    const reopened = useDocument<Doc>({
      save: (doc, patches, journal) => saveTouched(doc, patches, journal, 'here'),
    })
    reopened.show(loaded.doc, false, loaded.past)
    return reopened
  }
  return { history, again }
}
const name = (text: string) => (doc: { project: { name: string } }) => void (doc.project.name = text)

describe('a history that is kept', () => {
  it('comes back with names and times, done and undone, and goes on where it was', async () => {
    const { history, again } = await opened()
    for (const text of ['one', 'two', 'three']) history.edit(`call it ${text}`, name(text))
    history.undo()
    const reopened = await again()
    expect(reopened.lines.value).toEqual([
      { n: 1, label: 'call it one', at, isDone: true },
      { n: 2, label: 'call it two', at, isDone: true },
      { n: 3, label: 'call it three', at, isDone: false },
    ])
    reopened.redo()
    expect(reopened.doc.value?.project.name).toBe('three')
    reopened.goTo(0)
    expect(reopened.doc.value).toEqual(bell())
    reopened.edit('call it four', name('four'))
    await reopened.settled()
    const third = await again()
    expect(third.lines.value.map(({ label }) => label)).toEqual(['call it four'])
  })

  it('keeps the last steps, and all that are undone of them', async () => {
    const { history, again } = await opened()
    for (let i = 1; i <= keptSteps + 30; i++) history.edit(`call it ${i}`, name(`${i}`))
    const reopened = await again()
    expect(reopened.lines.value).toHaveLength(keptSteps)
    expect(reopened.lines.value[0]).toMatchObject({ n: 31, label: 'call it 31' })
    reopened.goTo(30)
    expect(reopened.doc.value?.project.name).toBe('30')
    expect(reopened.undo()).toBeNull()
    await reopened.settled()
    const third = await again()
    third.goTo(keptSteps + 30)
    expect(third.doc.value?.project.name).toBe(`${keptSteps + 30}`)
    // Far back while it is open, and left there: what lies ahead and still follows is there.
    history.goTo(5)
    const far = await again()
    expect(far.doc.value?.project.name).toBe('5')
    expect(far.lines.value.at(-1)?.n).toBe(5 + keptSteps)
    far.goTo(5 + keptSteps)
    expect(far.doc.value?.project.name).toBe(`${5 + keptSteps}`)
  })

  it('takes steps that were joined as one, and a drag that was left as none', async () => {
    const { history, again } = await opened()
    history.edit('drag', name('a'), 'drag 1')
    history.edit('drag', name('b'), 'drag 1')
    history.preview('slip', name('c'))
    history.cancel()
    const reopened = await again()
    expect(reopened.lines.value.map(({ label }) => label)).toEqual(['drag'])
    // A drag of today is not one with a drag of before.
    reopened.edit('drag', name('d'), 'drag 1')
    expect(reopened.lines.value).toHaveLength(2)
    reopened.undo()
    expect(reopened.doc.value?.project.name).toBe('b')
    await reopened.settled()
  })
})

describe('what is kept and has another shape than ours', () => {
  it('is no step: the history ends there', async () => {
    const { history, again } = await opened()
    for (const text of ['a', 'b', 'c', 'd']) history.edit(text, name(text))
    await history.settled()
    const row = (await database.steps.get(['p1', 2]))!
    await database.steps.put({ ...row, patches: 'none' as never })
    const reopened = await again()
    expect(reopened.lines.value.map(({ label }) => label)).toEqual(['c', 'd'])
  })

  it('is no restore point to go back to; one of an older version is brought to today’s', async () => {
    const doc = bell()
    const point = { projectId: 'p1', id: 'now', name: 'Rough cut', at, position: 0, doc }
    await keepPoint(point)
    expect(await loadPoint('p1', 'now')).toEqual(doc)
    expect(await loadPoint('p1', 'none')).toBeNull()
    const halves = { ...doc, timelines: { t: { id: 't', tracks: 7 } } } as never
    await database.points.put({ ...point, id: 'spoilt', doc: halves })
    expect(await loadPoint('p1', 'spoilt')).toBe('unreadable')
    await database.points.put({ ...point, id: 'strange', doc: 7 as never })
    expect(await loadPoint('p1', 'strange')).toBe('unreadable')
  })
})

describe('whatever is joined, undone and done again', () => {
  const deed = fc.oneof(
    fc.record({
      does: fc.constant('edit' as const),
      text: fc.constantFrom('bell', 'tower', 'yard'),
      joins: fc.constantFrom('x', 'y', undefined),
    }),
    fc.record({
      does: fc.constantFrom('take in' as const),
      text: fc.constantFrom('bell', 'tower', 'yard'),
      joins: fc.constantFrom('x', 'y'),
    }),
    fc.record({
      does: fc.constantFrom(
        'undo' as const,
        'redo' as const,
        'settled' as const,
        'drag' as const,
        'leave' as const,
      ),
    }),
  )
  it('comes back as it was: names, times and the document at each step', () =>
    fc.assert(
      fc.asyncProperty(fc.array(deed, { maxLength: 25 }), async (deeds) => {
        await Promise.all(database.tables.map((table) => table.clear()))
        const { history, again } = await opened()
        for (const deed of deeds) {
          if (deed.does === 'edit') history.edit('name', name(deed.text), deed.joins)
          else if (deed.does === 'take in')
            history.edit(
              'take in',
              (doc) => {
                takeIn(doc, [aVideo(`c${Object.keys(doc.clips).length}`, '1920x1080@25p', 1)])
              },
              deed.joins,
            )
          else if (deed.does === 'drag' || deed.does === 'leave') {
            for (const text of ['a', 'b', 'c']) history.preview('drag', name(text))
            if (deed.does === 'drag') history.commit()
            else history.cancel()
          } else await history[deed.does]()
        }
        const reopened = await again()
        expect(reopened.lines.value).toEqual(history.lines.value)
        for (let n = 0; n <= history.lines.value.length; n++)
          expect(reopened.docAt(n)).toEqual(history.docAt(n))
      }),
      { numRuns: 150 },
    ))

  it('writes what is joined to a step beside it, not the step again', async () => {
    await saveDoc(bell())
    const written: number[] = []
    const history = useDocument<Doc>({
      save: (doc, patches, journal) => {
        written.push(JSON.stringify(journal).length)
        return saveTouched(doc, patches, journal, 'here')
      },
    })
    history.show(bell())
    for (let i = 0; i < 40; i++) {
      history.edit('take in', (doc) => takeIn(doc, [aVideo(`c${i}`, '1920x1080@25p', 1)]), 'card')
      await history.settled()
    }
    expect(Math.max(...written.slice(1))).toBeLessThan(1.1 * Math.min(...written.slice(1)))
  })
})

describe('writing', () => {
  it('is one tab’s: another one’s is refused, and nothing of it lies on disk', async () => {
    const doc = bell()
    await saveDoc(doc)
    await takeForWriting('p1', 'here')
    expect(
      await saveTouched(
        { ...doc, project: { ...doc.project, name: 'mine' } },
        [{ op: 'replace', path: ['project', 'name'], value: 'mine' }],
        [],
        'here',
      ),
    ).toMatchObject({ anew: false })
    await takeForWriting('p1', 'there')
    await expect(
      saveTouched(doc, [{ op: 'replace', path: ['project', 'name'], value: 'x' }], [], 'here'),
    ).rejects.toThrow(WrittenElsewhere)
    expect((await loadProject('p1', at))!.doc.project.name).toBe('mine')
  })

  it('writes all of a project anew where the browser has lost it', async () => {
    const { history } = await opened()
    await Promise.all(database.tables.map((table) => table.clear()))
    history.edit('call it one', name('one'))
    await history.settled()
    const { doc } = (await loadProject('p1', at))!
    expect(doc).toEqual({ ...bell(), project: { ...bell().project, name: 'one' } })
  })
})

describe('restore points', () => {
  it('are kept whole under their names, the newest first, until they are dropped', async () => {
    const point = (id: string, when: string) => ({
      projectId: 'p1',
      id,
      name: `Cut ${id}`,
      at: when,
      position: 3,
      doc: bell(),
    })
    await keepPoint(point('a', '2026-06-02T08:00:00Z'))
    await keepPoint(point('b', '2026-06-02T09:00:00Z'))
    await keepPoint({ ...point('c', at), projectId: 'p2' })
    expect((await listPoints('p1')).map(({ name }) => name)).toEqual(['Cut b', 'Cut a'])
    expect(await loadPoint('p1', 'a')).toEqual(bell())
    await dropPoint('p1', 'a')
    expect([await loadPoint('p1', 'a'), await loadPoint('p1', 'c')]).toEqual([null, null])
  })
})
