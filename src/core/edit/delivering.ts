import { formatName } from '../format/format'
import type { Format } from '../format/format'
import { type Deliverable, deliverableOf } from '../model/deliverable'
import type { Doc } from '../model/project'
import type { Proof } from '../model/proof'
import { freeName } from '../words/free-name'
import type { Draft } from './draft'

const nameFor = ({ project }: Draft<Doc>, wanted: string): string =>
  freeName(
    wanted,
    project.deliverables.map(({ name }) => name),
  )

/** A deliverable more, of a timeline, under a name of its own: that of its format. */
export function addDeliverable(doc: Draft<Doc>, id: string, format: Format, timelineId: string | null): void {
  const deliverable = { ...deliverableOf(id, nameFor(doc, formatName(format)), format), timelineId }
  doc.project.deliverables.push(deliverable as Draft<Deliverable>)
}

/** Puts a deliverable in the place of the one of its id; what was proven was another file's. Nothing where there is none. */
export function changeDeliverable(doc: Draft<Doc>, next: Deliverable): void {
  const at = doc.project.deliverables.findIndex(({ id }) => id === next.id)
  if (at >= 0) doc.project.deliverables[at] = { ...next, proof: null }
}

/** Keeps what was found in the file of a deliverable. Nothing where there is none. */
export function keepProof(doc: Draft<Doc>, id: string, proof: Proof): void {
  const deliverable = doc.project.deliverables.find((other) => other.id === id)
  if (deliverable) deliverable.proof = proof as Draft<Proof>
}

/** The same once more under another name, to be changed; nothing was made of it yet. */
export function copyDeliverable(doc: Draft<Doc>, id: string, newId: string): void {
  const deliverable = doc.project.deliverables.find((other) => other.id === id)
  if (!deliverable) return
  doc.project.deliverables.push({
    ...deliverable,
    id: newId,
    name: nameFor(doc, deliverable.name),
    proof: null,
  })
}

/** Takes one deliverable out, with its settings and its proof; others of the same format stay. */
export function removeDeliverable(doc: Draft<Doc>, id: string): void {
  doc.project.deliverables = doc.project.deliverables.filter((deliverable) => deliverable.id !== id)
}

/** What goes with a deliverable that is taken out, beyond its format: `its settings and the proof of its file`; null for nothing. */
export function goesWith({
  wrapper,
  video,
  sound,
  treatment,
  range,
  burnIn,
  proof,
}: Deliverable): string | null {
  const isSet =
    wrapper !== null ||
    video !== null ||
    sound !== null ||
    range !== null ||
    burnIn ||
    Object.keys(treatment).length > 0
  const parts = [isSet && 'its settings', proof && `the proof of ${proof.file}`].filter(
    (part) => part !== false,
  )
  return parts.filter(Boolean).join(' and ') || null
}
