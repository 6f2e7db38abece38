import { randomUUID } from 'node:crypto'
import { basename, dirname, relative } from 'node:path'
import { asideKind } from '../src/core/reading/aside'
import { begin } from '../src/core/edit/begin'
import { type Clip, arrivedClip, placeOf } from '../src/core/model/clip'
import type { Draft } from '../src/core/edit/draft'
import { addTimeline, setProjectFormat, takeIn } from '../src/core/edit/operations'
import { putAtEnd } from '../src/core/edit/arranging'
import { newTimeline, placedClip } from '../src/core/edit/placing'
import type { Doc } from '../src/core/model/project'
import { writeProjectFile } from '../src/core/stored/project-file'
import { formatName } from '../src/core/format/format'
import { counted } from '../src/core/words/figures'
import { hashOf, withEnds } from '../src/media/source'
import { type Command, WrongUse, print, readFormat, tell, parseWords } from './command'
import { withSource } from './read-file'
import { type ReadFound, jobsOption, readAll } from './jobs'

export const newCommand: Command = {
  usage: 'new [--format FORMAT] [--name NAME] [--cut NAME] [--jobs N] FILE… > PROJECT.json',
  summary:
    'A project file from clips and a format; the app imports it, and files are found by what they hold.',
  options: [
    ['--format FORMAT', 'the project’s format, as in 1920x1080@25p; openly undecided otherwise'],
    ['--name NAME', 'what the project is called'],
    ['--cut NAME', 'a timeline of that name with every clip, one after the other'],
    ['--jobs N', 'reads with N workers'],
  ],
  example: 'tally new --format 1920x1080@25p --cut Rushes card/* > film.json',
  async run(args) {
    const { positionals, values } = parseWords(args, {
      format: { type: 'string' },
      name: { type: 'string' },
      cut: { type: 'string' },
      ...jobsOption,
    })
    if (positionals.length === 0) throw new WrongUse('At least one file or folder is needed.')
    const format = values.format === undefined ? null : readFormat(String(values.format), '1920x1080@25p')
    if (values.cut !== undefined && !format)
      throw new WrongUse('A cut needs the format that it runs in: --format 1920x1080@25p.')
    const at = new Date().toISOString()
    const doc = begin(randomUUID(), at, { name: String(values.name ?? 'Untitled') }) as Draft<Doc>
    let [status, aside] = [0, 0]
    for await (const readFound of readAll(positionals, values)) {
      const clip = await clipOf(readFound, positionals, at)
      if (!clip) aside++
      else {
        takeIn(doc, [clip])
        if (clip.fault) {
          status = 1
          tell(`${readFound.found.path}: ${clip.fault.message}`)
        }
      }
    }
    if (format) setProjectFormat(doc, { at, setBy: 'typed', format, reason: `Typed: ${formatName(format)}.` })
    if (format && values.cut !== undefined) {
      const timeline = newTimeline(randomUUID(), String(values.cut), at, null)
      addTimeline(doc, { ...timeline, rate: format.rate })
      placeAll(doc, timeline.id)
    }
    if (aside)
      tell(`${counted(aside, 'file')} that ${aside === 1 ? 'is no clip' : 'are no clips'} left aside.`)
    print(writeProjectFile(doc))
    return status
  },
}

/** A clip of what was read; null of a file of a card that is none. A file that cannot be read is kept with the reason. */
async function clipOf(
  { found: { path }, result }: ReadFound,
  roots: readonly string[],
  at: string,
): Promise<Clip | null> {
  // The folder is told from where the arguments begin, as it is of a folder that is taken in.
  const root = roots.find((root) => path.startsWith(`${root}/`))
  const folder = root ? relative(dirname(root), dirname(path)) : ''
  const found = await withSource(path, async (bytes) => {
    const source = await withEnds(bytes)
    return {
      sizeBytes: bytes.size,
      hash: await hashOf(source),
      head: source.head.subarray(0, 512),
    }
  }).catch(() => ({ sizeBytes: 0, hash: null, head: new Uint8Array() }))
  const place = { folder, name: basename(path) }
  if (asideKind(placeOf(place), found.sizeBytes, found.head, result)) return null
  const { sizeBytes, hash } = found
  return arrivedClip(
    { id: randomUUID(), ...place, sizeBytes, hash, source: { kind: 'file' }, arrivedAt: at },
    result,
  )
}

/** Every clip that can be placed, one after the other, sound beneath its picture. */
function placeAll(doc: Draft<Doc>, timelineId: string): void {
  const format = doc.project.format
  if (!format) return
  for (const id of [...doc.project.clipOrder]) {
    const clip = doc.clips[id] as Clip | undefined
    if (!clip?.reading || clip.fault) continue
    const wanted = placedClip(clip, format, null, [randomUUID(), randomUUID(), randomUUID()])
    putAtEnd(doc, timelineId, wanted, randomUUID)
  }
}
