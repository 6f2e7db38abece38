import { SoundTouch } from 'soundtouchjs'
import type { Channels } from '../../core/sound/mix'

/** Sound at another speed and the same pitch, stretch after stretch. */
export interface Stretched {
  /** As many samples as are wanted, going on where the last ones ended. */
  next(count: number): Promise<Channels>
}

/** Sound is taken in pieces of so many samples. */
const piece = 4096
/** Left as the package finds best by itself, in milliseconds, but for how far pieces overlap. */
const [byItself, overlap] = [0, 8]

/**
 * Stretches sound in time.
 * @param speed how many seconds of the source pass in one
 * @param take the next samples of the source, at the same rate; silence behind its end
 */
export function stretched(
  speed: number,
  sampleRate: number,
  take: (count: number) => Promise<Channels>,
): Stretched {
  /** One for every two channels: what is taken in is pairs. */
  let pairs: SoundTouch[] = []
  let channels = 0

  function begin(count: number): void {
    channels = count
    pairs = Array.from({ length: Math.ceil(count / 2) }, () => {
      const pair = new SoundTouch()
      pair.tempo = speed
      pair.stretch.setParameters(sampleRate, byItself, byItself, overlap)
      return pair
    })
  }
  async function feed(): Promise<void> {
    const taken = await take(piece)
    if (pairs.length === 0) begin(taken.length)
    pairs.forEach((pair, i) => {
      const [left, right] = [taken[2 * i], taken[2 * i + 1] ?? taken[2 * i]]
      const both = new Float32Array(2 * piece)
      for (let n = 0; n < piece; n++) {
        both[2 * n] = left?.[n] ?? 0
        both[2 * n + 1] = right?.[n] ?? 0
      }
      pair.inputBuffer.putSamples(both, 0, piece)
      pair.process()
    })
  }

  return {
    async next(count) {
      while (pairs.length === 0 || pairs.some((pair) => pair.outputBuffer.frameCount < count)) await feed()
      const made = Array.from({ length: channels }, () => new Float32Array(count))
      pairs.forEach((pair, i) => {
        const both = new Float32Array(2 * count)
        pair.outputBuffer.receiveSamples(both, count)
        for (let n = 0; n < count; n++) {
          const [left, right] = [made[2 * i], made[2 * i + 1]]
          if (left) left[n] = both[2 * n] as number
          if (right) right[n] = both[2 * n + 1] as number
        }
      })
      return made
    },
  }
}
