import { randomUUID } from 'node:crypto'
import { readFile } from 'node:fs/promises'
import { basename, dirname } from 'node:path'
import { begin } from '../src/core/edit/begin'
import { change } from '../src/core/edit/change'
import { arrivedClip } from '../src/core/model/clip'
import type { Draft } from '../src/core/edit/draft'
import { addTimeline, setProjectFormat, takeIn } from '../src/core/edit/operations'
import type { Doc } from '../src/core/model/project'
import type { Timeline } from '../src/core/model/timeline'
import { fromEdl } from '../src/core/exchange/edl-read'
import { fromOtio } from '../src/core/exchange/otio-read'
import { writeProjectFile } from '../src/core/stored/project-file'
import { addedTimelines } from '../src/core/exchange/take-in'
import { formatName } from '../src/core/format/format'
import { reasonOf } from '../src/core/words/reason'
import { type Command, WrongUse, print, readFormat, tell, parseWords } from './command'
import { openProject } from './project'
import { givenTo } from './readings'

export const importCommand: Command = {
  usage:
    'import [--format FORMAT] [--project PROJECT.json] [--clips READINGS.jsonl] CUT.edl|CUT.otio > PROJECT.json',
  summary: 'A cut of another program as a project; its clips are those of a project, or were read before.',
  options: [
    ['--format FORMAT', 'at whose rate an edit decision list counts; the project’s otherwise'],
    ['--project PROJECT.json', 'the project that it is added to'],
    ['--clips READINGS.jsonl', 'clips as lines of inspect --json'],
  ],
  example:
    'tally inspect --json card > card.jsonl; tally import --format 1920x1080@25p --clips card.jsonl cut.edl > film.json',
  async run(args) {
    const { positionals, values } = parseWords(args, {
      format: { type: 'string' },
      project: { type: 'string' },
      clips: { type: 'string' },
    })
    const [path] = positionals
    if (path === undefined || positionals.length > 1)
      throw new WrongUse('One cut is needed: an EDL or OTIO file.')
    const format = values.format === undefined ? null : readFormat(String(values.format), '1920x1080@25p')
    const text = await readFile(path, 'utf8').catch((error: unknown) => {
      tell(`${path}: ${reasonOf(error)}`)
      return null
    })
    if (text === null) return 1
    const at = new Date().toISOString()
    const opened =
      values.project === undefined
        ? begin(randomUUID(), at, { name: basename(path).replace(/\.[^.]*$/, '') })
        : await openProject(String(values.project))
    if (!opened) return 1
    let status = 0
    const doc = structuredClone(opened) as Draft<Doc>
    if (values.clips !== undefined)
      for await (const { file, result } of givenTo([], { readings: values.clips }, () => (status = 1))) {
        const folder = dirname(file) === '.' ? '' : dirname(file).replace(/^\/+/, '')
        const sizeBytes = result.reading?.sizeBytes ?? 0
        const place = { name: basename(file), folder, sizeBytes, hash: null }
        takeIn(doc, [
          arrivedClip({ id: randomUUID(), ...place, source: { kind: 'file' }, arrivedAt: at }, result),
        ])
      }
    if (format && !doc.project.format)
      setProjectFormat(doc, { at, setBy: 'typed', format, reason: `Typed: ${formatName(format)}.` })
    const making = { name: basename(path), at, newId: randomUUID }
    const read = readCut(text, doc, making, format)
    if (!read.ok) {
      tell(`${path}: ${read.error}`)
      return 1
    }
    const changed = change(
      doc,
      (draft) => {
        for (const timeline of addedTimelines(doc, read.timelines, making)) addTimeline(draft, timeline)
      },
      randomUUID,
    )
    if (!changed.ok) {
      tell(`${path}: ${changed.error} Nothing was changed.`)
      return 1
    }
    for (const note of read.notes) tell(note)
    print(writeProjectFile(changed.doc))
    return status
  },
}

/** A cut as timelines: OpenTimelineIO is JSON, an edit decision list is not. */
function readCut(...[text, doc, making, format]: Parameters<typeof fromEdl>) {
  if (text.trimStart().startsWith('{')) return fromOtio(text, doc, making)
  const read = fromEdl(text, doc, making, format)
  return read.ok ? { ...read, timelines: [read.timeline] as readonly Timeline[] } : read
}
