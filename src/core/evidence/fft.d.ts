/** The part of the package that is used here. */
declare module 'fft.js' {
  export default class FFT {
    constructor(size: number)
    readonly size: number
    createComplexArray(): number[]
    realTransform(out: number[], data: ArrayLike<number>): void
    completeSpectrum(spectrum: number[]): void
    inverseTransform(out: number[], data: number[]): void
  }
}
