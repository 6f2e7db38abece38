import { type Y4mHead, frameMark, readY4mHead, rgbMatrixWord } from '../../core/planes/y4m'

/** Takes bytes; false once nothing more is wanted. */
type Sink = (bytes: Uint8Array) => boolean

/** Between what the toolkit writes and says, and whoever reads it: each piece comes with the time that was said of it. */
export interface TimedStream {
  /** A line that the toolkit said. */
  heard(line: string): void
  /** What it wrote. @returns false once nothing more is wanted */
  write(bytes: Uint8Array): boolean
}

const timeBaseSaid = /config in time_base:\s*(\d+)\/(\d+)/
/** Of sound the clock is its sample rate, said in the same line. */
const pieceSaid = /Parsed_a?showinfo.*?\bn:\s*\d+\s+pts:\s*(-?\d+|NOPTS)(?:.*\brate:(\d+))?/

/** The times that the toolkit's filters tell of what passes through them, in seconds; NaN where it has none. */
export function toldTimes() {
  let unit = NaN
  const times: number[] = []
  return {
    heard(line: string) {
      const base = timeBaseSaid.exec(line)
      if (base) unit = Number(base[1]) / Number(base[2])
      const piece = pieceSaid.exec(line)
      if (piece) times.push(piece[2] ? Number(piece[1]) / Number(piece[2]) : Number(piece[1]) * unit)
    },
    /** The time of the next piece. */
    next: () => times.shift() ?? NaN,
  }
}

/** A stream of pictures that is stored as red, green and blue, as the toolkit tells of its input, and the matrix that it is tagged with. */
const rgbSaid =
  /Stream #0:\d+.*: Video: .*, (?:gbra?p|rgb|bgr|argb|abgr|0rgb|0bgr|x2rgb|x2bgr|pal8)\w*(?:[ ,]|\((?:(?:pc|tv), )?(\w+)?)/
/** What the toolkit turns red, green and blue by: the matrix of the tag, and BT.601 where it is none. */
const turnedBy: Readonly<Record<string, string>> = { bt709: 'bt709', bt2020nc: 'bt2020' }

const asBytes = (time: number) => new Uint8Array(Float64Array.of(time).buffer)

/**
 * A YUV4MPEG2 stream whose frames are told about by the filter `showinfo`: its head goes on as it is, and before the samples
 * of each frame stands its time (a double, in seconds) in place of the line that the format has there. What was red, green and blue is
 * told to be so in its head: by which matrix it was turned is not said otherwise.
 */
export function timedFrames(sink: Sink): TimedStream {
  const { heard, next } = toldTimes()
  let rgbMatrix: string | null = null
  let head: Y4mHead | null = null
  /** The line that is being read; null while samples pass. */
  let line: number[] | null = []
  let left = 0
  return {
    heard(line) {
      const rgb = rgbSaid.exec(line)
      if (rgb) rgbMatrix ??= turnedBy[rgb[1] ?? ''] ?? 'bt601-525'
      heard(line)
    },
    write(bytes) {
      for (let at = 0; at < bytes.length;) {
        if (line === null) {
          const part = bytes.subarray(at, at + left)
          if (!sink(part)) return false
          at += part.length
          left -= part.length
          if (left === 0) line = []
          continue
        }
        const end = bytes.indexOf(10, at)
        const till = end < 0 ? bytes.length : end + 1
        line.push(...bytes.subarray(at, till))
        at = till
        if (end < 0) continue
        const whole: Uint8Array = Uint8Array.from(line)
        if (!head) {
          const read = readY4mHead(whole)
          if ('wrong' in read) throw new Error(read.wrong)
          head = read
          line = []
          const matrix = rgbMatrix
            ? new TextEncoder().encode(
                new TextDecoder().decode(whole).replace('\n', ` ${rgbMatrixWord}${rgbMatrix}\n`),
              )
            : whole
          if (!sink(matrix)) return false
          continue
        }
        if (!new TextDecoder('latin1').decode(whole).startsWith(frameMark))
          throw new Error('a frame does not begin where it should')
        if (!sink(asBytes(next()))) return false
        left = head.frameBytes
        line = null
      }
      return true
    },
  }
}

/** Samples of sound that the filter `ashowinfo` tells about: before all of them stands the time of the first. */
export function timedSound(sink: Sink): TimedStream {
  const { heard, next } = toldTimes()
  let begun = false
  return {
    heard,
    write(bytes) {
      if (!begun && !sink(asBytes(next()))) return false
      begun = true
      return sink(bytes)
    },
  }
}
