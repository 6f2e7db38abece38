import { present } from '../../core/assert'
import { type Profile, codecOf, perChroma } from '../../core/dispatch/codecs'
import { layersAt } from '../../core/plan/layers'
import { formatOf } from '../../core/model/project'
import type { Timeline } from '../../core/model/timeline'
import type { Format } from '../../core/format/format'
import type { Planes } from '../../core/planes/planes'
import { chromaSiting } from '../../core/resample/picture'
import { stamped } from '../../core/compose/stamp'
import { contentKey, frameOfClip } from '../frame-locator'
import { burntIn, burntWords } from './burn-in'
import type { composer } from './composer'
import { type LocateFrame, compositionOf } from './compositions'
import type { RenderPlan } from './plan'

/** What a render makes, and a proof looks for: each frame of what goes out, in the samples of its profile. */
export interface PlannedFrames {
  readonly timeline: Timeline
  readonly format: Format
  readonly profile: Profile
  /** @throws Error in a sentence, where a source cannot be had */
  planesAt(n: number, signal: AbortSignal): Promise<Planes>
}

export function plannedFrames(
  { doc, timelineId, deliverable, locators }: RenderPlan,
  compose: ReturnType<typeof composer>['planes'],
): PlannedFrames {
  const timeline = present(doc.timelines[timelineId], 'what goes out is in its document')
  const format = present(formatOf(doc, timeline), 'what goes out has a format')
  const { profile } = present(codecOf(deliverable.video), 'what goes out is said in full')
  const [across, down] = perChroma[profile.chroma]
  const composing = { bitDepth: profile.bitDepth, siting: chromaSiting({ across, down }, '') }
  const { width, height } = format
  const wanted: LocateFrame = (clip, index) =>
    frameOfClip(clip, index, (clip) => locators[contentKey(clip)] ?? null)
  return {
    timeline,
    format,
    profile,
    async planesAt(n, signal) {
      const composition = await compositionOf(doc, layersAt(doc, timeline, n), format, wanted, { composing })
      const { planes, trouble } = await compose(composition, { x: 0, y: 0, width, height }, signal)
      if (trouble) throw new Error(trouble)
      return deliverable.burnIn
        ? stamped(planes, await burntIn(burntWords(doc, timeline, n), format))
        : planes
    },
  }
}
