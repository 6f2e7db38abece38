/** What is used of the package that stretches sound in time. Samples are pairs, left and right in turn. */
declare module 'soundtouchjs' {
  interface Fifo {
    readonly frameCount: number
    putSamples(samples: Float32Array, position: number, frames: number): void
    receiveSamples(into: Float32Array, frames: number): void
  }
  export class SoundTouch {
    tempo: number
    readonly inputBuffer: Fifo
    readonly outputBuffer: Fifo
    readonly stretch: {
      readonly seekLength: number
      readonly refMidBuffer: Float32Array
      preCalculateCorrelationReferenceStereo(): void
      calculateCrossCorrelationStereo(position: number, reference: Float32Array): number
      seekBestOverlapPosition: () => number
      setParameters(sampleRate: number, sequenceMs: number, seekWindowMs: number, overlapMs: number): void
    }
    process(): void
  }
}
