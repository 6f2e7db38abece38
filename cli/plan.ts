import { layersAt } from '../src/core/edit/layers'
import { formatOf } from '../src/core/edit/project'
import { shownWords } from '../src/core/motion/words'
import { frameToTimecode } from '../src/core/rate/timecode'
import { type Command, WrongUse, aligned, print, tell, words } from './command'
import { openProject, timelineNamed } from './project'

export const planCommand: Command = {
  usage: 'plan PROJECT.json TIMELINE FIRST COUNT [--json]',
  summary: 'What the frames of a timeline show: the plan that viewer and render follow.',
  options: [['--json', 'a JSON line for each frame']],
  example: "tally plan film.json 'Main cut' 0 50",
  async run(args) {
    const { positionals, json } = words(args)
    const [path, name, first, count] = positionals
    if (path === undefined || name === undefined || positionals.length !== 4)
      throw new WrongUse('A project file, a timeline, a first frame and a count are needed.')
    const [from, frames] = [Number(first), Number(count)]
    if (!Number.isSafeInteger(from) || from < 0 || !Number.isSafeInteger(frames) || frames < 0)
      throw new WrongUse('The first frame and the count are whole numbers, 0 or more.')
    const doc = await openProject(path)
    if (!doc) return 1
    const timeline = timelineNamed(doc, name)
    if (!formatOf(doc, timeline) || !timeline.rate) {
      tell(`“${timeline.name}” has no format yet.`)
      return 1
    }
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
