import { type Result, failure } from '../result'
import * as z from 'zod'
import { OwnFormat } from '../model/preferences'
import { objections } from '../format/standard'
import { type Kind, damage, openEnvelope } from './envelope'

const kind: Kind = { kind: 'yard-tally-formats', what: 'a list of formats', version: 1 }

const FormatFile = z.object({
  kind: z.literal(kind.kind),
  version: z.literal(kind.version),
  formats: z.array(OwnFormat.omit({ id: true })),
})
export type NamedFormat = z.infer<typeof FormatFile>['formats'][number]

/** Own formats as one JSON text, in the order in which they are kept. */
export function writeFormatFile(formats: readonly NamedFormat[]): string {
  const file: z.input<typeof FormatFile> = {
    kind: kind.kind,
    version: kind.version,
    formats: formats.map(({ name, format }) => ({ name, format })),
  }
  return JSON.stringify(file, null, 1)
}

/** Reads own formats back; all of them or none. One that no project could run in is refused with the reason. */
export function readFormatFile(text: string): Result<{ value: NamedFormat[] }> {
  const opened = openEnvelope(text, kind)
  if (!opened.ok) return opened
  const parsed = FormatFile.safeParse(opened.value)
  if (!parsed.success) return failure(damage(parsed.error))
  for (const { name, format } of parsed.data.formats) {
    const [objection] = objections(format)
    if (objection) return failure(`“${name}” cannot be used: ${objection} Nothing was changed.`)
  }
  return { ok: true, value: parsed.data.formats }
}
