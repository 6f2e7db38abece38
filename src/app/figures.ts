import dayjs from 'dayjs'
import { type Clip } from '../core/edit/clip'
import { rateWithScan } from '../core/rate/rate'

/** A clip's running time for a column: `0:38`, `2:05`, `1:02:03`; a dash where it has none. */
export function clockTime(seconds: number | null | undefined): string {
  if (seconds === null || seconds === undefined) return '–'
  const whole = Math.round(seconds)
  const two = (n: number) => String(n).padStart(2, '0')
  const hours = Math.floor(whole / 3600)
  const minutes = Math.floor(whole / 60) % 60
  return hours ? `${hours}:${two(minutes)}:${two(whole % 60)}` : `${minutes}:${two(whole % 60)}`
}

/** A count with its noun: `1 clip`, `3 clips`. */
export const counted = (count: number, noun: string, several = `${noun}s`): string =>
  `${count} ${count === 1 ? noun : several}`

/** A file's size: `212 MB`. */
export function fileSize(bytes: number): string {
  const units = ['B', 'kB', 'MB', 'GB', 'TB']
  let [value, unit] = [bytes, 0]
  while (value >= 1000 && unit < units.length - 1) {
    value /= 1000
    unit++
  }
  return `${unit === 0 || value >= 100 ? Math.round(value) : value.toFixed(1)} ${units[unit]}`
}

/** A clip's size as it stands upright: `1080×1920`. */
export function uprightSizeName(clip: Clip): string {
  const video = clip.reading?.video
  if (!video) return '–'
  return video.rotation % 180 === 0 ? `${video.width}×${video.height}` : `${video.height}×${video.width}`
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

export const clockOf = (iso: string): string => dayjs(iso).format('HH:mm')
