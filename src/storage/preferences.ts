import { Preferences, OwnFormat, defaultPreferences } from '../core/model/preferences'
import { type PutAsideRow, database } from './database'

/** There is one editor in a browser. */
const id = 'mine'

/**
 * The habits as last kept, each the usual one where none is or where it cannot be read; own formats that cannot be read any
 * more are put aside as they were, and the others stay.
 */
export async function loadPreferences(): Promise<Preferences> {
  const row = (await database.habits.get(id)) as Record<string, unknown> | undefined
  if (!row) return defaultPreferences
  const kept: Record<string, unknown> = {}
  for (const [key, schema] of Object.entries(Preferences.shape)) {
    const parsed = schema.safeParse(row[key])
    if (parsed.success) kept[key] = parsed.data
  }
  const own = Array.isArray(row.ownFormats) ? (row.ownFormats as unknown[]) : []
  const lost = own.filter((format) => !OwnFormat.safeParse(format).success)
  kept.ownFormats = own.flatMap((format) => OwnFormat.safeParse(format).data ?? [])
  const habits = Preferences.parse(kept)
  if (lost.length > 0) {
    const rows = lost.map((format): PutAsideRow => ({
      projectId: '',
      at: new Date().toISOString(),
      what: 'own-format',
      name: 'own format',
      why: 'it cannot be read any more',
      row: format,
    }))
    await database.transaction('rw', database.habits, database.putAside, async () => {
      await database.putAside.bulkAdd(rows)
      await savePreferences(habits)
    })
  }
  return habits
}

/** @throws ZodError where the habits could not be read again as they are; nothing is written then */
export async function savePreferences(habits: Preferences): Promise<void> {
  await database.habits.put({ ...Preferences.parse(habits), id })
}
