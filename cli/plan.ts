import { layersAt } from '../src/core/plan/layers'
import { formatOf } from '../src/core/model/project'
import { shownWords } from '../src/core/motion/words'
import { type Heard, heardIn } from '../src/core/plan/heard'
import { timecodeAt } from '../src/core/model/timeline'
import {
  type Rational,
  add,
  compare,
  divide,
  multiply,
  rational,
  subtract,
  toNumber,
} from '../src/core/rational/rational'
import { speedWords } from '../src/core/words/figures'
import { type Command, WrongUse, aligned, print, tell, parseWords } from './command'
import { openProject, timelineNamed } from './project'

export const planCommand: Command = {
  usage: 'plan PROJECT.json TIMELINE FIRST COUNT [--sound] [--json]',
  summary: 'What the frames of a timeline show: the plan that viewer and render follow.',
  options: [
    ['--sound', 'what is heard too: the moment of its source at the frame’s start, its speed and its gain'],
    ['--json', 'a JSON line for each frame'],
  ],
  example: "tally plan film.json 'Main cut' 0 50",
  async run(args) {
    const { positionals, values, json } = parseWords(args, { sound: { type: 'boolean' } })
    const [path, name, first, count] = positionals
    if (path === undefined || name === undefined || positionals.length !== 4)
      throw new WrongUse('A project file, a timeline, a first frame and a count are needed.')
    const [from, frames] = [Number(first), Number(count)]
    if (!Number.isSafeInteger(from) || from < 0 || !Number.isSafeInteger(frames) || frames < 0)
      throw new WrongUse('The first frame and the count are whole numbers, 0 or more.')
    const doc = await openProject(path)
    if (!doc) return 1
    const timeline = timelineNamed(doc, name)
    const { rate } = timeline
    if (!formatOf(doc, timeline) || !rate) {
      tell(`“${timeline.name}” has no format yet.`)
      return 1
    }
    const heard = values.sound ? heardIn(doc, timeline) : null
    for (let n = from; n < from + frames; n++) {
      const sounds = heard?.flatMap((heard) => soundAt(heard, divide(rational(n), rate)) ?? [])
      const layers = layersAt(doc, timeline, n).map(({ placementId, source, shown }) => ({
        placementId,
        source,
        shown,
      }))
      if (json) print(JSON.stringify({ frame: n, layers, ...(sounds ? { sounds } : {}) }))
      else {
        const said = layers.map(({ placementId, shown }) => `${placementId}: ${shownWords(shown)}`)
        const at = timecodeAt(timeline, n)
        const heardWords = sounds?.map(
          ({ placement, sourceSec, speed }) =>
            `${placement} at ${toNumber(sourceSec).toFixed(4)} s, ${speedWords(toNumber(speed))}`,
        )
        const row = [
          String(n),
          at,
          said.join('; ') || 'nothing',
          ...(heardWords ? [heardWords.join('; ') || 'silent'] : []),
        ]
        aligned([row]).forEach(print)
      }
    }
    return 0
  },
}

/** What sounds of a stretch at a moment of the timeline; null where it is silent then. */
function soundAt({ placementId, clip, from, to, sourceSeconds, speed, gain }: Heard, moment: Rational) {
  if (compare(moment, from) < 0 || compare(moment, to) >= 0) return null
  const sourceSec = add(sourceSeconds, multiply(subtract(moment, from), speed))
  return { placement: placementId, clip: clip.name, sourceSec, speed, gainDb: gain }
}
