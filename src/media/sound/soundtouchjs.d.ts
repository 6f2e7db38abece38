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
      setParameters(sampleRate: number, sequenceMs: number, seekWindowMs: number, overlapMs: number): void
    }
    process(): void
  }
}
