import { type Clip } from '../../../core/edit/clip'
import { percent } from '../../../core/words/figures'
import { rateLabel, uprightSizeName } from '../../figures'

/** What most of the running time is, for size and for rate: ` · most of it 3840×2160 (51 %) and 25p (62 %)`. */
export function majorities(clips: readonly Clip[]): string {
  const total = clips.reduce((sum, clip) => sum + (clip.reading?.durationSec ?? 0), 0)
  if (total === 0) return ''
  const most = (label: (clip: Clip) => string) => {
    const seconds = new Map<string, number>()
    for (const clip of clips)
      seconds.set(label(clip), (seconds.get(label(clip)) ?? 0) + (clip.reading?.durationSec ?? 0))
    const [name, time] = [...seconds].reduce((a, b) => (b[1] > a[1] ? b : a))
    return `${name} (${percent(time / total)})`
  }
  return ` · most of it ${most(uprightSizeName)} and ${most(rateLabel)}`
}
