/** The luma of a decoded frame, row by row without gaps, 8 bits a sample; deeper pictures are shifted down. */
export interface Luma {
  readonly width: number
  readonly height: number
  readonly data: Uint8Array
}
