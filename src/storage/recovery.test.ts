import 'fake-indexeddb/auto'
import { enablePatches, produceWithPatches } from 'immer'
import { afterEach, describe, expect, it } from 'vitest'
import { aDoc, aVideo } from '../core/model/doc.fixture'
import type { Doc } from '../core/model/project'
import { database } from './database'
import { loadProject, saveDoc, saveTouched, takeForWriting } from './projects'
import { catchUp } from './recovery'
import { aheadLine, entriesAfter } from './write-ahead'
import type { AheadEntry, Journal } from './schema'

enablePatches()
afterEach(() => Promise.all(database.tables.map((table) => table.clear())))
const at = '2026-06-02T08:00:00Z'
const bell = () => aDoc([aVideo('hall', '3840x2160@25p', 12)]) as Doc

/** A tab that names the project over and over, and what it writes ahead of that. */
function naming(doc: Doc) {
  const entries: AheadEntry[] = []
  const call = (name: string) => {
    const [next, patches, inverse] = produceWithPatches(doc, (draft) => void (draft.project.name = name))
    const n = entries.length + 1
    const journal: Journal[] = [
      { position: n, put: { n, step: { label: `call it ${name}`, at, patches, inverse } }, dropsLater: true },
    ]
    doc = next
    entries.push({ n, patches, journal })
    return { doc, patches, journal, n }
  }
  return { call, text: () => entries.map(aheadLine).join(''), entries }
}
/** A project whose tab died after some names: the database came to so many of them. */
async function crashed(names: readonly string[], inThere: number) {
  await saveDoc(bell())
  await takeForWriting('p1', 'dead')
  const tab = naming(bell())
  for (const name of names) {
    const { doc, patches, journal, n } = tab.call(name)
    if (n <= inThere) await saveTouched(doc, patches, journal, 'dead', n)
  }
  return tab
}
const names = async () => {
  const { doc, past } = (await loadProject('p1', at))!
  return { name: doc.project.name, steps: past?.steps.map(({ label }) => label) ?? [] }
}

describe('a log written ahead', () => {
  it('is read as it was written, up to a line that was torn, and not beyond a gap', () => {
    const { call, text, entries } = naming(bell())
    for (const name of ['one', 'two', 'three']) call(name)
    expect(entriesAfter(0, text())).toEqual(entries)
    expect(entriesAfter(1, text())).toEqual(entries.slice(1))
    expect(entriesAfter(3, text())).toEqual([])
    for (const end of [1, 30]) expect(entriesAfter(0, text().slice(0, -end))).toEqual(entries.slice(0, 2))
    const gap = [entries[0]!, entries[2]!].map(aheadLine).join('')
    expect(entriesAfter(0, gap)).toEqual([entries[0]])
    const spoilt = `${aheadLine(entries[0]!)}{"n":2,\n${aheadLine(entries[2]!)}`
    expect(entriesAfter(0, spoilt)).toEqual([entries[0]])
    expect(entriesAfter(0, '')).toEqual([])
    const strange = [
      { n: 2, patches: [{ op: 'melt', path: [] }], journal: [] },
      { n: 2, patches: [], journal: [{ position: 'two', put: null, dropsLater: true }] },
      { n: 2, patches: {}, journal: [] },
      7,
    ]
    // A line of another shape than ours ends the log as a torn one does.
    for (const line of strange) {
      const log = `${aheadLine(entries[0]!)}${JSON.stringify(line)}\n${aheadLine(entries[2]!)}`
      expect(entriesAfter(0, log)).toEqual([entries[0]])
    }
  })

  it.each([0, 1, 3])('brings in what the database did not come to, where it had %i of 3', async (inThere) => {
    const tab = await crashed(['one', 'two', 'three'], inThere)
    const log = async (writer: string) => (writer === 'dead' ? tab.text() : null)
    expect(await catchUp('p1', log, at)).toBe(true)
    const all = { name: 'three', steps: ['call it one', 'call it two', 'call it three'] }
    expect(await names()).toEqual(all)
    const row = await database.histories.get('p1')
    expect(row).toMatchObject({ revision: 3, position: 3, ahead: 3 })
    // Brought in once more, by a tab that died over it, it is the same.
    expect(await catchUp('p1', log, at)).toBe(true)
    expect(await database.histories.get('p1')).toEqual(row)
    expect(await names()).toEqual(all)
  })

  it('is of the tab that wrote last: what another one left behind is not brought in', async () => {
    const tab = await crashed(['one', 'two'], 1)
    expect(await takeForWriting('p1', 'here')).toBe(0)
    expect(await catchUp('p1', async (writer) => (writer === 'dead' ? tab.text() : null), at)).toBe(true)
    expect((await names()).name).toBe('one')
    // A tab that takes it once more goes on counting.
    await saveTouched(bell(), [{ op: 'replace', path: ['project', 'name'], value: 'x' }], [], 'here', 7)
    expect(await takeForWriting('p1', 'here')).toBe(7)
  })

  it('keeps what went before a change that cannot be read again, and says that some is left', async () => {
    const tab = await crashed(['one', 'two'], 0)
    const spoilt: AheadEntry = {
      n: 3,
      patches: [{ op: 'replace', path: ['project', 'name'], value: 7 }],
      journal: [],
    }
    expect(await catchUp('p1', async () => tab.text() + aheadLine(spoilt), at)).toBe(false)
    expect((await names()).name).toBe('two')
  })

  it('has nothing to bring where the project is gone', async () => {
    const tab = await crashed(['one'], 0)
    await Promise.all(database.tables.map((table) => table.clear()))
    expect(await catchUp('p1', async () => tab.text(), at)).toBe(true)
    expect(await loadProject('p1', at)).toBeNull()
  })
})
