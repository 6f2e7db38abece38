import { readFile } from 'node:fs/promises'
import { text as textOf } from 'node:stream/consumers'
import { writeProjectFile } from '../src/core/stored/project-file'
import { reasonOf } from '../src/core/words/reason'
import { type Command, WrongUse, print, tell, parseWords } from './command'
import { openProject } from './project'
import { editing } from './steps'

export const editCommand: Command = {
  usage: 'edit PROJECT.json STEPS.jsonl|- > PROJECT.json',
  summary:
    'Does steps to a project, a JSON line each: place, cut, trim, slip, move, remove, closeGaps, link, unlink, treat, rule, correct, replace, timeline, nest, unnest, carry, point, restore, undo, redo.',
  options: [['-', 'steps from standard input']],
  example: `echo '{"do":"cut","timeline":"Main cut","frame":100}' | tally edit film.json - > cut.json`,
  async run(args) {
    const { positionals } = parseWords(args)
    const [path, steps] = positionals
    if (path === undefined || steps === undefined || positionals.length > 2)
      throw new WrongUse('A project file and a file of steps are needed.')
    const doc = await openProject(path)
    if (!doc) return 1
    const text = await (steps === '-' ? textOf(process.stdin) : readFile(steps, 'utf8')).catch(
      (error: unknown) => {
        tell(`${steps}: ${reasonOf(error)}`)
        return null
      },
    )
    if (text === null) return 1
    const project = editing(doc)
    let status = 0
    for (const [i, line] of text.split('\n').entries()) {
      if (!line.trim()) continue
      let step: unknown
      let why: string | null = null
      try {
        step = JSON.parse(line)
      } catch {
        why = 'This is no JSON.'
      }
      why ??= project.step(step)
      if (why === null) continue
      status = 1
      tell(`Line ${i + 1}: refused: ${why}`)
    }
    print(writeProjectFile(project.doc()))
    return status
  },
}
