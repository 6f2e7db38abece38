import { type Clip } from '../model/clip'
import { sizeName } from '../format/format'
import { uprightSize } from '../picture/turn'
import { rateWithScan } from '../rate/rate'

/** A clip's size as it stands upright: `1080×1920`. */
export function uprightSizeName(clip: Clip): string {
  const video = clip.reading?.video
  if (!video) return '–'
  return sizeName(uprightSize(video))
}

/** A clip's rate: `25p`, `50i`, `~30` where it varies, `still`. */
export function rateLabel(clip: Clip): string {
  const reading = clip.reading
  if (!reading?.video) return '–'
  if (reading.kind === 'still') return 'still'
  const { rate, rateMode, scan } = reading.video
  if (!rate) return '?'
  return rateMode === 'variable' ? `~${rateWithScan(rate, null)} v` : rateWithScan(rate, scan)
}

/** A clip's codec without its profile, for a narrow column: the useful end of a name is its beginning. */
export const codecName = (clip: Clip): string => {
  const { video, audio } = clip.reading ?? { video: null, audio: [] }
  return video ? video.codec + (video.alpha ? ', alpha' : '') : (audio[0]?.codec ?? '–')
}

/** A clip's codec with its profile or depth. */
export const codecLabel = (clip: Clip): string => {
  const { video, audio } = clip.reading ?? { video: null, audio: [] }
  if (video) return [video.codec, video.profile].filter(Boolean).join(' ') + (video.alpha ? ', alpha' : '')
  const sound = audio[0]
  return sound ? [sound.codec, sound.bitDepth && `${sound.bitDepth} bit`].filter(Boolean).join(' ') : '–'
}
