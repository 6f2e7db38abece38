import type { Planes, Samples } from '../planes/planes'
import type { Meaning } from '../planes/screen'
import type { Rotation } from '../picture/turn'
import type { ChromaSiting } from '../resample/picture'
import type { Siting } from '../resample/taps'
import type { Sides } from '../treatment/treatment'

/** A picture as it is stored, with what its samples mean and where its chroma lies. */
export interface StoredPicture {
  readonly planes: Planes
  readonly meaning: Meaning
  readonly siting: ChromaSiting
  /** How many samples its chroma has, where that does not follow from its size: a crop keeps what stands for cut pixels too. */
  readonly chroma?: ChromaSize
}

/** Samples of a plane of chroma beside and above each other. */
export interface ChromaSize {
  readonly width: number
  readonly height: number
}

/** How many samples the chroma of a picture has. */
export const chromaSizeOf = ({ planes, chroma }: Pick<StoredPicture, 'planes' | 'chroma'>): ChromaSize =>
  chroma ?? {
    width: Math.ceil(planes.width / planes.across),
    height: Math.ceil(planes.height / planes.down),
  }

/** Does something with every plane of a picture: those of luma's size, and those of chroma's. */
export const eachPlane = (planes: Planes, large: (samples: Samples) => Samples, small: typeof large) => ({
  luma: large(planes.luma),
  chroma: planes.chroma && { cb: small(planes.chroma.cb), cr: small(planes.chroma.cr) },
  alpha: planes.alpha && large(planes.alpha),
})

/** Room for as many samples as told, of the kind that is given. */
export const roomFor = (count: number, like: Samples): Samples =>
  like instanceof Uint8Array ? new Uint8Array(count) : new Uint16Array(count)

/** Where chroma lies seen from the other end of an axis of so many luma samples. */
function fromTheEnd({ every, halves }: Siting, length: number): Siting {
  const last = every * (Math.ceil(length / every) - 1)
  return { every, halves: 2 * (length - last) - halves }
}

/** A picture turned clockwise by quarters: no sample is changed. */
export function turned(picture: StoredPicture, turn: Rotation): StoredPicture {
  if (turn === 0) return picture
  const { planes, siting } = picture
  const { width, height, across, down } = planes
  const isQuarter = turn !== 180
  const large = (samples: Samples) => turnedPlane(samples, width, height, turn)
  const small = (samples: Samples) =>
    turnedPlane(samples, Math.ceil(width / across), Math.ceil(height / down), turn)
  const [flippedAcross, flippedDown] = [fromTheEnd(siting.across, width), fromTheEnd(siting.down, height)]
  return {
    ...picture,
    planes: {
      bitDepth: planes.bitDepth,
      width: isQuarter ? height : width,
      height: isQuarter ? width : height,
      across: isQuarter ? down : across,
      down: isQuarter ? across : down,
      ...eachPlane(planes, large, small),
    },
    siting:
      turn === 90
        ? { across: flippedDown, down: siting.across }
        : turn === 180
          ? { across: flippedAcross, down: flippedDown }
          : { across: siting.down, down: flippedAcross },
  }
}

function turnedPlane(samples: Samples, width: number, height: number, turn: 90 | 180 | 270): Samples {
  const turnedSamples = roomFor(samples.length, samples)
  const [first, right, lower] =
    turn === 90
      ? [height - 1, height, -1]
      : turn === 180
        ? [width * height - 1, -1, -width]
        : [(width - 1) * height, -height, 1]
  for (let y = 0, from = 0; y < height; y++)
    for (let x = 0, to = first + y * lower; x < width; x++, to += right)
      turnedSamples[to] = samples[from++] as number
  return turnedSamples
}

/** Whole pixels of a picture that a crop leaves, as its edges are clamped: those that are cut in part stay. */
export interface Cropped extends StoredPicture {
  /** Pixels that were taken off on the left and on the top. */
  readonly left: number
  readonly top: number
}

const countIn = ([from, to]: readonly [number, number]): number => to - from

/** What a crop leaves of a picture; at least a pixel stays. */
export function cropped(picture: StoredPicture, crop: Sides): Cropped {
  const { planes, siting } = picture
  const { width, height, across, down } = planes
  const left = Math.min(width - 1, Math.floor(crop.left))
  const top = Math.min(height - 1, Math.floor(crop.top))
  const right = Math.max(left + 1, Math.ceil(width - crop.right))
  const bottom = Math.max(top + 1, Math.ceil(height - crop.bottom))
  if (left === 0 && top === 0 && right === width && bottom === height) return { ...picture, left, top }
  const span = (every: number, from: number, to: number) =>
    [Math.floor(from / every), Math.ceil(to / every)] as const
  const cut = (every: number, lines: number) => (samples: Samples) => {
    const [from, to] = span(every, left, right)
    const [first, last] = span(lines, top, bottom)
    const stride = Math.ceil(width / every)
    const croppedSamples = roomFor((to - from) * (last - first), samples)
    for (let y = first; y < last; y++)
      croppedSamples.set(samples.subarray(y * stride + from, y * stride + to), (y - first) * (to - from))
    return croppedSamples
  }
  // Chroma that stands for a pixel which is cut off, and for its neighbour which is not, stays and lies further out.
  const moved = ({ every, halves }: Siting, by: number) => ({ every, halves: halves - 2 * (by % every) })
  return {
    ...picture,
    planes: {
      bitDepth: planes.bitDepth,
      width: right - left,
      height: bottom - top,
      across,
      down,
      ...eachPlane(planes, cut(1, 1), cut(across, down)),
    },
    siting: { across: moved(siting.across, left), down: moved(siting.down, top) },
    chroma: { width: countIn(span(across, left, right)), height: countIn(span(down, top, bottom)) },
    left,
    top,
  }
}
