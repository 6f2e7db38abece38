import { onScopeDispose, watchEffect } from 'vue'
import type { Clip } from '../../../core/model/clip'
import type { Format } from '../../../core/format/format'
import { useTerms } from './terms'

/** While a docket shows a clip, terms are told of it too. */
export function useInHand(clip: () => Clip | null, format: () => Format | null): void {
  const terms = useTerms()
  watchEffect(() => {
    const held = clip()
    terms.inHand = held && { clip: held, format: format() }
  })
  onScopeDispose(() => (terms.inHand = null))
}
