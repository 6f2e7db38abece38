import { SoundTouch } from 'soundtouchjs'
import type { Channels } from '../../core/sound/mix'

/** Sound at another speed and the same pitch, stretch after stretch. */
export interface Stretched {
  /** As many samples as are wanted, going on where the last ones ended. */
  next(count: number): Promise<Channels>
}

/** Sound is taken in pieces of so many samples. */
const piece = 4096

/**
 * How the package takes sound apart, in milliseconds: pieces of so long, joined over so long, each sought so far around its place. Short,
 * so that what is heard stays where it belongs: within a piece it passes at its own speed.
 */
const [sequence, overlap, seek] = [30, 8, 10]

/** The lengths of a package's pieces in samples, as it rounds them. */
function lengthsAt(sampleRate: number) {
  return {
    piece: Math.floor((sampleRate * sequence) / 1000),
    sought: Math.floor((sampleRate * seek) / 1000),
  }
}

/**
 * By how many samples of the source what comes out of a stretcher is ahead of its place: the middle of where it seeks, and half a piece,
 * within which the source passes at its own speed instead of the wanted one.
 */
export function aheadOf(speed: number, sampleRate: number): number {
  const { piece: whole, sought } = lengthsAt(sampleRate)
  return sought / 2 + ((1 - speed) * whole) / 2
}

/** Steps of the search for where a piece fits best, coarse first, in samples. */
const [coarse, fine] = [16, 1]
/** A fit at the far ends of the search has to be better by so much than one in its middle: sound stays in its place. */
const towardsMiddle = 0.6

/**
 * Where the next piece fits best on the end of the last one: near the middle of where it is sought, for the package itself takes the
 * first that fits.
 */
function bestFit(stretch: SoundTouch['stretch']): number {
  const { seekLength } = stretch
  const middle = Math.floor(seekLength / 2)
  stretch.preCalculateCorrelationReferenceStereo()
  const fit = (offset: number) => {
    const away = (offset - middle) / Math.max(1, middle)
    const like = stretch.calculateCrossCorrelationStereo(2 * offset, stretch.refMidBuffer)
    return like > 0 ? like * (1 - towardsMiddle * away * away) : like
  }
  let [best, found] = [middle, fit(middle)]
  const look = (from: number, to: number, step: number) => {
    for (let offset = Math.max(0, from); offset < Math.min(seekLength, to); offset += step) {
      const value = fit(offset)
      if (value > found) [best, found] = [offset, value]
    }
  }
  look(middle % coarse, seekLength, coarse)
  look(best - coarse, best + coarse + 1, fine)
  return best
}

/**
 * Stretches sound in time. What comes out is in its place where the source is begun `aheadOf` samples before it.
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
      pair.stretch.setParameters(sampleRate, sequence, seek, overlap)
      pair.stretch.seekBestOverlapPosition = () => bestFit(pair.stretch)
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
      const stretched = Array.from({ length: channels }, () => new Float32Array(count))
      pairs.forEach((pair, i) => {
        const both = new Float32Array(2 * count)
        pair.outputBuffer.receiveSamples(both, count)
        for (let n = 0; n < count; n++) {
          const [left, right] = [stretched[2 * i], stretched[2 * i + 1]]
          if (left) left[n] = both[2 * n] as number
          if (right) right[n] = both[2 * n + 1] as number
        }
      })
      return stretched
    },
  }
}
