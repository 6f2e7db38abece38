/** How the samples of a DPX lie in it (SMPTE ST 268-1 §5.4, Table 1). */
export interface DpxLayout {
  readonly width: number
  readonly height: number
  /** 8, 10, 12 or 16. */
  readonly bitDepth: number
  /** What one sample set holds, in the order stored; two of them share their chroma in 4:2:2. */
  readonly parts: readonly ('r' | 'g' | 'b' | 'a' | 'y' | 'cb' | 'cr')[]
  /** How many pixels one sample set is for. */
  readonly pixels: 1 | 2
  readonly offset: number
  readonly lineBytes: number
  /** Takes the samples of one line apart. @param line so many bytes as a line has @param into as many places as it has samples */
  unpack(line: DataView, into: Uint16Array): void
}

const rgb = ['r', 'g', 'b'] as const
const sets: Readonly<Record<number, Pick<DpxLayout, 'parts' | 'pixels'>>> = {
  6: { parts: ['y'], pixels: 1 },
  50: { parts: rgb, pixels: 1 },
  51: { parts: [...rgb, 'a'], pixels: 1 },
  52: { parts: ['a', 'b', 'g', 'r'], pixels: 1 },
  100: { parts: ['cb', 'y', 'cr', 'y'], pixels: 2 },
  102: { parts: ['cb', 'y', 'cr'], pixels: 1 },
}

type Unpack = DpxLayout['unpack']

/** Three samples of ten bits in a word, the first highest: two bits are left over below (method A) or above (B). */
const tenFilled =
  (isLittle: boolean, lowest: number): Unpack =>
  (line, into) => {
    for (let i = 0, at = 0; i < into.length; at += 4) {
      const word = line.getUint32(at, isLittle) >>> lowest
      into[i++] = (word >>> 20) & 1023
      if (i < into.length) into[i++] = (word >>> 10) & 1023
      if (i < into.length) into[i++] = word & 1023
    }
  }

/** A sample in each word of sixteen bits, those that are left over below it. */
const sixteen =
  (isLittle: boolean, lowest: number, mask: number): Unpack =>
  (line, into) => {
    for (let i = 0; i < into.length; i++) into[i] = (line.getUint16(2 * i, isLittle) >>> lowest) & mask
  }

/** Samples one after the other through words of 32 bits, from the lowest bit on. */
const packed =
  (isLittle: boolean, bits: number): Unpack =>
  (line, into) => {
    const mask = 2 ** bits - 1
    for (let i = 0; i < into.length; i++) {
      const [word, shift] = [Math.floor((i * bits) / 32) * 4, (i * bits) % 32]
      let value = line.getUint32(word, isLittle) >>> shift
      if (shift + bits > 32) value |= line.getUint32(word + 4, isLittle) << (32 - shift)
      into[i] = value & mask
    }
  }

const eight: Unpack = (line, into) => {
  for (let i = 0; i < into.length; i++) into[i] = line.getUint8(i)
}

/**
 * How the samples of a DPX lie; null where they are run-length coded, signed, floating or of a kind that is not known here.
 * @param header the first 2048 bytes
 * @param sizeBytes of the file: some writers begin each line at a word, some do not
 */
export function dpxLayout(header: Uint8Array, sizeBytes: number): DpxLayout | null {
  if (header.length < 820) return null
  const view = new DataView(header.buffer, header.byteOffset, header.length)
  const isLittle = view.getUint8(0) === 0x58
  const u32 = (at: number) => view.getUint32(at, isLittle)
  const [width, height, offset] = [u32(772), u32(776), u32(4)]
  const [descriptor, bitDepth] = [view.getUint8(800), view.getUint8(803)]
  const [packing, encoding] = [view.getUint16(804, isLittle), view.getUint16(806, isLittle)]
  const set = sets[descriptor]
  if (!set || view.getUint16(770, isLittle) !== 1 || encoding === 1 || u32(780) === 1) return null
  const samples = Math.ceil(width / set.pixels) * set.parts.length
  const plain = bytesOfLine(samples, bitDepth, packing)
  const unpack = unpackOf(isLittle, bitDepth, packing)
  if (!unpack || plain === null || width === 0 || height === 0) return null
  const inWords = 4 * Math.ceil(plain / 4)
  const lineBytes = offset + inWords * height <= sizeBytes ? inWords : plain
  if (offset + lineBytes * height > sizeBytes) return null
  return { width, height, bitDepth, ...set, offset, lineBytes, unpack }
}

function bytesOfLine(samples: number, bits: number, packing: number): number | null {
  if (bits === 8) return samples
  if (bits === 16) return 2 * samples
  if (packing === 0) return 4 * Math.ceil((samples * bits) / 32)
  return bits === 10 ? 4 * Math.ceil(samples / 3) : bits === 12 ? 2 * samples : null
}

function unpackOf(isLittle: boolean, bits: number, packing: number): Unpack | null {
  if (bits === 8) return eight
  if (bits === 16) return sixteen(isLittle, 0, 0xffff)
  if (bits !== 10 && bits !== 12) return null
  if (packing === 0) return packed(isLittle, bits)
  if (packing > 2) return null
  return bits === 10
    ? tenFilled(isLittle, packing === 1 ? 2 : 0)
    : sixteen(isLittle, packing === 1 ? 4 : 0, 0xfff)
}
