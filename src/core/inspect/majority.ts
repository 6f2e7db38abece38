import { type Clip } from '../model/clip'
import { percent, ratio } from '../words/figures'
import { rateLabel, uprightSizeName } from './labels'

/** What most of the running time is, for size and for rate: ` · most of it 3840×2160 (51 %) and 25p (62 %)`. */
export function majorities(clips: readonly Clip[]): string {
  const total = clips.reduce((sum, clip) => sum + (clip.reading?.durationSec ?? 0), 0)
  if (total === 0) return ''
  /** Clips that are alike are called by name once: of ten thousands that counts. */
  const most = (alike: (clip: Clip) => string, label: (clip: Clip) => string) => {
    const kinds = new Map<string, { readonly clip: Clip; seconds: number }>()
    for (const clip of clips) {
      const key = alike(clip)
      const known = kinds.get(key)
      if (known) known.seconds += clip.reading?.durationSec ?? 0
      else kinds.set(key, { clip, seconds: clip.reading?.durationSec ?? 0 })
    }
    const seconds = new Map<string, number>()
    for (const kind of kinds.values())
      seconds.set(label(kind.clip), (seconds.get(label(kind.clip)) ?? 0) + kind.seconds)
    const [name, time] = [...seconds].reduce((a, b) => (b[1] > a[1] ? b : a))
    return `${name} (${percent(time / total)})`
  }
  const size = ({ reading }: Clip) => {
    const video = reading?.video
    return video ? `${video.width} ${video.height} ${video.rotation} ${ratio(video.pixelAspect)}` : ''
  }
  const rate = ({ reading }: Clip) => {
    const video = reading?.video
    return video
      ? `${video.rate ? ratio(video.rate) : ''} ${video.scan} ${video.rateMode} ${video.meanRate ?? ''}`
      : ''
  }
  return ` · most of it ${most(size, uprightSizeName)} and ${most(rate, rateLabel)}`
}
