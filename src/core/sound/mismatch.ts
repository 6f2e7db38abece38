import { counted, kilohertz } from '../words/figures'
import { type SoundLayout, channelsOf } from './mix'

/** Sound as a file carries it. */
export interface SoundShape {
  readonly sampleRate: number | null
  readonly channels: number | null
}

/** What becomes of sound that is not as a timeline's, a sentence for each difference; none where it goes in as it is. */
export function soundMismatches(
  source: SoundShape,
  timeline: { readonly sampleRate: number; readonly soundLayout: SoundLayout },
): string[] {
  const said: string[] = []
  const { sampleRate, channels } = source
  if (sampleRate !== null && sampleRate !== timeline.sampleRate) {
    const lost =
      sampleRate > timeline.sampleRate ? `; nothing above ${kilohertz(timeline.sampleRate / 2)} stays` : ''
    said.push(`${kilohertz(sampleRate)}, resampled to ${kilohertz(timeline.sampleRate)}${lost}`)
  }
  const wanted = channelsOf[timeline.soundLayout]
  if (channels !== null && channels !== wanted)
    said.push(`${counted(channels, 'channel')}, ${becomes(channels, timeline.soundLayout)}`)
  return said
}

/** Where the channels of a source are heard: as `downmix` lays them. */
function becomes(channels: number, layout: SoundLayout): string {
  if (layout === 'mono') return 'mixed to one'
  if (layout === '5.1')
    return channels === 1 ? 'in the middle one' : 'on the left and the right, the other four silent'
  if (channels === 1) return 'on both sides alike'
  if (channels === 6) return 'mixed to left and right by BS.775, low frequencies left out'
  return 'in turn on the left and on the right'
}
