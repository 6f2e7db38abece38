import { type Result, failure } from '../result'
import { type Patch, enablePatches, produceWithPatches } from 'immer'
import type { Draft } from './draft'
import { settleLinks } from './links'
import type { Doc } from '../model/project'
import { wrongSince } from '../model/integrity'

enablePatches()

/** What came of an edit: the document after it and the patches to it and back; or why it was refused, and nothing is changed. */
export type Changed = Result<{ doc: Doc; patches: Patch[]; inverse: Patch[] }>

/** Thrown by a recipe that cannot do what is asked: why, in a sentence. Nothing is changed then. */
export class Refused extends Error {}

type Recipe = (draft: Draft<Doc>) => void

const produced = (doc: Doc, recipe: Recipe) =>
  produceWithPatches(doc as object, (draft) => recipe(draft as Draft<Doc>)) as unknown as [
    Doc,
    Patch[],
    Patch[],
  ]

/**
 * The one door through which a document is changed, whoever changes it: the recipe, then what follows from it for links; and what
 * could not be kept afterwards (it does not pass its own schema, or contradicts itself) is refused.
 */
export function change(doc: Doc, recipe: Recipe, newId: () => string): Changed {
  let edited: Doc, patches: Patch[], inverse: Patch[]
  try {
    ;[edited, patches, inverse] = produced(doc, recipe)
  } catch (error) {
    if (error instanceof Refused) return failure(error.message)
    throw error
  }
  if (patches.length === 0) return { ok: true, doc, patches, inverse }
  const [settled, more, moreBack] = produced(edited, (draft) => settleLinks(draft, doc, edited, newId))
  const error = wrongSince(doc, settled)
  if (error !== null) return { ok: false, error }
  return { ok: true, doc: settled, patches: [...patches, ...more], inverse: [...moreBack, ...inverse] }
}
