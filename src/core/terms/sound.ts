import { type Loudness, loudnessMeter } from '../sound/loudness'
import { figure } from '../words/figures'
import { type DrawnShape, boxWidth, still, drawnText } from './drawing'
import type { Term } from './term'

const sampleRate = 48_000
/** Two seconds of a tone with an envelope, as it is measured. */
function tone(gain: number, often: number): Float32Array {
  return Float32Array.from({ length: sampleRate * 2 }, (_, n) => {
    const t = n / sampleRate
    return gain * Math.max(0.03, Math.sin(Math.PI * often * t) ** 8) * Math.sin(2 * Math.PI * 440 * t)
  })
}
function measured(sound: Float32Array): Loudness {
  const meter = loudnessMeter(1, sampleRate)
  meter.add([sound])
  return meter.measured()
}
const lufs = ({ integratedLufs }: Loudness) => `${figure(integratedLufs ?? 0).replace('-', '−')} LUFS`
const wave = (sound: Float32Array, y: number, height: number): DrawnShape => {
  const columns = 200
  const step = Math.floor(sound.length / columns)
  const peaks = Array.from({ length: columns }, (_, i) =>
    sound.subarray(i * step, (i + 1) * step).reduce((most, value) => Math.max(most, Math.abs(value)), 0),
  )
  const x = (i: number) => (i / (columns - 1)) * boxWidth
  return {
    kind: 'path',
    fill: 'ink',
    points: [
      ...peaks.map((peak, i) => [x(i), y - peak * height] as const),
      ...peaks.map((peak, i) => [x(i), y + peak * height] as const).reverse(),
    ],
  }
}
const loudness = still(
  'Two sounds with the same peaks: strikes with silence between them measure far softer than a tone that stays.',
  () => {
    const [strikes, steady] = [tone(0.8, 2), tone(0.8, 0.25)]
    return [
      drawnText(0, 12, `strikes: ${lufs(measured(strikes))}`),
      wave(strikes, 36, 18),
      drawnText(0, 74, `a tone that swells: ${lufs(measured(steady))}`),
      wave(steady, 98, 18),
    ]
  },
)

/** A tone at a quarter of the clock, sampled beside its peaks. */
const quarter = Float32Array.from({ length: sampleRate / 2 }, (_, n) =>
  Math.sin((Math.PI / 2) * n + Math.PI / 4),
)
const truePeak = still(
  'A full wave sampled beside its peaks: the samples reach −3.0 dB, the wave itself 0.0 dB.',
  () => {
    const { samplePeakDbfs, truePeakDbtp } = measured(quarter)
    const count = 12
    const x = (n: number) => 8 + (n / count) * (boxWidth - 16)
    const y = (value: number) => 50 - value * 38
    return [
      {
        kind: 'path',
        stroke: 'quiet',
        points: Array.from({ length: 121 }, (_, i) => {
          const n = (i / 120) * count
          return [x(n), y(Math.sin((Math.PI / 2) * n + Math.PI / 4))] as const
        }),
      },
      ...Array.from({ length: count + 1 }, (_, n): DrawnShape => ({
        kind: 'ellipse',
        x: x(n),
        y: y(quarter[n] ?? 0),
        rx: 3,
        ry: 3,
        fill: 'ink',
      })),
      drawnText(
        0,
        112,
        `samples ${figure(samplePeakDbfs ?? 0).replace('-', '−')} dB, the wave ${figure(truePeakDbtp ?? 0).replace('-', '−')} dB`,
      ),
    ]
  },
)

/** Sound. */
export const soundTerms: readonly Term[] = [
  {
    id: 'loudness',
    name: 'Loudness',
    also: ['loudness', 'LUFS'],
    says: 'How loud a sound is heard over its whole length, by ITU-R BS.1770, in LUFS; silence is left out.',
    costs:
      'Clips of different loudness jump at each cut; a delivery off its target is refused or turned down.',
    drawing: loudness,
    ofClip: ({ clip }) =>
      clip.reading?.audio.length ? 'Its loudness is told in Timelines, under sound.' : 'It has no sound.',
  },
  {
    id: 'true-peak',
    name: 'True peak',
    also: ['true peak', 'peak'],
    says: 'The highest the wave itself goes, also between samples, in dBTP.',
    costs: 'Samples that stay below full scale may still clip once they are encoded or played.',
    drawing: truePeak,
  },
]
