import { type Ref, onBeforeUnmount, ref, watch } from 'vue'
import type { Clip } from '../../../../core/model/clip'
import type { EvidenceView } from '../../../../media/evidence-view'
import { useMedia } from '../../../../stores/media'
import type { View } from './views'

/** What has to be computed of a frame for a view; the others are drawn from what is known. */
const needed: Readonly<Partial<Record<View, EvidenceView['about']>>> = {
  combs: 'combs',
  repeats: 'repeats',
  detail: 'detail',
}

/** The proof of a frame for a view, made anew when either changes; only the newest wish is followed. */
export function useEvidenceView(clip: () => Clip, view: Ref<View>, frame: Ref<number>) {
  const media = useMedia()
  const proof = ref<EvidenceView | null>(null)
  const trouble = ref<string | null>(null)
  let wish = new AbortController()
  watch(
    [view, frame, () => clip().id],
    async () => {
      wish.abort()
      wish = new AbortController()
      const { signal } = wish
      const about = needed[view.value]
      trouble.value = null
      if (proof.value?.about !== about) proof.value = null
      if (!about) return
      try {
        const answer = await media.proofAt(clip(), frame.value, about, signal)
        if (signal.aborted) return
        proof.value = answer.ok ? answer.proof : null
        trouble.value = answer.ok ? null : answer.error
      } catch (error) {
        if (!signal.aborted) throw error
      }
    },
    { immediate: true },
  )
  onBeforeUnmount(() => wish.abort())
  return { proof, trouble }
}
