import { type Card } from '../model/clip'
import { type Format, formatName } from '../format/format'
import type { Preferences } from '../model/preferences'
import { setProjectFormat } from './operations'
import { deliverableOf } from '../model/deliverable'
import type { Draft } from './draft'
import { type Doc, newProject } from '../model/project'

/** What a project begins with. */
export interface Beginning {
  readonly name: string
  /** What is handed over, where that is known. */
  readonly delivery?: Format
  /** Whether the project works in what is delivered from the start; otherwise its format is openly undecided. */
  readonly decided?: boolean
  readonly habits?: Preferences
  /** The card that clips are taken from; the siding where it is not said. */
  readonly card?: Card
}

/** A new project: named, with what is to be delivered, its format decided with the reason or openly undecided. */
export function begin(id: string, at: string, { name, delivery, decided, habits, card }: Beginning): Doc {
  const project = newProject(id, name.trim() || 'Untitled', at)
  const doc: Doc = {
    project: {
      ...project,
      card: card ?? project.card,
      mains: habits?.mains ?? project.mains,
      onMismatch: habits?.onMismatch ?? project.onMismatch,
      deliverables: delivery ? [deliverableOf('delivery-1', formatName(delivery), delivery)] : [],
    },
    clips: {},
    timelines: {},
    leftAside: {},
  }
  if (delivery && decided) {
    const reason = `Worked in as it is delivered, ${formatName(delivery)}; no footage was weighed yet.`
    setProjectFormat(doc as Draft<Doc>, { at, setBy: 'delivery', format: delivery, reason })
  }
  return doc
}
