import 'fake-indexeddb/auto'
import { createPinia, setActivePinia } from 'pinia'
import { afterEach, describe, expect, it } from 'vitest'
import { wrapped } from '../core/dispatch/usual'
import { deliverableOf } from '../core/model/deliverable'
import { parseFormat } from '../core/format/parse'
import { loadPreferences } from '../storage/preferences'
import { database } from '../storage/database'
import { usePreferences } from './preferences'

const format = (text: string) => parseFormat(text)!.format
async function opened() {
  setActivePinia(createPinia())
  const habits = usePreferences()
  await habits.ready
  return habits
}
const names = (habits: Awaited<ReturnType<typeof opened>>) => habits.ownFormats.map((own) => own.name)
const file = (text: string) => new File([text], 'own.json')

/** What is still being written belongs to the test that wrote it. */
afterEach(async () => {
  await usePreferences().settled()
  await database.habits.clear()
})

describe('habits', () => {
  it('are kept as they are set, and found again', async () => {
    const habits = await opened()
    habits.set('mains', 60)
    habits.set('shape', '9:16')
    await habits.settled()
    expect(await loadPreferences()).toMatchObject({ mains: 60, shape: '9:16' })
    expect((await opened()).habits.mains).toBe(60)
  })

  it('name what is kept after what it is, never two alike', async () => {
    const habits = await opened()
    expect(habits.keep(format('1080x1350@25p'))).toBe('1080×1350 · 25p')
    expect(habits.keep(format('1080x1350@25p'))).toBe('1080×1350 · 25p (2)')
    expect(habits.keep(format('1080x1350@25p'), '  Foundry window ')).toBe('Foundry window')
    expect(habits.keep(format('1080x1350@50p'), 'Foundry window')).toBe('Foundry window (2)')
  })

  it('change and drop formats, and put them back', async () => {
    const habits = await opened()
    habits.keep(format('1080x1350@25p'), 'Foundry window')
    const { id } = habits.ownFormats[0]!
    habits.change(id, { name: 'Bell window', format: format('1080x1350@50p') })
    expect(habits.ownFormats[0]).toMatchObject({ name: 'Bell window', format: { rate: { num: 50, den: 1 } } })
    habits.drop(id)
    expect(names(habits)).toEqual([])
    expect(habits.undo()).toBe('drop Bell window')
    expect(names(habits)).toEqual(['Bell window'])
    habits.undo()
    expect(names(habits)).toEqual(['Foundry window'])
  })

  it('go out to a file and come back, each once', async () => {
    const habits = await opened()
    habits.keep(format('1080x1350@25p'), 'Foundry window')
    habits.keep(format('1440x1080/4:3@50i'), 'Tape')
    const text = habits.exportFormats()
    habits.drop(habits.ownFormats[1]!.id)
    expect(await habits.importFormats(file(text))).toEqual({ ok: true, added: 1, known: 1 })
    expect(names(habits)).toEqual(['Foundry window', 'Tape'])
    expect(habits.exportFormats()).toBe(text)
  })

  it('stay as they are when a file is refused', async () => {
    const habits = await opened()
    habits.keep(format('1080x1350@25p'), 'Foundry window')
    expect(await habits.importFormats(file('[]'))).toEqual({
      ok: false,
      error: 'own.json: The file is JSON, but not a list of formats of Yard Tally. Nothing was changed.',
    })
    expect(names(habits)).toEqual(['Foundry window'])
    expect(habits.undoLabel).toBe('keep Foundry window')
  })

  it('keep profiles under names, rename and drop them, and take them in again from a file', async () => {
    const habits = await opened()
    const out = wrapped(deliverableOf('d', 'Out', format('1920x1080@50i')))
    expect(habits.keepProfile(out, 'For the tower')).toBe('For the tower')
    expect(habits.keepProfile({ ...out, burnIn: true }, 'For the tower')).toBe('For the tower (2)')
    const text = habits.exportProfiles()
    const [first, second] = habits.ownProfiles
    habits.renameProfile(first!.id, 'For the hall')
    habits.dropProfile(second!.id)
    expect(habits.ownProfiles.map(({ name, burnIn }) => [name, burnIn])).toEqual([['For the hall', false]])
    expect(await habits.importProfiles(file(text))).toEqual({ ok: true, added: 2, known: 0 })
    expect(await habits.importProfiles(file(text))).toEqual({ ok: true, added: 0, known: 2 })
    expect(habits.ownProfiles.at(-1)).toMatchObject({
      wrapper: 'MXF',
      video: { codec: 'MPEG-2' },
      burnIn: true,
    })
    expect(await habits.importProfiles(file('{}'))).toEqual({
      ok: false,
      error: 'own.json: The file is JSON, but not a list of profiles of Yard Tally. Nothing was changed.',
    })
    habits.undo()
    expect(habits.ownProfiles).toHaveLength(1)
    await habits.settled()
    expect((await loadPreferences()).ownProfiles).toHaveLength(1)
  })
})
