import type { AudioFacts } from '../reading'

/** What of an elementary stream lay in a stretch of a multiplex: its bytes one after the other, and the times that packets bear. */
export class ElementaryStretch {
  readonly #pieces: Uint8Array[] = []
  #length = 0
  /** Presentation times in ticks of 90 kHz, with where in the bytes the packets begin that bear them. */
  readonly times: { readonly at: number; readonly time: number }[] = []

  /** @param time of the packet that begins with the piece; null where it bears none, or none begins */
  add(piece: Uint8Array, time: number | null): void {
    if (time !== null) this.times.push({ at: this.#length, time })
    if (piece.length === 0) return
    this.#pieces.push(piece)
    this.#length += piece.length
  }

  /** All of it, or its beginning. */
  bytes(most = Infinity): Uint8Array {
    const all = new Uint8Array(Math.min(most, this.#length))
    let at = 0
    for (const piece of this.#pieces) {
      if (at >= all.length) break
      const part = piece.length > all.length - at ? piece.subarray(0, all.length - at) : piece
      all.set(part, at)
      at += part.length
    }
    return all
  }
}

/** A stream that a multiplex declares, or shows by its number. */
export type DeclaredStream =
  | { readonly kind: 'picture'; readonly codec: string | null }
  | {
      readonly kind: 'sound'
      /** As `soundFacts` knows it; null where only its bytes tell. */
      readonly coding: string | null
      /** What is declared beside the stream. */
      readonly facts?: AudioFacts
    }

/** A way of laying streams into one file. What is declared is gathered on the way. */
export interface Demultiplexer {
  readonly container: 'MPEG-TS' | 'MPEG-PS'
  /** By the number of the stream, in the order declared. */
  readonly streams: ReadonlyMap<number, DeclaredStream>
  /**
   * Takes a stretch of the file apart.
   * @param from where in the file its first byte lies
   */
  gather(bytes: Uint8Array, from: number): ReadonlyMap<number, ElementaryStretch>
}

/** Stretches by the number of their stream. */
export class Gathering extends Map<number, ElementaryStretch> {
  of(id: number): ElementaryStretch {
    let found = this.get(id)
    if (!found) this.set(id, (found = new ElementaryStretch()))
    return found
  }
}
