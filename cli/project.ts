import { readFile } from 'node:fs/promises'
import { type Doc, timelinesOf } from '../src/core/model/project'
import type { Timeline } from '../src/core/model/timeline'
import { readProjectFile } from '../src/core/stored/project-file'
import { reasonOf } from '../src/core/words/reason'
import { WrongUse, tell } from './command'

/** The project in a file; what is wrong with it is told, and null comes back. */
export async function openProject(path: string): Promise<Doc | null> {
  const text = await readFile(path, 'utf8').catch((error: unknown) => {
    tell(`${path}: ${reasonOf(error)}`)
    return null
  })
  if (text === null) return null
  const read = readProjectFile(text)
  if (!read.ok) {
    tell(`${path}: ${read.error}`)
    return null
  }
  for (const { name, why } of read.putAside) tell(`${path}: ${name} is left out: ${why}.`)
  return read.doc
}

/** A timeline by its id or its name; the first where none is named. @throws WrongUse where there is no such timeline */
export function timelineNamed(doc: Doc, name: string | undefined): Timeline {
  const all = timelinesOf(doc)
  const found =
    name === undefined ? all[0] : (doc.timelines[name] ?? all.find((timeline) => timeline.name === name))
  if (!found)
    throw new WrongUse(all.length ? `There is no timeline “${name}”.` : 'The project has no timeline.')
  return found
}
