import { Habits, defaultHabits } from '../core/edit/habits'
import { database } from './database'

/** There is one editor in a browser. */
const id = 'mine'

/** The habits as last kept; the usual ones where none are, or where what is kept cannot be read. */
export async function loadHabits(): Promise<Habits> {
  const row = await database.habits.get(id)
  return Habits.catch(defaultHabits).parse(row ?? {})
}

export async function saveHabits(habits: Habits): Promise<void> {
  await database.habits.put({ ...habits, id })
}
