import { readFile } from 'node:fs/promises'
import { layersAt } from '../src/core/edit/layers'
import { type Doc, formatOf, timelinesOf } from '../src/core/edit/project'
import type { Timeline } from '../src/core/edit/timeline'
import { readProjectFile } from '../src/core/exchange/project-file'
import { shownWords } from '../src/core/motion/words'
import { frameToTimecode } from '../src/core/rate/timecode'
import { type Command, WrongUse, aligned, print, tell, words } from './command'

export const planCommand: Command = {
  usage: 'plan PROJECT.json TIMELINE FIRST COUNT [--json]',
  summary: 'What the frames of a timeline show: the plan that viewer and render follow.',
  async run(args) {
    const { positionals, json } = words(args)
    const [path, name, first, count] = positionals
    if (path === undefined || name === undefined || positionals.length !== 4)
      throw new WrongUse('A project file, a timeline, a first frame and a count are needed.')
    const [from, frames] = [Number(first), Number(count)]
    if (!Number.isSafeInteger(from) || from < 0 || !Number.isSafeInteger(frames) || frames < 0)
      throw new WrongUse('The first frame and the count are whole numbers, 0 or more.')
    const text = await readFile(path, 'utf8').catch(() => null)
    if (text === null) return failed(`${path} could not be read.`)
    const opened = readProjectFile(text)
    if (!opened.ok) return failed(`${path}: ${opened.error}`)
    const { doc } = opened
    const timeline = named(doc, name)
    if (!timeline) throw new WrongUse(`There is no timeline “${name}” in ${path}.`)
    if (!formatOf(doc, timeline) || !timeline.rate) return failed(`“${timeline.name}” has no format yet.`)
    for (let n = from; n < from + frames; n++) {
      const layers = layersAt(doc, timeline, n).map(({ placementId, source, shown }) => ({
        placementId,
        source,
        shown,
      }))
      if (json) print(JSON.stringify({ frame: n, layers }))
      else {
        const said = layers.map(({ placementId, shown }) => `${placementId}: ${shownWords(shown)}`)
        const at = frameToTimecode(n, timeline.rate)
        aligned([[String(n), at, said.join('; ') || 'nothing']]).forEach(print)
      }
    }
    return 0
  },
}

/** A timeline by its id or its name. */
const named = (doc: Doc, name: string): Timeline | undefined =>
  doc.timelines[name] ?? timelinesOf(doc).find((timeline) => timeline.name === name)

function failed(message: string): number {
  tell(message)
  return 1
}
