/** How many times as fast as it sounds stereo is measured: strikes that swell and die away, with noise. */
import { loudnessMeter } from '../../src/core/sound/loudness'
import { sized } from './size'

export function measureLoudness(): number {
  const [rate, seconds, times] = [48_000, 5, sized(24, 1)]
  const sound = Float32Array.from(
    { length: rate * seconds },
    (_, i) => 0.8 * Math.sin(i * 0.05) * Math.exp(-(i % rate) / 9000) + 0.02 * Math.sin(i * i),
  )
  const meter = loudnessMeter(2, rate)
  const before = performance.now()
  for (let n = 0; n < times; n++) meter.add([sound, sound])
  meter.measured()
  return (seconds * times) / ((performance.now() - before) / 1000)
}
